"""Gauge: its pages, and the booking of whatever is read, typed or sent by an instrument."""

from __future__ import annotations

import re

from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place, chord_apart
from redline_bore.core.lengths import with_unit
from redline_bore.desk.readings import book_reading, book_sweep
from redline_bore.instruments.line_protocol import GaugeReading, SweepReading
from redline_bore.job.gauge import readings as gauge
from redline_bore.job.gauge.analysis import SAME_DEPTH_MM, shape_of
from redline_bore.job.gauge.defects import KINDS as DEFECT_KINDS
from redline_bore.job.kinds.gauge import PlanChosen
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.kinds.plans import STANDARD_PLANS, standard_plan
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.ui import verbs
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import Heard, LineText
from redline_bore.ui.steps.declared import StepParts
from redline_bore.ui.steps.gauge_pages.readings import ReadingsPage
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.steps.paged import PagedStep
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.verbs import Deeds
from redline_bore.ui.walls import Walls

TITLES = {
    "readings": "Readings", "slice": "Slice", "all": "All cylinders", "plate": "Plate", "defects": "Defects",
    "second": "Second opinion", "study": "Gauge study",
}  # fmt: skip
PAGES = tuple(TITLES)


def make_page(name: str, session: Session, theme: Theme, walls: Walls) -> StepPage:
    """A page of the gauge step, imported when it is first shown: the first picture must not wait for the others."""
    if name == "readings":
        return ReadingsPage(session, theme, walls)
    from redline_bore.ui.steps.gauge_pages import all_cylinders, defects, plate, second_opinion, slices, study

    made = {
        "slice": slices.SlicePage, "all": all_cylinders.AllPage, "plate": plate.PlatePage, "defects": defects.DefectsPage,
        "second": second_opinion.SecondOpinionPage, "study": study.StudyPage,
    }[name]  # fmt: skip
    return made(session, theme, walls)


