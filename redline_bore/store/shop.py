"""The figures that ship with the program, read from ``core/defaults/*.toml``."""

from __future__ import annotations

import tomllib
from functools import lru_cache
from importlib import resources

from redline_bore.core.figures import Figures, figures_from_tables


@lru_cache(maxsize=1)
def shipped_figures() -> Figures:
    """All shipped figures, by topic.name. Raises InputError when a shipped file lacks a unit or source."""
    folder = resources.files("redline_bore.core.defaults")
    paths = sorted((p for p in folder.iterdir() if p.name.endswith(".toml")), key=lambda p: p.name)
    return figures_from_tables({p.name.removesuffix(".toml"): tomllib.loads(p.read_text("utf-8")) for p in paths})
