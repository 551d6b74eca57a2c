"""Find by the shop's words, and change what stands by hand: pages, lines to book, keys, shop figures and jobs, each in a drawer."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial

from redline_bore.core.errors import InputError
from redline_bore.core.figures import figure_name
from redline_bore.core.frozen import replace
from redline_bore.core.show import capital
from redline_bore.core.when import now
from redline_bore.job.kinds.kind import ANY_STEP, Kind
from redline_bore.job.kinds.phrase import At, Phrase
from redline_bore.job.state.job_state import STEP_TITLES, STEPS
from redline_bore.ui.commands.command import Command, Group, command, commands
from redline_bore.ui.frame.drawer import Drawer
from redline_bore.ui.frame.window_parts import WindowParts

LONGEST_INITIALS = 6
MOST_JOBS = 9  # that a search for anything brings
ALSO = {  # what the shop also says
    "pdf": "print paper customer report", "export": "save folder csv json files", "quote": "print price estimate order cost", "half_page": "print second opinion",
    "field": "type word letters", "strike": "undo delete wrong mistake", "restore": "redo", "night": "dark theme light", "comma": "decimal point number", "paper": "a4 letter print page", "clear": "accessibility eyes bold black white", "touch": "finger glove pad keyboard big buttons", "larger": "zoom bigger text",
    "smaller": "zoom text", "units": "inch metric thou millimetre", "figures": "settings options rates prices defaults", "ledger": "history log who when",
    "working": "why arithmetic", "plate": "torque head", "jobs": "open list search", "new": "book in start", "take_in": "import open file csv json",
    "port": "gauge serial usb connect", "quit": "close exit end", "photo": "picture camera", "keys": "help shortcuts",
    "readings": "taper wear oval barrel bell-mouth bore gauge", "set_up": "overstroke stroke length stones angle crosshatch", "heat": "cold chill oven freeze",
    "stock": "strokes left clearance", "trace": "ra rz rk roughness profilometer", "hatch": "crosshatch angle picture", "ladder": "oversize size bore",
    "pistons": "clearance ring gap compression", "pacer": "drill rhythm beat", "sheet": "sign print", "deck": "flange protrusion counterbore",
}  # fmt: skip


@command(Group.LOOKING, 10, "Find anything by a word", "F", "Ctrl+F")
def find(window: WindowParts) -> str:
    """Open the chest on everything there is."""
    window.over.look_among("Find", all_drawers(window), more=partial(look_for_jobs, window))
    return ""


@command(Group.BENCH, 25, "Book or change something on this page by hand", "E")
def by_hand(window: WindowParts) -> str:
    """Open the chest on what this step books."""
    if window.session.state is None or window.step is None:
        raise InputError("Open a job first: what can be booked depends on it")
    window.over.look_among(
        f"Book or change · {STEP_TITLES[window.session.bench.step]}", list(_to_book(window, window.session.bench.step))
    )
    return ""


@command(Group.BENCH, 26, "Leave a note for whoever takes the job up next", "I")
def note(window: WindowParts) -> str:
    """A remark on the job, in every step."""
    from redline_bore.desk.tag import phrases_of

    if window.session.state is None:
        raise InputError("Open a job first: a note belongs to one")
    kind, phrase = next((k, p) for k, p in phrases_of(window.session.bench.step) if k.name == "remark_left")
    hang(window, window.session.bench.step, kind, phrase)
    return ""


@command(Group.BENCH, 27, "Who is working: what is booked is booked by", "Q")
def who(window: WindowParts) -> str:
    """The board of checks: whose initials stand on what is booked, and sign."""
    window.over.look_among("Who is working", list(_people(window)), partial(_somebody, window))
    return ""


def _people(window: WindowParts) -> Iterator[Drawer]:
    kept = str(window.settings.value("people", "")).split()
    names = dict.fromkeys([*(r.person for r in reversed(window.session.records)), *kept])
    for initials in (n for n in names if n and len(n) <= LONGEST_INITIALS):
        on = window.session.who_is_said and initials == window.session.person
        yield Drawer(
            "who",
            initials,
            "is working now" if on else "was here before",
            "the board",
            "",
            "",
            partial(_works, window, initials),
            here=on,
        )


def _somebody(window: WindowParts, text: str) -> Drawer | None:
    initials = "".join(text.split())[:LONGEST_INITIALS].upper()
    known = {d.title.lower() for d in _people(window)}
    if not initials.isalnum() or initials.lower() in known:
        return None
    return Drawer(
        "who", initials, "somebody new at this bench", "the board", "", text, partial(_works, window, initials)
    )


def _works(window: WindowParts, initials: str) -> None:
    window.session.set_person(initials)
    window.settings.setValue("person", initials)
    kept = str(window.settings.value("people", "")).split()
    window.settings.setValue("people", " ".join(dict.fromkeys([initials, *kept])))
    window.line.tell(f"What is booked from now on is booked by {initials}.", False)


def at_now(window: WindowParts) -> At:
    """The open job and where the gauge stands, for what is filled in."""
    from redline_bore.job.proposals import StepProposals

    return At(window.session.job, window.session.where, StepProposals(), now())


def hang(window: WindowParts, step: str, kind: Kind, phrase: Phrase) -> None:
    """Hang the tag of a line, on the page of its step."""
    if window.session.bench.step != step:
        window.session.go(step)
    window.over.hang_tag(kind, phrase, step, partial(at_now, window))


def hang_of(window: WindowParts, name: str) -> None:
    """Hang the tag of a kind of entry, in the step that is on where it takes such lines, else in its own. name: the kind's; where it has
    several lines, with the first word of the one that is meant behind a stroke."""
    from redline_bore.desk.tag import phrases_of

    here = window.session.bench.step
    kind, _, lead = name.partition("/")
    for step in (here, *(s for s in window.session.steps if s != here)):
        found = next(((k, p) for k, p in phrases_of(step) if k.name == kind and (not lead or lead in p.leads)), None)
        if found is not None:
            hang(window, step, *found)
            return


def all_drawers(window: WindowParts) -> list[Drawer]:
    """Everything that can be opened: this page's first."""
    return [
        *_pages(window),
        *_every_line(window),
        *_commands(window),
        *_read(window),
        *_figures(window),
    ]


