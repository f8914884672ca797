"""That something is not in the workshop."""


class NotFound(LookupError):
    """There is no such thing in the workshop; the message is a sentence for people."""
