"""Answers of ``core.worked_out`` from one day to the next: a small file of the person at the bench, thrown away with every other version."""

from __future__ import annotations

import json
import os
from contextlib import suppress

import redline_bore.core
from redline_bore import __version__
from redline_bore.core.errors import BenchError
from redline_bore.core.sums import hex_sum
from redline_bore.core.worked_out import take_in, worth_keeping
from redline_bore.store.exports import read_text, write_text
from redline_bore.store.places import data_folder

FILE = "worked-out.json"


def read_answers() -> None:
    """Take in what was kept; nothing where another version worked it out, or a bit of it has changed."""
    with suppress(BenchError, OSError, ValueError, TypeError, KeyError, AttributeError):
        stamp, told, answers = read_text(data_folder() / FILE).split("\n", 2)
        if stamp == _stamp() and told == _sum(answers):
            take_in(json.loads(answers))


def keep_answers() -> None:
    """Keep what was asked for last. Where it cannot be kept, nothing is lost."""
    with suppress(BenchError, OSError):
        data_folder().mkdir(mode=0o700, parents=True, exist_ok=True)
        answers = json.dumps(worth_keeping())
        write_text(data_folder() / FILE, "\n".join((_stamp(), _sum(answers), answers)))


def _sum(answers: str) -> str:
    return hex_sum(answers.encode())


def _stamp() -> str:
    """The version, and which core: whoever changes the core is not answered by the old one."""
    found = []
    for folder in (p := redline_bore.core.__path__[0], os.path.join(p, "texture")):
        with os.scandir(folder) as files:
            found += [(f.name, (s := f.stat()).st_mtime_ns, s.st_size) for f in files if f.name.endswith(".py")]
    return f"{__version__} {_sum(repr(sorted(found)))}"
