"""The figures that ship with the program, read from ``core/defaults/*.toml``."""

from __future__ import annotations

import tomllib
from functools import lru_cache
from pathlib import Path

import redline_bore.core
from redline_bore.core.figures import Figures, figures_from_tables

DEFAULTS = Path(redline_bore.core.__file__).parent / "defaults"


@lru_cache(maxsize=1)
def shipped_figures() -> Figures:
    """All shipped figures, by topic.name. Raises InputError when a shipped file lacks a unit or source."""
    paths = sorted(DEFAULTS.glob("*.toml"))
    return figures_from_tables({p.name.removesuffix(".toml"): tomllib.loads(p.read_text("utf-8")) for p in paths})
