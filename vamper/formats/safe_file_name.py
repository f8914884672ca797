"""Names for files that go out: no folder in them, nothing that any common file system forbids, room for a number."""

import re

from vamper.core.values.text import one_line

LONGEST_FILE_NAME = 120
_FORBIDDEN = re.compile(r'[<>:"/\\|?*]')
_RESERVED = re.compile(r"^(?:con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])$", re.IGNORECASE)


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
