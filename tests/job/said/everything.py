"""Everything the program says of a job as it goes along, each sentence once, in the order it is first said.

``python -m tests.job.said.everything`` writes the files beside this one anew; read the difference before it is committed: a line
that changed is a line that a machinist reads.
"""

import dataclasses
import re
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path

from redline_bore.core.errors import BenchError, InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call.asks import first_rung
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.call.options import options_of
from redline_bore.job.card import Advice
from redline_bore.job.finish import plateau
from redline_bore.job.gauge.plate import tightening
from redline_bore.job.hone.load import picture_of
from redline_bore.job.hone.model import forecast
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.hone.stock_ledger import ledger_of
from redline_bore.job.hone.ways_out import ways_out
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.forms import form_words
from redline_bore.job.kinds.grammar import phrases_at
from redline_bore.job.kinds.kind import KINDS, entry_words, wrongs
from redline_bore.job.kinds.phrase import At, Where
from redline_bore.job.kinds.sign_off import JobReopened
from redline_bore.job.profiles.practice import PRACTICES
from redline_bore.job.proposals import StepProposals
from redline_bore.job.route import steps_of
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words import book_in as book_in
from redline_bore.job.words import (
    bore,
    call,
    closed,
    defects,
    finish,
    finish_pages,
    hone,
    hone_pages,
    options,
    pistons,
    plate,
    readings,
    second_opinion,
    shadow,
    side_by_side,
    sign_off,
    sleeve,
    study,
)
from redline_bore.job.words import round as rounds
from redline_bore.job.words import ways_out as way_out_words
from redline_bore.job.words.instruments_used import instruments_used
from redline_bore.job.words.lessons import lesson_words
from redline_bore.job.words.quote import quote_of
from tests.job.benches import but, longer, spindle, swept

HERE = Path(__file__).parent
JOBS = ("2029", "2036", "2041", "2044", "2047")
DAY = "2026-11-24"
STEPS = ("book_in", "gauge", "call", "bore", "sleeve", "hone", "finish", "sign_off")
UNITS_OF = {"2036": (Units.METRIC, Units.INCH), "2041": (Units.METRIC,), "2044": (Units.INCH,), "2047": (Units.INCH,)}
METRIC = Show(Units.METRIC)
STOPS = 14  # so many places along a ledger are looked at


def pages(state: JobState, cylinder: int, show: Show) -> Iterator[Callable[[], Advice]]:
    """Every card of every step, for a cylinder."""
    over = first_rung(state)
    depths = state.gauging.plan.depths_mm
    progress = progress_of(state, cylinder)
    yield lambda: book_in.advise(state, show)
    yield lambda: readings.advise(state, cylinder, show)
    yield lambda: defects.advise(state, cylinder, show)
    yield lambda: plate.advise(state, cylinder, show)
    for pulled in (0, 1, len(tightening(state)) - 1, len(tightening(state))):
        yield lambda pulled=pulled: plate.advise(state, cylinder, show, pulled)
    for step in ("gauge", "sign_off"):
        yield lambda step=step: closed.told_closed(state, step, readings.advise(state, cylinder, show))
    yield lambda: second_opinion.advise(state, cylinder, show)
    yield lambda: side_by_side.advise(state, show)
    yield lambda: study.advise(state, "RM", show)
    for depth in (depths[0], depths[-1]):
        yield lambda depth=depth: rounds.advise(state, cylinder, depth, show)
    for size in ladder_of(state).rungs_mm[:3]:
        yield lambda size=size: call.advise(state, cylinder, size, show)
    yield lambda: pistons.advise(state, cylinder, show)
    yield lambda: shadow.advise(state, cylinder, state.block.bore_mm + over, show)
    for i in range(len(options_of(state))):
        yield lambda i=i: options.advise(state, i, show)
    yield lambda: bore.advise(state, cylinder, show, DAY)
    for page in ("fit", "heat", "deck"):
        yield lambda page=page: sleeve.advise(state, cylinder, show, page, DAY)
    yield lambda: hone.advise(state, cylinder, show)
    yield lambda: hone_pages.set_up(state, show)
    yield lambda: hone_pages.steps(state, cylinder, show)
    yield lambda: hone_pages.pacer(state, progress, 3, True, 12)
    yield lambda: hone_pages.ledger(state, ledger_of(state), show)
    length = state.block.length_mm
    for tight in (0.1, 0.5, 0.9):  # a load that is heaviest there
        felt = tuple((length * i / 20.0 - 20.0, 30.0 + 20.0 * (abs(i / 20.0 - tight) < 0.12)) for i in range(21))
        yield lambda felt=felt: hone_pages.load(state, picture_of(state, cylinder, felt, 8.0, 1), True, show)
    yield lambda: finish.advise(state, cylinder, show)
    yield lambda: finish.windows_page(state, show)
    yield lambda: finish_pages.hatch_page(state, cylinder)
    yield lambda: sign_off.advise(state, show)


