"""Keeping the logbook: backups and putting one back, checking, making anew what stands beside it, merging, moving, a server made ready."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

from redline_bore.core.errors import InputError
from redline_bore.store.places import is_server

if TYPE_CHECKING:
    from argparse import _SubParsersAction

    from redline_bore.store.logbook import Logbook

WIDE = 40


def add_commands(commands: _SubParsersAction[argparse.ArgumentParser], keep: argparse.ArgumentParser) -> None:
    """The commands that have to do with the logbook as a whole."""
    handed = commands.add_parser("hand-in", parents=[keep], help="take in what was kept beside a logbook that had gone away")  # fmt: skip
    handed.add_argument("file", type=Path, help="the rescue logbook")
    handed.set_defaults(run=_hand_in)
    merge = commands.add_parser("merge", parents=[keep], help="take in everything another logbook has, jobs worked at both places too")  # fmt: skip
    merge.add_argument("other", help="a logbook file, or the address of a server")
    merge.set_defaults(run=_merge)
    verify = commands.add_parser("verify", parents=[keep], help="check every entry of every job against what was booked")  # fmt: skip
    verify.set_defaults(run=_verify)
    rebuild = commands.add_parser("rebuild", parents=[keep], help="make anew what stands beside the ledgers: the list, the lessons, the shelf")  # fmt: skip
    rebuild.add_argument(
        "--old-only", action="store_true", help="only of jobs that another version of the program kept"
    )
    rebuild.set_defaults(run=_rebuild)
    backup = commands.add_parser("backup", parents=[keep], help="a checked copy, made while the logbook is worked in; older ones are thinned out by age")  # fmt: skip
    backup.add_argument("folder", type=Path, nargs="?", help="where to (else the folder the shop named last)")
    backup.set_defaults(run=_backup)
    restore = commands.add_parser("restore", parents=[keep], help="put a backup in the logbook's place; what stood there is kept beside it")  # fmt: skip
    restore.add_argument("file", type=Path)
    restore.set_defaults(run=_restore)
    moved = commands.add_parser("move", parents=[keep], help="carry the whole logbook to another place, a file or a server; it may be broken off")  # fmt: skip
    moved.add_argument("to", help="a logbook file, or an address like postgresql://shop-server/redline")
    moved.set_defaults(run=_move)
    ready = commands.add_parser("prepare", parents=[keep], help="make a server ready for the benches: they may append and read, and nothing else")  # fmt: skip
    ready.set_defaults(run=_prepare)


def bar(what: str) -> Callable[[int, int], None]:
    """Draws how far it is on standard error; nothing where nobody looks."""

    def tick(done: int, of: int) -> None:
        if sys.stderr.isatty():
            full = WIDE * done // max(of, 1)
            sys.stderr.write(
                f"\r{what} [{'#' * full}{'.' * (WIDE - full)}] {done} of {of}{chr(10) if done >= of else ''}"
            )
            sys.stderr.flush()

    return tick


@contextmanager
def _logbook(where: str | Path, make: bool = False) -> Iterator[Logbook]:
    from redline_bore.store.logbook import Logbook

    logbook = Logbook(where, make=make)
    try:
        yield logbook
    finally:
        logbook.close()


def _hand_in(given: argparse.Namespace) -> int:
    return _taken(given.logbook, given.file, "hand in")


def _merge(given: argparse.Namespace) -> int:
    return _taken(given.logbook, given.other, "merge")


def _taken(where: Path, other_where: Path | str, what: str) -> int:
    from redline_bore.core.lengths import Units
    from redline_bore.core.show import Show
    from redline_bore.desk.hand_in import hand_in
    from redline_bore.job.words.handed_in import both_read_words, handed_in_words

    show, refused = Show(Units.METRIC), 0
    with _logbook(where) as logbook, _logbook(other_where) as other:
        found = hand_in(logbook, other, logbook.figures(), bar(what))
    for x in found:
        refused += len(x.refused)
        print(handed_in_words(x.number, x.whole, x.taken, x.there, x.refused))
        for b in x.both_read:
            print(
                f"  {both_read_words(b.cylinder, b.depth_mm, b.clock_deg, (b.here_mm, b.by), (b.other_mm, b.other_by), show)}"
            )
    return 1 if refused else 0


def _verify(given: argparse.Namespace) -> int:
    from redline_bore.store.verify import verified

    with _logbook(given.logbook) as logbook:
        found = verified(logbook, bar("verify"))
    for fault in found.faults:
        print(fault)
    print(
        f"{found.jobs} jobs, {found.entries} entries: {found.damaged} damaged, {found.unfolded} jobs that cannot be shown"
    )
    return 1 if found.faults else 0


def _rebuild(given: argparse.Namespace) -> int:
    from redline_bore.store.rebuild import rebuild

    with _logbook(given.logbook) as logbook:
        found = rebuild(logbook, bar("rebuild"), not given.old_only)
    other = f"; something else stood beside {', '.join(found.other)}" if found.other and not given.old_only else ""
    print(f"{found.jobs} jobs made anew{other}")
    return 0


def _backup(given: argparse.Namespace) -> int:
    from redline_bore.store.backup import back_up
    from redline_bore.store.backup_folder import backup_folder, name_backup_folder

    folder = given.folder or backup_folder()
    if folder is None:
        raise InputError(
            "Where to is not known yet: redline-bore backup FOLDER; the program makes one there every day from then on"
        )
    with _logbook(given.logbook) as logbook:
        path = back_up(logbook, folder, bar("backup"))
    if given.folder is not None:
        name_backup_folder(given.folder)
    print(f"{path} is made and checked")
    return 0


def _restore(given: argparse.Namespace) -> int:
    from redline_bore.store.backup import put_back

    if is_server(given.logbook):
        raise InputError(
            "A server is put back by moving a backup into an empty database: redline-bore --logbook BACKUP move postgresql://..."
        )
    put_back(given.file, given.logbook)
    print(f"{given.file} stands in the place of {given.logbook}; what was there is kept beside it")
    return 0


def _move(given: argparse.Namespace) -> int:
    from redline_bore.store.move import move

    with _logbook(given.logbook) as source, _logbook(given.to, make=True) as target:
        count = move(source, target, bar("move"))
        print(f"{count} jobs of {source.where} are in {target.where}; {source.where} is left as it is")
    return 0


def _prepare(given: argparse.Namespace) -> int:
    from redline_bore.store.prepare import prepare

    print(prepare(str(given.logbook)))
    return 0
