"""Text from outside, made safe once, on the way in: what is kept can stand in any file, list, drawing or file name.

One line has no control signs, no signs that turn the direction of writing, no halves of letters. A file name has,
beside that, no folder in it, nothing that any common file system forbids, and room for a number behind it.
"""

import re
import unicodedata
from typing import Any

from pydantic import BeforeValidator

LONGEST_FILE_NAME = 120
# These join letters and pictures; everything else that is invisible goes.
_JOINERS = "\u200c\u200d"
_DROPPED = ("Cc", "Cf", "Cs", "Co", "Cn")
_SPACES = ("Zl", "Zp")
_FORBIDDEN = re.compile(r'[<>:"/\\|?*]')
_RESERVED = re.compile(r"^(?:con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])$", re.IGNORECASE)


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


def is_plain(text: str) -> bool:
    """Whether all signs of a text are visible ones, plain spaces among them."""
    return all(sign in _JOINERS or unicodedata.category(sign) not in (*_DROPPED, *_SPACES) for sign in text)


def safe_file_name(name: str, otherwise: str = "art") -> str:
    """A name that a file can have anywhere: at most `LONGEST_FILE_NAME` letters, its ending kept.

    Examples
    --------
    >>> safe_file_name("C:\\\\club\\\\tern.png")
    'tern.png'
    >>> safe_file_name("a|b?.svg")
    'a-b-.svg'
    >>> safe_file_name("nul.png")
    '_nul.png'
    """
    base = one_line(name).replace("\\", "/").rpartition("/")[2]
    base = _FORBIDDEN.sub("-", base).strip(" .")
    stem, dot, ending = base.rpartition(".") if "." in base else (base, "", "")
    stem, ending = stem.strip(" .") or otherwise, ending[:10]
    if _RESERVED.match(stem.partition(".")[0]):
        stem = f"_{stem}"
    return stem[: LONGEST_FILE_NAME - len(dot) - len(ending)].strip(" .") + dot + ending


def _cleaned(value: Any) -> Any:
    return one_line(value) if isinstance(value, str) else value


# Beside the other limits of a field that is one line of text.
ONE_LINE = BeforeValidator(_cleaned)
