"""The list of jobs. Asked for often and by other programs: it loads nothing that it does not need."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import TYPE_CHECKING, Any

from redline_bore.core.when import moment
from redline_bore.store.file_connection import is_current
from redline_bore.store.places import is_server
from redline_bore.store.quick_list import listed

if TYPE_CHECKING:
    from argparse import _SubParsersAction


def add_commands(commands: _SubParsersAction[argparse.ArgumentParser], keep: argparse.ArgumentParser) -> None:
    """The list."""
    jobs = commands.add_parser("jobs", parents=[keep], help="list the jobs")
    jobs.add_argument("search", nargs="*", help="words in number, owner, engine or notes")
    jobs.add_argument("--aside", action="store_true", help="those that were set aside")
    jobs.add_argument("--json", action="store_true")
    jobs.set_defaults(run=_jobs)


def _jobs(given: argparse.Namespace) -> int:
    found = _found(given.logbook, " ".join(given.search).split(), given.aside)
    if given.json:
        print(json.dumps(found, indent=1))
        return 0
    for line in found:
        print(f"{line['number']:8} {line['owner']:32} {line['engine']:28} {moment(line['last_at'])}")
    if not found:
        print("No job found.")
    return 0


def _found(where: Path | str, words: list[str], aside: bool) -> list[dict[str, Any]]:
    """From a file of today's tables by itself; else through the logbook, which brings older ones up to date."""
    if not is_server(where) and is_current(Path(where)):
        return listed(Path(where), words, aside)
    from dataclasses import asdict

    from redline_bore.store.logbook import Logbook

    logbook = Logbook(where, make=False)
    try:
        lines = logbook.jobs(" ".join(words), aside)
        return [{k: v for k, v in asdict(line).items() if k != "job_id"} for line in lines]
    finally:
        logbook.close()