def forecasts(state: JobState, cylinder: int, show: Show) -> Iterator[Callable[[], Advice]]:
    """The cards that are worked out in the background."""
    yield lambda: hone_pages.plan(state, cylinder, forecast(state, cylinder), "", False, show)
    yield lambda: finish_pages.plateau_page(state, cylinder, plateau.foretold(state, cylinder), "", False, show)


def lines_of(advice: Advice) -> Iterator[str]:
    """The lines of a card."""
    scope = advice.scope
    yield f"{scope} | {advice.mark or 'plain'} | {advice.sentence}"
    yield f"{scope} | button | {advice.button}{' >' if advice.leads_on else ''}"
    yield f"{scope} | care | {advice.care}"
    yield from (f"{scope} | {f.label} | {f.value} {f.mark}".rstrip() for f in advice.figures)
    yield from (f"{scope} | would change | {c}" for c in advice.would_change)
    yield from (f"{scope} | note | {c}" for c in advice.notes)
    yield from (f"{scope} | working | {w.text} | {w.source}" for w in advice.working)


def of_the_block(state: JobState, show: Show) -> Iterator[str]:
    """What is said beside the cards."""
    yield f"steps | {' '.join(steps_of(state))}"
    for option in options_of(state):
        way = options.told_of(option, show)
        yield f"way | {way.title} | {way.standing} | {'; '.join(way.reasons)} | {'; '.join(way.needs)}"
    for over in (None, *ladder_of(state).rungs_mm):
        quote = quote_of(state, over, (), show)
        yield from (f"quote | {over} | {line}" for line in quote.orders)
        yield f"quote | {over} | {quote.sentence} | {quote.way and quote.way.title} | {'; '.join(o.title for o in quote.others)}"
    yield from (f"lesson | {lesson_words(x, show)}" for x in state.booking.lessons)
    yield from (f"used | {line}" for line in instruments_used(state, show))
    for c in state.cylinders:
        for way in ways_out(state, progress_of(state, c)):
            yield f"way out | {c} | {way_out_words.TITLES[way.out]}: {way_out_words.say_out(way, show)}"


def varied(text: str) -> list[str]:
    """The line with each of its figures in turn much larger, much smaller, none and below nought."""
    found = []
    for figure in re.finditer(r"(?<![\w.])\d+(?:\.\d+)?", text):
        for share in (0.0, 0.4, 1.4, 2.2, 40.0, -1.0):
            value = f"{float(figure[0]) * share:.4f}".rstrip("0").rstrip(".")
            found.append(f"{text[: figure.start()]}{value}{text[figure.end() :]}")
    return found


def typed(state: JobState, show: Show) -> Iterator[str]:
    """Every line that may be typed, its example from the open job, and what is booked for it."""
    where = Where(state.cylinders[0], Place(0, 0), show.units)
    at = At(state, where, StepProposals(), DAY)
    for step in steps_of(state):
        for phrase in phrases_at(step):
            text = phrase.example(at)
            try:
                booked = "; ".join(entry_words(e, show) for e in phrase.read(text, at))
            except InputError as error:
                booked = f"refused: {error}"
            yield f"phrase | {step} | {form_words(phrase.form)} | {phrase.help} | {text} | {booked}"
            for other in varied(text) if state.number in ("2044", "2041") else ():
                try:
                    entries = phrase.read(other, at)
                    faults = "; ".join(w.reason for e in entries for w in wrongs(e, state.block))
                    booked = "; ".join(entry_words(e, show) for e in entries)
                except BenchError as error:
                    faults, booked = str(error), ""
                yield f"phrase | {step} | {other} | {booked or faults} | {faults}"


def widened(ledger: Sequence[Record], shipped: object, units: Units) -> list[Record]:
    """The ledger with every line booked that may be typed, as its example says it, for two cylinders; refused ones are left out."""
    book = list(ledger)
    if fold(book, shipped).signing.closed:
        book = longer(book, JobReopened(reason="to see"))
    for cylinder in (1, 2):
        for step in STEPS:
            for phrase in phrases_at(step):
                state = fold(book, shipped)
                at = At(state, Where(min(cylinder, state.block.cylinders), Place(0, 0), units), StepProposals(), DAY)
                try:
                    entries = phrase.read(phrase.example(at), at)
                    book = longer(book, *(e for e in entries if e.kind not in ("step_stamped", "entry_struck")))
                except InputError:
                    continue
    return longer(book, spindle(1), *(swept(1, d, 92.3 - 0.001 * d, 0.01, 0.02) for d in (20.0, 60.0, 110.0)))


