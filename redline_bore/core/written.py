"""How the shop writes its figures: with a point or with a comma. Inside the program, in its files and in the ledger it is always a point.

The setting is one for the whole program, as a locale is. What goes to people passes ``shown`` on its way out, what they type ``typed`` on
its way in: at the doors only, so that no sentence and no parser knows of it.
"""

from __future__ import annotations

import io
import re

from redline_bore.core.late import late_pattern

_comma = False
_POINT = late_pattern(r"(?<![\d.])(\d+)\.(\d+)(?!\.?\d)")  # a figure; neither a version nor an address
_COMMA = late_pattern(r"(?<=\d),(?=\d)|(?<![\w,])(?<!\w ),(?=\d)")
_TAG = late_pattern(r"(<style.*?</style>|<[^>]*>)", re.DOTALL)
_FIGURE = late_pattern(r"[+\-−]?\d+\.\d+")


def write_with_comma(comma: bool) -> None:
    """Write figures with a comma from now on, or with a point."""
    global _comma
    _comma = comma


def with_comma() -> bool:
    """Whether figures are written with a comma."""
    return _comma


def shown(text: str) -> str:
    """A text as the shop writes it.

    >>> shown("105.214 mm")
    '105.214 mm'
    """
    return _POINT.sub(r"\1,\2", text) if _comma and "." in text else text


def shown_html(html: str) -> str:
    """A text with its marks: what stands between them as the shop writes it, the marks as they are."""
    if not _comma:
        return html
    return "".join(part if i % 2 else shown(part) for i, part in enumerate(_TAG.split(html)))


def typed(text: str) -> str:
    """What was typed, as the program reads it: in a shop that writes a comma, one between two digits is the point."""
    return _COMMA.sub(".", text) if _comma and "," in text else text


def table(text: str) -> str:
    """A comma-separated table for a spreadsheet of the shop's: semicolons between, and a comma in figures, where it writes that."""
    if not _comma:
        return text
    import csv  # only where a table goes out

    out = io.StringIO()
    writer = csv.writer(out, delimiter=";", lineterminator="\n")
    for row in csv.reader(io.StringIO(text)):
        writer.writerow([cell.replace(".", ",") if _FIGURE.fullmatch(cell) else cell for cell in row])
    return out.getvalue()
