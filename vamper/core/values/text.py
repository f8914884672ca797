"""Text of one line: no control signs, no signs that turn the direction of writing, no halves of letters."""

import unicodedata
from functools import lru_cache

# These join letters and pictures; everything else that is invisible goes.
_JOINERS = "\u200c\u200d"
_DROPPED = ("Cc", "Cf", "Cs", "Co", "Cn")
_SPACES = ("Zl", "Zp")


def one_line(text: str) -> str:
    """The text as one line of visible signs."""
    kept = []
    for sign in unicodedata.normalize("NFC", text):
        category = unicodedata.category(sign)
        if sign.isspace() or category in _SPACES:
            kept.append(" ")
        elif category not in _DROPPED or sign in _JOINERS:
            kept.append(sign)
    return " ".join("".join(kept).split())


@lru_cache(maxsize=4096)
def is_plain(text: str) -> bool:
    """Whether all signs of a text are visible, plain spaces among them."""
    return all(sign in _JOINERS or unicodedata.category(sign) not in (*_DROPPED, *_SPACES) for sign in text)