def by_practice(state: JobState) -> Iterator[JobState]:
    """The job under every other practice there is, one at a time."""
    for topic, own in state.booking.practices:
        for other in PRACTICES[topic]:
            if other.name != own:
                yield but(
                    state,
                    booking={
                        "practices": tuple((t, other.name if t == topic else n) for t, n in state.booking.practices)
                    },
                )


def of_the_kinds() -> list[str]:
    """What is declared of every kind of entry, and of every field."""
    found = []
    for kind in KINDS.values():
        found.append(f"{kind.name} | {kind.step} | {kind.topic}")
        plain = {f.name: f.default for f in dataclasses.fields(kind.entry) if f.default is not dataclasses.MISSING}
        found += [
            f"{kind.name} | {name} | {told} | {plain.get(name, 'no default')}" for name, told in kind.fields.items()
        ]
    return found


def every_page(ledger: Sequence[Record], shipped: object, stops: int) -> Iterator[Callable[[], Advice]]:
    """The cards at so many places along a ledger, those of the forecasts in the middle of the honing, and under other practices."""
    ends = sorted({max(1, round(len(ledger) * i / stops)) for i in range(1, stops + 1)})
    for end in ends:
        state = fold(ledger[:end], shipped)
        show = Show(state.units if end < ends[-1] else state.units.other)
        for cylinder in state.cylinders[:2] if end < ends[-1] else state.cylinders:
            yield from pages(state, cylinder, show)
    honed = [i for i, r in enumerate(ledger, start=1) if r.entry.kind == "check_logged"]
    for end in {*honed[3:4], *honed[len(honed) // 2 : len(honed) // 2 + 1], len(ledger)}:
        yield from forecasts(fold(ledger[:end], shipped), 1, METRIC)
    for state in by_practice(fold(ledger, shipped)) if stops > 1 else ():
        over = first_rung(state)
        yield lambda state=state: options.advise(state, 0, METRIC)
        yield lambda state=state, over=over: call.advise(state, 1, over, METRIC)
        yield lambda state=state: bore.advise(state, 1, METRIC, DAY)
        yield lambda state=state: hone.advise(state, 1, METRIC)
        yield lambda state=state: hone_pages.steps(state, 1, METRIC)
        yield lambda state=state, over=over: shadow.advise(state, 1, state.block.bore_mm + over, METRIC)


def said(ledger: Sequence[Record], shipped: object, stops: int = STOPS) -> list[str]:
    """All that is said of a job along its ledger, each line once."""
    found: dict[str, None] = {}
    last = fold(ledger, shipped)
    more = [lambda: of_the_block(last, METRIC), *(lambda units=units: typed(last, Show(units)) for units in Units)]
    cards = ((lambda page=page: lines_of(page())) for page in every_page(ledger, shipped, stops))
    for lines in (*cards, *more, lambda: (f"ledger | {entry_words(r.entry, METRIC)}" for r in ledger)):
        try:
            found.update(dict.fromkeys(lines()))
        except BenchError as error:
            found[f"refused | {error}"] = None
    return list(found)


def main() -> None:
    """Write what is said of every sample job."""
    import tempfile

    from redline_bore.demo.jobs import write_demo
    from redline_bore.store.logbook import Logbook
    from redline_bore.store.shop import shipped_figures

    shipped = shipped_figures()
    (HERE / "kinds.txt").write_text("\n".join(of_the_kinds()) + "\n", "utf-8")
    with tempfile.TemporaryDirectory() as folder:
        logbook = Logbook(Path(folder) / "logbook.sqlite")
        write_demo(logbook, shipped)
        for number in JOBS:
            ledger = logbook.ledger(logbook.job_id(number))
            plain = said(ledger, shipped)
            (HERE / f"{number}.txt").write_text("\n".join(plain) + "\n", "utf-8")
            for units in UNITS_OF.get(number, ()):
                more = [x for x in said(widened(ledger, shipped, units), shipped, 1) if x not in set(plain)]
                (HERE / f"{number}-{units.name.lower()}.txt").write_text("\n".join(more) + "\n", "utf-8")
        logbook.close()


if __name__ == "__main__":
    main()
