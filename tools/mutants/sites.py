"""Where a fault can be put, and the source with it in: operators, comparisons, signs, constants, and the two words not and or."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

SWAPS: dict[type[ast.AST], type[ast.AST]] = {
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.FloorDiv: ast.Mult, ast.Mod: ast.Mult,
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq, ast.Is: ast.IsNot,
    ast.IsNot: ast.Is, ast.In: ast.NotIn, ast.NotIn: ast.In, ast.And: ast.Or, ast.Or: ast.And,
}  # fmt: skip
TURNED: dict[type[ast.AST], type[ast.AST]] = {ast.Lt: ast.Gt, ast.LtE: ast.GtE, ast.Gt: ast.Lt, ast.GtE: ast.LtE}


@dataclass(frozen=True)
class Site:
    """A fault: file, line, what it does, and the whole source with it in."""

    path: Path
    line: int
    was: str
    becomes: str
    source: str

    @property
    def name(self) -> str:
        """The fault in a line."""
        return f"{self.path}:{self.line}: {self.was}  ->  {self.becomes}"

    @property
    def text(self) -> str:
        """The fault wherever its line has moved to, as a judgement names it."""
        return f"{self.path}: {self.was}  ->  {self.becomes}"


def sites_in(path: Path, root: Path) -> list[Site]:
    """Every fault that can be put into a file."""
    text = path.read_text("utf-8")
    tree = ast.parse(text)
    return [
        Site(path.relative_to(root), node.lineno, ast.unparse(node), ast.unparse(changed), _with(text, node, changed))
        for node in _worth_it(tree)
        for changed in _changes(node)
    ]


def _worth_it(tree: ast.AST) -> Iterator[ast.expr]:
    """Expressions that run: no annotations, no docstrings, nothing that is only for the type checker."""
    for node in ast.iter_child_nodes(tree):
        if _only_said(node):
            continue
        if isinstance(node, ast.expr):
            yield node
        for part in _parts(node):
            yield from _worth_it(ast.Module([part], []))  # type: ignore[list-item]  # only walked, never compiled


def _only_said(node: ast.AST) -> bool:
    """Words, what the code only says to itself, and what is for the type checker."""
    if isinstance(node, ast.If):
        return "TYPE_CHECKING" in ast.dump(node.test)
    return isinstance(node, (ast.JoinedStr, ast.Assert)) or (
        isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)
    )


def _parts(node: ast.AST) -> list[ast.AST]:
    """What of a node runs: of a function its defaults and its body, of an annotated name its value."""
    if isinstance(node, ast.arguments):
        return [*node.defaults, *(d for d in node.kw_defaults if d is not None)]
    if isinstance(node, ast.AnnAssign):
        return [] if node.value is None else [node.value]
    if isinstance(node, ast.FunctionDef):
        return [*node.body, node.args]
    if isinstance(node, ast.ClassDef):
        return list(node.body)
    return list(ast.iter_child_nodes(node))


def _changes(node: ast.expr) -> list[ast.expr]:
    if isinstance(node, ast.BinOp) and type(node.op) in SWAPS and not _words(node):
        return [ast.BinOp(node.left, SWAPS[type(node.op)](), node.right)]  # type: ignore[arg-type]  # an operator for an operator
    if isinstance(node, ast.Compare) and len(node.ops) == 1:
        kinds = [SWAPS[type(node.ops[0])], TURNED.get(type(node.ops[0]))]
        return [ast.Compare(node.left, [k()], node.comparators) for k in kinds if k is not None]  # type: ignore[list-item]  # likewise
    if isinstance(node, ast.BoolOp):
        return [ast.BoolOp(SWAPS[type(node.op)](), node.values)]  # type: ignore[arg-type]  # likewise
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, (ast.USub, ast.Not)):
        return [node.operand]
    if isinstance(node, ast.Constant) and type(node.value) in (int, float):
        return [ast.Constant(node.value + 1 if type(node.value) is int else node.value * 1.5 if node.value else 1.0)]
    if isinstance(node, ast.Constant) and isinstance(node.value, bool):
        return [ast.Constant(not node.value)]
    return []


def _words(node: ast.BinOp) -> bool:
    """A sum of words is no sum."""
    return any(
        isinstance(n, ast.JoinedStr) or isinstance(n, ast.Constant) and isinstance(n.value, str) for n in ast.walk(node)
    )


def _with(text: str, node: ast.expr, changed: ast.expr) -> str:
    lines = text.splitlines(keepends=True)
    assert node.end_lineno is not None and node.end_col_offset is not None
    first, last = lines[node.lineno - 1].encode(), lines[node.end_lineno - 1].encode()
    head, tail = first[: node.col_offset].decode(), last[node.end_col_offset :].decode()
    body = f"({ast.unparse(changed)})" + "\n" * 0
    return "".join(lines[: node.lineno - 1]) + head + body + tail + "".join(lines[node.end_lineno :])
