"""The figures that ship with the program, read from ``core/defaults/*.toml``; parsed once for each time those change, and kept."""

from __future__ import annotations

import json
import os
from contextlib import suppress
from functools import lru_cache
from pathlib import Path
from typing import Any

import redline_bore.core
from redline_bore.core.errors import BenchError
from redline_bore.core.figures import Figures, figures_from_tables
from redline_bore.store.exports import read_text, write_text
from redline_bore.store.places import data_folder

DEFAULTS = Path(redline_bore.core.__file__).parent / "defaults"
KEPT = "shipped-figures.json"


@lru_cache(maxsize=1)
def shipped_figures() -> Figures:
    """All shipped figures, by topic.name. Raises InputError when a shipped file lacks a unit or source."""
    return figures_from_tables(_tables())


def _tables() -> dict[str, dict[str, Any]]:
    """The files' tables by topic; as they were kept, where the files are those they were kept of."""
    with os.scandir(DEFAULTS) as files:  # no pattern: it would be compiled for this alone
        of = sorted([f.name, s.st_mtime_ns, s.st_size] for f in files if f.name.endswith(".toml") for s in [f.stat()])
    with suppress(BenchError, OSError, ValueError, TypeError, KeyError):
        kept = json.loads(read_text(data_folder() / KEPT))
        if kept["of"] == of and kept["at"] == str(DEFAULTS):
            return dict(kept["tables"])
    import tomllib  # a tenth of the start

    tables = {
        str(name).removesuffix(".toml"): tomllib.loads((DEFAULTS / str(name)).read_text("utf-8"))
        for name, _at, _size in of
    }
    with suppress(BenchError, OSError):
        data_folder().mkdir(mode=0o700, parents=True, exist_ok=True)
        write_text(data_folder() / KEPT, json.dumps({"at": str(DEFAULTS), "of": of, "tables": tables}))
    return tables
