"""All that a maker reads: text in Python, in tables and in the front end, with where it stands.

What counts as read by a maker is told by its form: two words or more, no code, no docstring, no address. Placeholders
of a sentence stand as `{…}`.
"""

import ast
import re
import tomllib
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[2]
_PYTHON = ("vamper/core", "vamper/services", "vamper/api", "vamper/formats", "vamper/cli")
_FRONT_END = "ui/src"
# Text that only a programmer meets.
_NOT_READ = re.compile(
    r"^[\w./{}…-]+$|^\s*[{(\[<#@/]|^(SELECT|PRAGMA|M \d)|^[a-z-]+(\s[a-z-]+:|:[a-z])|=\"|;\s*$|^\W*$"
    r"|_mm\b|\{…\}[a-z]\d|^M ?\{…\}|\[\d|var\(|-\[|\w:\w+-|calc\(|^(id|key|from|for|of) \{…\}$"
)
_CLASSES = re.compile(
    r"(^|\s)(flex|grid|text-|bg-|px-|py-|p-|m-|mt-|mb-|ml-|w-|h-|gap-|max-|min-|rounded|absolute|relative|fill-|stroke-"
    r"|sr-only|block|inline|items-|justify-|overflow|font-|leading-|pointer|cursor|list-|align-)"
)
_JSX_TEXT = re.compile(r">([^<>{}]*[A-Za-z][^<>{}]*)<")
_TS_STRING = re.compile(r"'((?:[^'\\\n]|\\.)*)'|`((?:[^`\\]|\\.)*)`")


@dataclass(frozen=True, slots=True)
class Said:
    """A sentence, its file under the checkout, and the line it begins on."""

    text: str
    file: str
    line: int

    @property
    def place(self) -> str:
        """The station or floor that says it: `core/art`, `ui/stations/cut`."""
        parts = Path(self.file).parts
        if parts[0] == "ui":
            return "/".join(("ui", *parts[2:4])) if parts[2] == "stations" else "/".join(("ui", parts[2]))
        return "/".join(parts[1:3]) if len(parts) > 3 else parts[1]


def sentences() -> list[Said]:
    """Every sentence of the checkout, by place, file and line."""
    found = [said for folder in _PYTHON for path in sorted((ROOT / folder).rglob("*.py")) for said in _of_python(path)]
    found += [said for path in sorted((ROOT / "vamper").rglob("*.toml")) for said in _of_table(path)]
    found += [
        said
        for path in sorted((ROOT / _FRONT_END).rglob("*.ts*"))
        if not path.name.endswith((".test.ts", ".d.ts"))
        for said in _of_front_end(path)
    ]
    return sorted(found, key=lambda said: (said.place, said.file, said.line))


def _is_read(text: str) -> bool:
    return len(text.split()) > 1 and not _NOT_READ.search(text) and not _CLASSES.search(text)


def _said(text: str, path: Path, line: int) -> Iterator[Said]:
    text = " ".join(text.split())
    if _is_read(text):
        yield Said(text, str(path.relative_to(ROOT)), line)


def _of_python(path: Path) -> Iterator[Said]:
    tree = ast.parse(path.read_text())
    notes = {
        id(node.body[0].value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef)
        and node.body
        and isinstance(node.body[0], ast.Expr)
    }
    # A string by itself says what stands before it.
    notes |= {id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr)}
    inner = {id(part) for node in ast.walk(tree) if isinstance(node, ast.JoinedStr) for part in ast.walk(node)} - {
        id(node) for node in ast.walk(tree) if isinstance(node, ast.JoinedStr)
    }
    for node in ast.walk(tree):
        if id(node) in notes or id(node) in inner:
            continue
        if isinstance(node, ast.Constant) and isinstance(node.value, str):
            yield from _said(node.value, path, node.lineno)
        elif isinstance(node, ast.JoinedStr):
            whole = "".join(part.value if isinstance(part, ast.Constant) else "{…}" for part in node.values)
            yield from _said(whole, path, node.lineno)


def _of_table(path: Path) -> Iterator[Said]:
    lines = path.read_text().splitlines()

    def texts(value: object) -> Iterator[str]:
        if isinstance(value, str):
            yield value
        elif isinstance(value, dict):
            for one in value.values():
                yield from texts(one)
        elif isinstance(value, list):
            for one in value:
                yield from texts(one)

    for text in texts(tomllib.loads(path.read_text())):
        start = next((n for n, line in enumerate(lines, 1) if text.split("\n")[0][:40] in line), 1)
        yield from _said(text, path, start)


def _of_front_end(path: Path) -> Iterator[Said]:
    code = re.sub(
        r"/\*.*?\*/|^\s*//.*$", lambda note: "\n" * note.group().count("\n"), path.read_text(), flags=re.S | re.M
    )
    code = re.sub(r"^import .*?;$", lambda note: "\n" * note.group().count("\n"), code, flags=re.S | re.M)
    found = [(match.start(1), match.group(1)) for match in _JSX_TEXT.finditer(code)]
    found += [
        (match.start(), match.group(1) or re.sub(r"\$\{[^}]*\}", "{…}", match.group(2) or ""))
        for match in _TS_STRING.finditer(code)
    ]
    for at, text in sorted(found):
        if not re.search(r"=>|\)\s*:|&&|\|\||===|\bconst\b|\breturn\b", text):
            yield from _said(text, path, code.count("\n", 0, at) + 1)