def _every_line(window: WindowParts) -> Iterator[Drawer]:
    if window.session.state is None:
        return
    here, seen = window.session.bench.step, set[tuple[str, str]]()
    for step in (
        here,
        *(s for s in window.session.steps if s != here),
        *(s for s in STEPS if s not in window.session.steps),
    ):
        for drawer in _to_book(window, step):
            if (drawer.title, drawer.note) not in seen:
                seen.add((drawer.title, drawer.note))
                yield (
                    drawer
                    if step in window.session.steps
                    else replace(
                        drawer, locked=f"this job has no {STEP_TITLES[step].lower()} step; the call decides that"
                    )
                )


def _to_book(window: WindowParts, step: str) -> Iterator[Drawer]:
    from redline_bore.desk.tag import phrases_of
    from redline_bore.job.kinds.forms import form_words

    here = step == window.session.bench.step
    for kind, phrase in phrases_of(step):
        lead = phrase.leads[0] if phrase.leads else ""
        said = phrase.help.split(";")[0]
        yield Drawer(
            "book", capital(said), form_words(phrase.form), "every step" if kind.step == ANY_STEP else STEP_TITLES[step], "",
            f"{' '.join(phrase.leads)} {kind.name.replace('_', ' ')} {phrase.help}", partial(hang, window, step, kind, phrase),
            here=here and bool(lead),
        )  # fmt: skip


def _pages(window: WindowParts) -> Iterator[Drawer]:
    from redline_bore.ui.steps.declared import STEPS

    if window.session.state is None:
        return
    for name in window.session.steps:
        titles = STEPS[name].titles()
        if not titles:
            yield Drawer(
                "see",
                STEP_TITLES[name],
                "the step",
                STEP_TITLES[name],
                "",
                ALSO.get(name, ""),
                partial(window.session.go, name),
            )
        for page, title in titles.items():
            yield Drawer(
                "see", title, f"a page of {STEP_TITLES[name].lower()}", STEP_TITLES[name], "", ALSO.get(page, ""), partial(_turn_to, window, name, page),
                here=name == window.session.bench.step,
            )  # fmt: skip


def _turn_to(window: WindowParts, step: str, page: str) -> None:
    window.session.go(step)
    window.session.set_page(page)


def _commands(window: WindowParts) -> Iterator[Drawer]:
    for each in commands():
        if each.name in ("find", "enter", "leave"):
            continue
        yield Drawer(
            "do", each.words, each.act.__doc__ or each.group, each.group, each.keys[0] if each.keys else "", ALSO.get(each.name, ""),
            partial(_do, window, each), each.why_not(window),
        )  # fmt: skip


def _do(window: WindowParts, each: Command) -> None:
    window.do(each.name)


def _read(window: WindowParts) -> Iterator[Drawer]:
    """The words of the shop, and the manual: the help of every page of this job."""
    from redline_bore.ui.help.text import help_of, shop_words
    from redline_bore.ui.steps.declared import STEPS

    for name in () if window.session.state is None else window.session.steps:
        for page, title in (STEPS[name].titles() or {"": STEP_TITLES[name]}).items():
            if (told := help_of(name, page)) is not None:
                whole = f"manual help how {told.read} {told.next} {told.wrong}"
                yield Drawer(
                    "read", f"How {title.lower()} is read", told.see, "Manual", "F1", whole, partial(_show_help, window, name, page)
                )  # fmt: skip
    for word, meaning in shop_words().items():
        yield Drawer("read", capital(word), meaning, "Words", "", "word means", partial(_show_words, window))


def _show_help(window: WindowParts, step: str, page: str) -> None:
    """Turn to the page and lay its help beside it."""
    window.session.go(step)
    if page:
        window.session.set_page(page)
    window.do("this_page")


def _show_words(window: WindowParts) -> None:
    from redline_bore.ui.commands.help import words_html

    window.over.panel.lay("words", "Words of the shop", words_html())


def _figures(window: WindowParts) -> Iterator[Drawer]:
    for figure in window.session.figures:
        words = figure_name(figure.key)
        value = " ".join(f"{v:g}" for v in figure.value) if isinstance(figure.value, tuple) else f"{figure.value}"
        yield Drawer(
            "figure", capital(words), f"{value} {figure.unit} · {figure.source}", "Shop figures", "", figure.note,
            partial(window.lists.show_figures, words),
        )  # fmt: skip


def look_for_jobs(window: WindowParts, asked: str, then: Callable[[list[Drawer]], None]) -> None:
    """The jobs that hold every word asked for, those worked on last; read off the interface thread."""
    from redline_bore.store.job_list import (
        Asked,  # with the logbook's own library, which the first picture does without
    )

    logbook = window.session.logbook

    def found(_token: object) -> list[Drawer]:
        ids = logbook.job_ids(Asked(asked, aside=False, by_due=False))[:MOST_JOBS]
        return [
            Drawer("job", f"{x.number}  {x.owner}", x.engine, "Jobs", "", x.number, partial(window.open_job, x.number))
            for x in logbook.lines(ids)
        ]

    window.runner.quickly("jobs asked for", found, then)
