"""Finish: traces from the profilometer or from files, their pages, the crosshatch from a picture."""

from __future__ import annotations

import re
from pathlib import Path

from redline_bore.core.errors import InputError
from redline_bore.core.texture.profile import Trace, even_trace
from redline_bore.desk.readings import book_trace
from redline_bore.instruments.line_protocol import TraceReading
from redline_bore.job.finish.finding import next_spot, not_traced
from redline_bore.job.finish.judgement import SPOTS, spots_of, strokes_had
from redline_bore.job.hone.finding import bores_nothing
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.defects import PhotoAttached
from redline_bore.job.kinds.measures import depth, number
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.profiles.practice import next_practice
from redline_bore.job.words import finish as finish_advice
from redline_bore.store.exports import typed_path
from redline_bore.ui import verbs
from redline_bore.ui.steps.base import Heard, LineText
from redline_bore.ui.steps.finish_pages.trace import TracePage
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.steps.paged import PagedStep
from redline_bore.ui.verbs import Deeds

_TRACE = re.compile(
    r"trace\s+(?P<path>.+?)(?:\s+(?P<x>m|mm|[uµμ]m|nm|in|uin)\s+(?P<z>m|mm|[uµμ]m|nm|in|uin))?"
    r"(?:\s+at\s+(?P<spot>top|middle|bottom|[\d.,]+(?:mm|in)?))?(?:\s+(?P<when>before|after\s+[\d.]+))?",
    re.IGNORECASE,
)


