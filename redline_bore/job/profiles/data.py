"""The one place where ``profiles.json`` is read: what is not a figure, and so no shop changes it.

duty: what a duty asks of everything that is judged by duty. Each word names a row of figures (core/defaults), or a set of limits.
clearance: usual, or hard (full load: the added share of the bore). wall: service or performance (wall.toml). hole: the set of limits
on a finished hole (limits.toml). heat, finish, hatch, gap: whose figures count; a duty without figures of its own takes the nearest,
said there and nowhere else.

purpose: what a job is for. bores: the bar is on its route until a call says otherwise. light: the call it asks for where nothing is
cut. hones_out: what is cut is cut by the hone alone.

wall_kind: sleeved: there is a sleeve that can come out. flanged: it hangs by a flange.

practice: where schools differ. shipped: the way that counts where the shop names none. figures: the row it is worked with.
"""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path
from typing import Any

FILE = Path(__file__).with_name("profiles.json")


@cache
def _tables() -> dict[str, dict[str, dict[str, Any]]]:
    tables: dict[str, dict[str, dict[str, Any]]] = json.loads(FILE.read_text("utf-8"))
    return tables


def table(name: str) -> dict[str, dict[str, Any]]:
    """A table of the profiles by its name, in the order of the file."""
    return _tables()[name]