class GaugeStep(PagedStep):
    """The gauge step."""

    name = "gauge"
    titles = TITLES
    reading_pages = ("readings", "slice", "all")
    reads = True

    def __init__(self, parts: StepParts) -> None:
        super().__init__(parts)
        self._from_gauge: GaugeReading | SweepReading | None = None

    def make_page(self, name: str) -> StepPage:
        return make_page(name, self.session, self.theme, self.walls)

    # -- what the gauge line says --------------------------------------------------------------------------------------

    def usual_line(self) -> LineText:
        state, bench, show = self.session.job, self.session.bench, self.session.show
        if state.book_in.length_wanted:
            return LineText("How long a cylinder is", "Type it: deck to bottom", "Enter books", "—")
        plan, place = state.gauging.plan, bench.place
        depth, clock = plan.depths_mm[place.level], plan.clocks_deg[place.clock]
        spots = shape_of(state, bench.cylinder, state.clamped.plate_on).spots
        here = next(
            (s for s in spots if abs(s.depth_mm - depth) <= SAME_DEPTH_MM and chord_apart(s.clock_deg, clock) <= 1.0),
            None,
        )
        where = f"Cylinder {bench.cylinder} · level {plan.letter(place.level)}, {show.down(depth)}, clock {clock:g}° · plate {'on' if state.clamped.plate_on else 'off'}"
        what = "No reading here yet"
        if here is not None:
            what = f"{here.count} reading{'s' if here.count > 1 else ''} here, {show.away(here.size_mm - state.block.bore_mm)}"
            what += f", spread {show.fine(here.spread_mm)}" if here.count > 1 else ""
        return LineText(where, what, "Enter books · Backspace strikes out", "—")

    # -- booking -------------------------------------------------------------------------------------------------------

    def hear(self, message: object, pressed: bool, typed: str) -> Heard:
        """A reading or a sweep: booked at once by the button, else kept ready for Enter."""
        if not isinstance(message, (GaugeReading, SweepReading)):
            return Heard()
        return Heard(remark=self.pressed(message)) if pressed else Heard(field=self.take(message))

    def deeds(self) -> Deeds:
        """The plan and marking a defect, on every page."""
        return {**super().deeds(), verbs.PLAN: self.cycle_plan, verbs.DEFECT: self.mark_defect}

    @property
    def others_readings(self) -> str:
        """Another shop's while its page is on."""
        if self.session.bench.page != "second":
            return ""
        shops = self.session.job.comparing.second_opinions
        return shops[-1].conditions.who if shops else "other shop"

    def take(self, reading: GaugeReading | SweepReading) -> str:
        """A reading that was asked for: kept ready for Enter; returns the text for the field."""
        self._plausible(reading)
        self._from_gauge = reading
        return self._shown_as(reading)

    def pressed(self, reading: GaugeReading | SweepReading) -> str:
        """The instrument's own button was pressed: book at once, light the next place, and say so."""
        self._plausible(reading)
        if isinstance(reading, GaugeReading) and (remark := self.page.take(reading)) is not None:
            return remark or f"{self._shown_as(reading)} is in the study."
        self._book_from_gauge(reading)
        return f"{self._shown_as(reading)} booked by the button. Backspace strikes it out."

    def _shown_as(self, reading: GaugeReading | SweepReading) -> str:
        if isinstance(reading, SweepReading):
            return f"sweep of {len(reading.clock_deg)}"
        return self.session.show.away(reading.from_zero_mm)

    def _plausible(self, reading: GaugeReading | SweepReading) -> None:
        """Raises InputError for a reading so far from its zero that unit or zero must be wrong."""
        state = self.session.job
        reach = state.figures.number("gauging.reading_range") * state.block.bore_mm
        values = reading.from_zero_mm if isinstance(reading, SweepReading) else (reading.from_zero_mm,)
        worst = max(values, key=abs)
        if abs(worst) <= reach:
            return
        smaller = abs(worst) / 25.4 <= reach and abs(worst) > reach
        hint = "; it may be set to the other unit" if smaller else ""
        shown = with_unit(worst, self.session.bench.units, signed=True)
        raise InputError(
            f"The gauge reads {shown} from its zero: that is no bore of this block{hint}. Nothing was booked"
        )

    def would(self, text: str) -> str:
        return super().would(self._as_length(text))

    def _as_length(self, text: str) -> str:
        """A bare figure is the cylinder's length while that is what is asked."""
        asked = self.session.job.book_in.length_wanted and re.match(r"\s*[\d.,]", text)
        return f"length {text.strip()}" if asked else text

    def entered(self, text: str) -> str:
        text = self._as_length(text)
        reading, self._from_gauge = self._from_gauge, None
        if reading is not None and text == self._shown_as(reading):
            try:
                if isinstance(reading, GaugeReading) and (remark := self.page.take(reading)) is not None:
                    return remark
                self._book_from_gauge(reading)
            except InputError:
                self._from_gauge = reading
                raise
            return ""
        if text.strip() and (remark := self.page.entered(text)) is not None:
            return remark
        before, waited = self.session.records[-1].seq, self._waits()
        told = super().entered(text)
        self._go_on(waited)
        return self._remark_on(before) or told

    def _remark_on(self, before: int) -> str:
        """A word where what was booked does not show on the page that is on."""
        entry = self.session.records[-1].entry
        if self.session.records[-1].seq == before:
            return ""
        if entry.kind == "defect_marked":
            self.session.set_defect(len(self.session.job.gauging.defects_of(self.session.bench.cylinder)) - 1)
            return "" if self.session.bench.page == "defects" else "Marked. The defects page says what it costs."
        if entry.kind in ("master_checked", "gauge_set"):
            return "The master is booked; what it says of drift widens every U."
        if entry.kind == "plan_chosen":
            self.session.to_next_place()
            return "The plan is changed; what was read before stays."
        return ""

    def _waits(self) -> bool:
        """Whether the cylinder that is looked at is still to be read."""
        return self.session.bench.cylinder in gauge.waiting_cylinders(self.session.job)

    def _book_from_gauge(self, reading: GaugeReading | SweepReading) -> None:
        if isinstance(reading, SweepReading):
            self._book_sweep(reading)
            return
        bench = self.session.bench
        where, waited = Where(bench.cylinder, bench.place, bench.units, True, reading.body_c), self._waits()
        changed = book_reading(self.session.opened, reading.from_zero_mm, where, reading.line, reading.part_c)
        self.session.took(changed, advance=True)
        self._go_on(waited)

    def _go_on(self, waited: bool) -> None:
        """Go on to the next cylinder where this reading was the last of one, so that the gauge's button alone, or Enter, is enough. Who reads
        a cylinder again stays there."""
        state, bench = self.session.job, self.session.bench
        waiting = gauge.waiting_cylinders(state)
        if waited and waiting and bench.cylinder not in waiting:
            self.session.select(next((c for c in waiting if c > bench.cylinder), waiting[0]))

    def _book_sweep(self, reading: SweepReading) -> None:
        bench, place, plan = self.session.bench, self.session.bench.place, self.session.job.gauging.plan
        changed = book_sweep(
            self.session.opened, bench.cylinder, place, reading.clock_deg, reading.from_zero_mm, reading.line, reading.part_c
        )  # fmt: skip
        self.session.took(changed)
        depth = plan.depths_mm[place.level]
        self.session.set_probe(depth, 0.0 if bench.gauge.probe is None else bench.gauge.probe[1])
        if place.level + 1 < len(plan.depths_mm):
            self.session.set_place(Place(place.level + 1, place.clock))

    def enter_empty(self) -> str:
        own = self.page.enter_empty()
        if own is not None:
            return own
        state, bench = self.session.job, self.session.bench
        waiting = gauge.waiting_cylinders(state)
        if state.book_in.length_wanted:
            raise InputError("Type how long a cylinder is, from the deck to its bottom")
        if bench.cylinder in waiting:
            return super().enter_empty()
        if waiting:
            self.session.select(waiting[0])
            return ""
        if state.signing.stamp(self.name) is None:
            self.session.book(StepStamped(step=self.name, initials=self.session.person))
        self.session.go("call")
        return ""

    # -- moving --------------------------------------------------------------------------------------------------------

    def arrows(self, across: int, down: int) -> None:
        if self.page.arrows(across, down):
            return
        plan, place = self.session.job.gauging.plan, self.session.bench.place
        level = min(max(place.level + down, 0), len(plan.depths_mm) - 1)
        self.session.set_place(Place(level, (place.clock + across) % len(plan.clocks_deg)))

    def cycle_plan(self) -> str:
        """L: quick, full, race and the job's own plans in turn."""
        state = self.session.job
        plans = [standard_plan(state.book_in, state.figures, name) for name in STANDARD_PLANS] + list(
            state.gauging.own_plans
        )
        names = [p.name for p in plans]
        now = names.index(state.gauging.plan.name) if state.gauging.plan.name in names else -1
        plan = plans[(now + 1) % len(plans)]
        chosen = PlanChosen(name=plan.name, depths_mm=plan.depths_mm, clocks_deg=plan.clocks_deg)
        self.session.book(chosen, typed=f"plan {plan.name}")
        self.session.to_next_place()
        return (
            f"The {plan.name} plan: {len(plan.depths_mm)} levels by {len(plan.clocks_deg)} angles. What was read stays."
        )

    def mark_defect(self) -> str:
        """D: words for a defect at the probe, to be finished in the field."""
        from redline_bore.ui.steps.gauge_pages.defects import DefectsPage

        self.session.set_page("defects")
        bench = self.session.bench
        depth, clock = bench.gauge.probe or (self.session.job.gauging.plan.depths_mm[bench.place.level], 0.0)
        page = self.page
        assert isinstance(page, DefectsPage)
        page.mark_out((depth - 5.0, clock - 10.0), (depth + 5.0, clock + 10.0))
        return (
            f"Finish the words: {', '.join(DEFECT_KINDS)}; how deep, or can feel, catches, catches hard. Enter books."
        )
