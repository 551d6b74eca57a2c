"""Draw docs/architecture.md's pictures from the code: which package leans on which, and what each is for.

``python -m tools.architecture`` writes the file anew; a test holds it against the code. A line is drawn from each package to the ones
it leans on and that nothing between them leans on already.
"""

from __future__ import annotations

import ast
from pathlib import Path

ROOT = Path(__file__).parent.parent
SOURCE = ROOT / "redline_bore"
TARGET = ROOT / "docs" / "architecture.md"
BEGIN, END = "<!-- drawn: {} -->", "<!-- /drawn -->"


def part_of(module: str, inside: str) -> str:
    """The package or module directly under ``inside`` that a module belongs to; empty: it lies elsewhere."""
    dots = module.split(".")
    depth = len(inside.split("."))
    return dots[depth] if module.startswith(f"{inside}.") else ""


def modules(inside: str) -> dict[str, list[Path]]:
    """The files of every part of ``inside`` (a dotted package)."""
    folder = ROOT.joinpath(*inside.split("."))
    found: dict[str, list[Path]] = {}
    for path in sorted(folder.rglob("*.py")):
        dotted = ".".join(path.relative_to(ROOT).with_suffix("").parts).removesuffix(".__init__")
        if part := part_of(dotted, inside):
            found.setdefault(part, []).append(path)
    return found


def leans_on(inside: str) -> dict[str, set[str]]:
    """For every part of ``inside`` the other parts that it imports, at the top or when needed."""
    found: dict[str, set[str]] = {}
    for part, paths in modules(inside).items():
        found[part] = set()
        for path in paths:
            for node in ast.walk(ast.parse(path.read_text("utf-8"))):
                names = (
                    [f"{node.module}.{a.name}" for a in node.names]
                    if isinstance(node, ast.ImportFrom) and node.module
                    else []
                )
                names += [a.name for a in node.names] if isinstance(node, ast.Import) else []
                found[part] |= {other for name in names if (other := part_of(name, inside))}
        found[part] -= {part}
    return {part: others & set(found) for part, others in found.items()}


def reach(graph: dict[str, set[str]], part: str) -> set[str]:
    """Every part that a part leans on, through others too."""
    found: set[str] = set()
    waiting = list(graph[part])
    while waiting:
        other = waiting.pop()
        if other not in found:
            found.add(other)
            waiting += graph[other]
    return found


def levels(graph: dict[str, set[str]]) -> dict[str, int]:
    """The height of every part: one more than the highest it leans on. Raises ValueError where parts lean on each other."""
    far = {part: reach(graph, part) for part in graph}
    if circle := sorted(part for part in graph if part in far[part]):
        raise ValueError(f"These lean on each other: {', '.join(circle)}")
    height: dict[str, int] = {}
    for part in sorted(graph, key=lambda p: len(far[p])):
        height[part] = 1 + max((height[o] for o in graph[part]), default=0)
    return height


def drawn(inside: str) -> str:
    """The picture of a package: a row a level, the highest first, and under it what each leans on."""
    graph = leans_on(inside)
    height = levels(graph)
    lines = ["```"]
    for level in range(max(height.values()), 0, -1):
        row = sorted(p for p in graph if height[p] == level)
        lines.append(f"{level:>2}  " + "   ".join(f"[{p}]" for p in row))
        for part in row:
            near = {o for o in graph[part] if not any(o in reach(graph, between) for between in graph[part] - {o})}
            if near:
                lines.append(f"      {part} -> {', '.join(sorted(near))}")
    lines.append("```")
    lines += ["", "| part | what it is |", "|---|---|"]
    lines += [f"| {part} | {_what(inside, part)} |" for part in sorted(graph, key=lambda p: (-height[p], p))]
    return "\n".join(lines)


def _what(inside: str, part: str) -> str:
    folder = ROOT.joinpath(*inside.split("."), part)
    path = folder / "__init__.py" if folder.is_dir() else folder.with_suffix(".py")
    doc = ast.get_docstring(ast.parse(path.read_text("utf-8"))) or ""
    return doc.splitlines()[0] if doc else ""


def filled(text: str) -> str:
    """The document with every picture in it drawn anew."""
    for inside in ("redline_bore", "redline_bore.job", "redline_bore.ui"):
        head = BEGIN.format(inside)
        before, rest = text.split(head, 1)
        after = rest.split(END, 1)[1]
        text = f"{before}{head}\n{drawn(inside)}\n{END}{after}"
    return text


if __name__ == "__main__":
    TARGET.write_text(filled(TARGET.read_text("utf-8")), "utf-8")
