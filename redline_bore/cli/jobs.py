"""Jobs from the command line: booked in, booked into, taken in, listed. All of it through the desk, as the window does."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from redline_bore.core.errors import DoubtfulInput, InputError
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.book_in.draft import FIELDS, book_in_from_draft, empty_draft
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.kind import entry_words
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.profiles.practice import shop_practices
from redline_bore.job.state.job_state import STEPS

if TYPE_CHECKING:
    from argparse import _SubParsersAction

    from redline_bore.desk.desk import Desk


def add_commands(commands: _SubParsersAction[argparse.ArgumentParser], keep: argparse.ArgumentParser) -> None:
    """The commands that have to do with jobs and their ledgers."""
    _new_command(commands.add_parser("new", parents=[keep], help="book a job in"))
    _book_command(commands.add_parser("book", parents=[keep], help="book a line as it is typed in the window"))
    take = commands.add_parser("import", parents=[keep], help="take in readings (CSV, with --job) or a job (JSON)")
    take.add_argument("file", type=Path)
    take.add_argument("--job", help="the job that readings belong to")
    take.add_argument("--other", metavar="WHO", help="the readings are not ours but this shop's: a second opinion")
    take.add_argument("--again", action="store_true", help="take readings though they are in the job already")
    take.add_argument("--person", default="", help="initials, where the file has none")
    take.set_defaults(run=_import, makes=True)
    aside = commands.add_parser(
        "aside", parents=[keep], help="set a job aside: it is kept, and no list shows it unasked"
    )
    aside.add_argument("number")
    aside.add_argument("--back", action="store_true", help="bring it back")
    aside.add_argument("--person", default="", help="initials")
    aside.set_defaults(run=_aside)
    demo = commands.add_parser(
        "demo", parents=[keep], help="write the sample jobs into a logbook that has none of them"
    )
    demo.set_defaults(run=_demo, makes=True)


def _new_command(command: argparse.ArgumentParser) -> None:
    for field in FIELDS:
        flag = "--" + field.name.removesuffix("_mm").replace("_", "-")
        words = [value for value, _word in field.choices]
        command.add_argument(
            flag, dest=field.name, choices=words or None, metavar=None if words else "TEXT", help=field.label
        )
    command.add_argument("--person", default="", help="initials")
    command.set_defaults(run=_new, makes=True)


def _book_command(command: argparse.ArgumentParser) -> None:
    command.add_argument("--job", required=True)
    command.add_argument("--step", required=True, choices=STEPS)
    command.add_argument("--cylinder", type=int, default=1, metavar="NUMBER")
    command.add_argument("--level", type=int, default=1, metavar="NUMBER", help="level of the plan, from 1 at the top")
    command.add_argument("--clock", type=int, default=1, metavar="NUMBER", help="clock angle of the plan, from 1")
    command.add_argument(
        "--units", choices=[str(u) for u in Units], help="of figures without a unit, where not the job's own"
    )
    command.add_argument("--person", default="", help="initials")
    command.add_argument(
        "--sure", action="store_true", help="book it though something speaks against it; the doubt stays beside it"
    )
    command.add_argument(
        "line", nargs="+", help="as in the window, such as: 105.214, or stones vitrified 150 4 x 10 long 70"
    )
    command.set_defaults(run=_book)


def desk_of(given: argparse.Namespace) -> Desk:
    """The desk on the logbook that is asked for, for whoever says so; only what begins a job makes a logbook."""
    from redline_bore.desk.desk import Desk
    from redline_bore.store.logbook import Logbook

    return Desk(
        lambda: Logbook(given.logbook, make=getattr(given, "makes", False)), person=getattr(given, "person", "")
    )


def _new(given: argparse.Namespace) -> int:
    from redline_bore.job.words.book_in import family_told

    desk = desk_of(given)
    figures = desk.figures
    draft = empty_draft(Units(given.units or "metric"), figures)
    draft |= {f.name: getattr(given, f.name) for f in FIELDS if getattr(given, f.name) is not None}
    opening = JobOpened(
        number=draft["number"].strip(), units=Units(draft["units"]), book_in=book_in_from_draft(draft),
        figures=figures.plain(), practices=shop_practices(figures) | {"honing": draft["honing"]},
    )  # fmt: skip
    booked = desk.book_in(opening)
    print(f"Job {opening.number} is booked in {desk.where}")
    if booked.lessons:
        print(family_told(booked.lessons))
    return 0


def _book(given: argparse.Namespace) -> int:
    from redline_bore.core.gauging import Place
    from redline_bore.desk.typed import book_typed

    desk = desk_of(given)
    job = desk.open(given.job)
    if desk.missing:
        print(desk.missing, file=sys.stderr)
    plan = job.state.gauging.plan
    if given.cylinder not in job.state.cylinders:
        raise InputError(f"Job {given.job} has cylinders 1 to {job.state.block.cylinders}, no {given.cylinder}")
    if not (1 <= given.level <= len(plan.depths_mm) and 1 <= given.clock <= len(plan.clocks_deg)):
        raise InputError(
            f"The {plan.name} plan has levels 1 to {len(plan.depths_mm)}, clock angles 1 to {len(plan.clocks_deg)}"
        )
    units = Units(given.units) if given.units else job.state.units
    where = Where(given.cylinder, Place(given.level - 1, given.clock - 1), units)
    line = " ".join(given.line)
    try:
        changed = book_typed(desk, job, given.step, line, where)
    except DoubtfulInput as doubtful:
        if not given.sure:
            stop = "" if doubtful.doubt.endswith("?") else "."
            raise InputError(f"{doubtful.doubt}{stop} Nothing was booked; --sure books it") from doubtful
        changed = book_typed(desk, job, given.step, line, where, doubtful.doubt)
    for record in changed.booked:
        print(f"Entry {record.seq}: {entry_words(record.entry, Show(units))}")
    return 0


def _import(given: argparse.Namespace) -> int:
    desk = desk_of(given)
    if given.file.suffix.lower() == ".json":
        print(f"Job {desk.take_job(given.file)} is taken in")
        return 0
    if not given.job:
        raise InputError("Readings belong to a job: say which with --job NUMBER")
    taken = desk.take_readings(desk.open(given.job), given.file, given.other or "", given.again)
    whose = f" as {given.other}'s" if given.other else ""
    print(f"{taken.remark} taken into job {given.job}{whose}")
    return 0


def _aside(given: argparse.Namespace) -> int:
    desk_of(given).set_aside(given.number, not given.back)
    print(
        f"Job {given.number} is {'in the list again' if given.back else 'set aside; it is kept, and --back brings it back'}"
    )
    return 0


def _demo(given: argparse.Namespace) -> int:
    from redline_bore.demo.jobs import take_demo

    logbook = desk_of(given).logbook
    taken = take_demo(logbook, logbook.figures())
    told = (
        f"The sample jobs {', '.join(taken)} are in {logbook.where}"
        if taken
        else "The sample jobs are in this logbook already"
    )
    print(told)
    return 0
