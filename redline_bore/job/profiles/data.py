"""The one place where ``profiles.toml`` is read."""

from __future__ import annotations

import tomllib
from functools import cache
from pathlib import Path
from typing import Any

FILE = Path(__file__).with_name("profiles.toml")


@cache
def _tables() -> dict[str, dict[str, dict[str, Any]]]:
    return tomllib.loads(FILE.read_text("utf-8"))


def table(name: str) -> dict[str, dict[str, Any]]:
    """A table of the profiles by its name, in the order of the file."""
    return _tables()[name]
