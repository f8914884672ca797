"""Deliberate faults in core's rules: one small change each, as a person might make it by mistake.

A fault is made on the source of a module: a comparison the other way, a sum for a difference, a constant off by a
third, an `and` for an `or`, a condition turned round, a smaller for a larger. Docstrings, sentences and the names of
things are left alone, and so is what no rule is in: the place of a kind in a list, and where the parts of a drawing
lie. The faults of a module are the same in every run.
"""

import ast
import random
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[2]

_COMPARED: dict[type[ast.cmpop], type[ast.cmpop]] = {
    ast.Lt: ast.GtE,
    ast.LtE: ast.Gt,
    ast.Gt: ast.LtE,
    ast.GtE: ast.Lt,
    ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.Is: ast.IsNot,
    ast.IsNot: ast.Is,
    ast.In: ast.NotIn,
    ast.NotIn: ast.In,
}
_WORKED: dict[type[ast.operator], type[ast.operator]] = {
    ast.Add: ast.Sub,
    ast.Sub: ast.Add,
    ast.Mult: ast.Div,
    ast.Div: ast.Mult,
}
# Where a kind is listed, and what guards against mistakes of ours.
_NO_RULES = ("place", "strict")
# What a function that only draws says it gives back.
_DRAWN = ("Drawing", "list[Stroke]")
# What is no larger guards against rounding; a third more of it guards as well.
_ROUNDING = 1e-5
_CALLED = {"min": "max", "max": "min", "any": "all", "all": "any"}


@dataclass(frozen=True)
class Fault:
    """One change: where it is, and what it makes of what. `function` is empty outside of any."""

    module: str
    number: int
    line: int
    function: str
    what: str


class _Making(ast.NodeTransformer):
    """Walks a module; makes the fault of one number, or only counts and names them all."""

    def __init__(self, make: int | None) -> None:
        self.make = make
        self.found: list[tuple[int, str]] = []

    def _here(self, node: ast.AST, what: str) -> bool:
        self.found.append((getattr(node, "lineno", 0), what))
        return self.make == len(self.found) - 1

    def visit_JoinedStr(self, node: ast.JoinedStr) -> ast.AST:
        return node

    def visit_AnnAssign(self, node: ast.AnnAssign) -> ast.AST:
        if node.value is not None:
            node.value = self.visit(node.value)
        return node

    def visit_ClassDef(self, node: ast.ClassDef) -> ast.AST:
        # How a class is made is no rule.
        node.body = [self.visit(one) for one in node.body]
        return node

    def visit_keyword(self, node: ast.keyword) -> ast.AST:
        if node.arg not in _NO_RULES:
            node.value = self.visit(node.value)
        return node

    def visit_Assign(self, node: ast.Assign) -> ast.AST:
        kind = node.value
        if ast.unparse(node.targets[0]) == "KIND" and isinstance(kind, ast.Call):
            # A kind's second word is its place in the list.
            kind.args = [one if n == 1 else self.visit(one) for n, one in enumerate(kind.args)]
            kind.keywords = [self.visit(one) for one in kind.keywords]
        else:
            node.value = self.visit(node.value)
        return node

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        if node.returns is not None and ast.unparse(node.returns) in _DRAWN:
            return node
        node.body = [self.visit(one) for one in node.body]
        node.args.defaults = [self.visit(one) for one in node.args.defaults]
        return node

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        self.generic_visit(node)
        other = _COMPARED.get(type(node.ops[0]))
        if other and self._here(node, f"{type(node.ops[0]).__name__} → {other.__name__}"):
            node.ops[0] = other()
        return node

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        self.generic_visit(node)
        text = any(isinstance(side, ast.JoinedStr | ast.Constant) and isinstance(getattr(side, "value", ""), str)
                   for side in (node.left, node.right))  # fmt: skip
        other = None if text else _WORKED.get(type(node.op))
        if other and self._here(node, f"{type(node.op).__name__} → {other.__name__}"):
            node.op = other()
        return node

    def visit_BoolOp(self, node: ast.BoolOp) -> ast.AST:
        self.generic_visit(node)
        other = ast.Or if isinstance(node.op, ast.And) else ast.And
        if self._here(node, f"{type(node.op).__name__} → {other.__name__}"):
            node.op = other()
        return node

    def visit_UnaryOp(self, node: ast.UnaryOp) -> ast.AST:
        self.generic_visit(node)
        if isinstance(node.op, ast.Not) and self._here(node, "not dropped"):
            return node.operand
        return node

    def visit_IfExp(self, node: ast.IfExp) -> ast.AST:
        if any(isinstance(side, ast.JoinedStr) for side in (node.body, node.orelse)):
            return node
        self.generic_visit(node)
        strings = any(
            isinstance(side, ast.Constant) and isinstance(side.value, str) for side in (node.body, node.orelse)
        )
        if not strings and self._here(node, "the other choice"):
            node.body, node.orelse = node.orelse, node.body
        return node

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        if isinstance(node.value, bool):
            if self._here(node, f"{node.value} → {not node.value}"):
                return ast.copy_location(ast.Constant(not node.value), node)
        elif isinstance(node.value, int | float) and node.value not in (0, 1, 2, -1) and abs(node.value) > _ROUNDING:
            # A thing more of a few, or a third more of many.
            other = node.value * 4 / 3 if isinstance(node.value, float) else node.value + max(1, node.value // 3)
            if self._here(node, f"{node.value:g} → {other:g}"):
                return ast.copy_location(ast.Constant(other), node)
        return node

    def visit_Call(self, node: ast.Call) -> ast.AST:
        if isinstance(node.func, ast.Name) and node.func.id == "round":
            # How many digits a sentence has is no rule.
            node.args[0] = self.visit(node.args[0])
            return node
        self.generic_visit(node)
        name = node.func.id if isinstance(node.func, ast.Name) else ""
        if name in _CALLED and self._here(node, f"{name} → {_CALLED[name]}"):
            node.func = ast.copy_location(ast.Name(_CALLED[name], ast.Load()), node.func)
        return node


def _source(module: str) -> str:
    return (ROOT / (module.replace(".", "/") + ".py")).read_text()


def faults_of(module: str, most: int, seed: int = 1) -> Iterator[Fault]:
    """Some of a module's faults, chosen by the seed."""
    making, tree = _Making(None), ast.parse(_source(module))
    # Faults are found in a tree of their own: looking changes one.
    making.visit(ast.parse(_source(module)))
    numbers = list(range(len(making.found)))
    for number in sorted(random.Random(f"{module}{seed}").sample(numbers, min(most, len(numbers)))):
        line, what = making.found[number]
        yield Fault(module, number, line, _function_at(tree, line), what)


def _function_at(tree: ast.AST, line: int, within: str = "") -> str:
    """The name of the innermost function or class round a line, with those it is in."""
    for node in ast.iter_child_nodes(tree):
        if isinstance(node, ast.FunctionDef | ast.ClassDef) and node.lineno <= line <= (node.end_lineno or 0):
            name = f"{within}.{node.name}".lstrip(".")
            return _function_at(node, line, name)
    return within


def with_fault(module: str, number: int) -> ast.Module:
    """The module's tree with one fault in it."""
    tree = _Making(number).visit(ast.parse(_source(module)))
    return ast.fix_missing_locations(tree)
