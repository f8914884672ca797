"""The web interface: one router per subject, Pydantic schemas, problems as sentences, events for progress."""
