"""The drawings of the lessons, as files of a job."""

from importlib import resources


def lesson_art(name: str) -> bytes:
    """A drawing by its file name."""
    return (resources.files(__package__) / name).read_bytes()