class FinishStep(PagedStep):
    """The finish step: books traces and pictures, walks the spots of the wall."""

    name = "finish"
    reads = True
    asks = "profilometer"
    file_kinds = "Traces and jobs (*.csv *.txt *.prf *.x3p *.sdf *.json)"
    photo_title = "A picture of the wall, the bore's axis upright"
    titles = {
        "trace": "Trace and curve", "all": "All cylinders", "plateau": "Plateau", "paper": "Probability", "hatch": "Crosshatch",
    }  # fmt: skip
    topics = LEDGER | {"selection", "step", "page", "spot", "path shown"}

    def make_page(self, name: str) -> StepPage:
        if name == "trace":
            return TracePage(self.session, self.theme, self.walls)
        from redline_bore.ui.steps.finish_pages import all_cylinders, hatch, paper, plateau

        if name == "plateau":
            return plateau.PlateauPage(self.session, self.theme, self.walls, self.parts.runner)
        made = {"all": all_cylinders.AllPage, "paper": paper.PaperPage, "hatch": hatch.HatchPage}[name]
        return made(self.session, self.theme, self.walls)

    def usual_line(self) -> LineText:
        s, state = self.session, self.session.job
        spot = SPOTS[s.bench.spot]
        where = f"Cylinder {s.bench.cylinder} · {spot}, {s.show.down(spots_of(state)[s.bench.spot])}"
        had = None if bores_nothing(state) else strokes_had(state, s.bench.cylinder)  # there no plateau is made
        told = "" if had is None else " · before its plateau" if had == 0.0 else f" · after {had:g} plateau strokes"
        return LineText(
            where + told, "Space traces here · Ctrl+O takes a file · Ctrl+6 simulated", "↑↓ spot · V next page", "—"
        )

    # -- taking in -------------------------------------------------------------------------------------------------

    def would(self, text: str) -> str:
        return "" if text.split()[:1] and text.split()[0].lower() in ("trace", "picture") else super().would(text)

    def entered(self, text: str) -> str:
        words = text.split()
        if not words:
            return self.page.enter_empty() or self.enter_empty()
        if words[0].lower() == "trace":
            return self.take_typed(text.strip())
        if words[0].lower() == "picture":
            return self.take_picture(typed_path(text.strip()[len("picture") :].strip()))
        return super().entered(text)

    def take_typed(self, text: str) -> str:
        """``trace wall.csv mm um at top before``: a trace from a file. Raises BenchError; what is typed is kept."""
        from redline_bore.store.traces.files import read_trace

        found = _TRACE.fullmatch(text)
        if found is None:
            raise InputError("A trace is taken in as: trace wall.csv, then mm um if it does not say, then at top")
        s, state = self.session, self.session.job
        units = (found["x"], found["z"]) if found["x"] else None
        path = typed_path(found["path"])
        trace = read_trace(path, units)
        spot = (found["spot"] or SPOTS[s.bench.spot]).lower()
        where = Where(s.bench.cylinder, s.bench.place, s.bench.units)
        deep = spots_of(state)[SPOTS.index(spot)] if spot in SPOTS else depth(spot, state, where)
        had = None if bores_nothing(state) else strokes_had(state, s.bench.cylinder)  # there no plateau is made
        if found["when"]:
            when = found["when"].lower().split()
            had = 0.0 if when[0] == "before" else number(when[1], "count of strokes")
        return self._book(trace, deep, had, path.name, text)

    def take_file(self, path: Path) -> str:
        """A file was chosen: taken in where it states its units, else put into the field to be finished."""
        from redline_bore.store.traces.text import UnitsWanted

        try:
            return self.take_typed(f"trace {path}")
        except UnitsWanted as error:
            self.parts.propose(f"trace {path} mm um")
            return f"{error}. Put right what stands in the field, then Enter."

    def deeds(self) -> Deeds:
        """C judges by another practice."""
        return {**super().deeds(), verbs.PRACTICE: self.next_practice}

    def hear(self, message: object, pressed: bool, typed: str) -> Heard:
        """A trace is booked where the profilometer stands, whatever is on the screen."""
        return Heard(remark=self.traced(message)) if isinstance(message, TraceReading) else Heard()

    def traced(self, message: TraceReading) -> str:
        """The profilometer has traced: booked at once, where the spot is lit; the next spot lights up."""
        s, state = self.session, self.session.job
        trace = even_trace(message.step_um, message.heights_um)
        spot, cylinder = s.bench.spot, s.bench.cylinder
        return self._book(trace, spots_of(state)[spot], strokes_had(state, cylinder), "profilometer", message.line)

    def _book(self, trace: Trace, deep: float, had: float | None, source: str, typed: str) -> str:
        s = self.session
        s.took(book_trace(s.opened, s.bench.cylinder, trace, deep, had, source, typed))
        told = finish_advice.booked_words(s.job, s.bench.cylinder, deep)
        s.set_spot(next_spot(s.job, s.bench.cylinder, s.bench.spot))
        return told

    def take_picture(self, path: Path) -> str:
        """Read the crosshatch off a picture and keep both. Raises BenchError; nothing is kept of a picture that says nothing."""
        from redline_bore.store.photos import photo_from_file
        from redline_bore.ui.hatch_picture import hatch_entry

        s = self.session
        photo = photo_from_file(path)
        entry = hatch_entry(photo.data, s.bench.cylinder)
        s.logbook.keep_photo(photo)
        record = s.book(entry, typed=f"picture {path.name}")
        s.book(PhotoAttached(seq=record.seq, name=path.name, media=photo.media, sha256=photo.sha256), typed=path.name)
        s.set_page("hatch")
        return f"{path.name}: {entry.up_deg + entry.down_deg:.1f}° included; the picture is kept."

    # -- going on --------------------------------------------------------------------------------------------------

    def enter_empty(self) -> str:
        s = self.session
        missing = not_traced(s.job)
        if missing:
            if s.bench.cylinder not in missing:
                s.select(missing[0])
                return f"Cylinder {missing[0]} has not been traced since its plateau."
            raise InputError("Nothing is typed: Space traces, Ctrl+O takes a file; PgDn goes on without")
        if s.job.signing.stamp("finish") is None:
            s.book(StepStamped(step="finish", initials=s.person))
        s.go("sign_off")
        return "The finish is stamped."

    def next_practice(self) -> str:
        """C: judged by the family, or by Ra and Rz."""
        chosen = next_practice("finish", self.session.job.booking.practice("finish"))
        self.session.book(PracticeChosen(topic="finish", name=chosen.name))
        return f"Judged by {chosen.title}: {chosen.reason}."

    def arrows(self, across: int, down: int) -> None:
        if down:
            self.session.set_spot(self.session.bench.spot + down)
            return
        count = self.session.job.block.cylinders
        self.session.select((self.session.bench.cylinder - 1 + across) % count + 1)
