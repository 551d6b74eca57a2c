"""Answers of ``core.worked_out`` from one day to the next: a small file of the person at the bench, thrown away with every other version."""

from __future__ import annotations

import json
from contextlib import suppress

from redline_bore import __version__
from redline_bore.core.errors import BenchError
from redline_bore.core.worked_out import take_in, worth_keeping
from redline_bore.store.exports import read_text, write_text
from redline_bore.store.places import data_folder

FILE = "worked-out.json"


def read_answers() -> None:
    """Take in what was kept; nothing where it is another version's, or damaged."""
    with suppress(BenchError, OSError, ValueError, TypeError, KeyError, AttributeError):
        kept = json.loads(read_text(data_folder() / FILE))
        if kept["version"] == __version__:
            take_in(
                {(str(name), str(figures)): (float(low), float(high)) for name, figures, low, high in kept["answers"]}
            )


def keep_answers() -> None:
    """Keep what was asked for last. Where it cannot be kept, nothing is lost."""
    with suppress(BenchError, OSError):
        data_folder().mkdir(mode=0o700, parents=True, exist_ok=True)
        rows = [[*key, *ends] for key, ends in worth_keeping().items()]
        write_text(data_folder() / FILE, json.dumps({"version": __version__, "answers": rows}))
