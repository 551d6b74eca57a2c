"""Bore: the cut, the inserts and the bar, the run sheet; what is typed at the bar."""

from __future__ import annotations

from redline_bore.core.errors import InputError
from redline_bore.core.when import now
from redline_bore.job.bore import plan as bore
from redline_bore.job.bore.run import STEP
from redline_bore.job.call.asks import to_look_at
from redline_bore.job.kinds.bore import RunChecked
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.route import next_step
from redline_bore.job.state.hole import hole_of
from redline_bore.job.words.bore_run import run_of
from redline_bore.job.words.run_sheet import next_stamp
from redline_bore.ui import verbs
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.bore_pages.cut import CutPage
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.steps.paged import PagedStep
from redline_bore.ui.verbs import Deeds


class BoreStep(PagedStep):
    """The bore step: the bar's set-up, settings hole by hole, what each came out at."""

    name = "bore"
    titles = {"cut": "Cut", "run": "Run sheet", "inserts": "Inserts and bar"}
    topics = LEDGER | {"selection", "step", "page"}

    def make_page(self, name: str) -> StepPage:
        if name == "cut":
            return CutPage(self.session, self.theme, self.walls)
        from redline_bore.ui.steps.bore_pages import inserts, run

        if name == "inserts":
            return inserts.InsertsPage(self.session, self.theme, self.walls, self.parts.runner)
        return run.RunPage(self.session, self.theme, self.walls)

    def usual_line(self) -> LineText:
        s, state = self.session, self.session.job
        where = f"Cylinder {s.bench.cylinder} · the bar is not set up"
        if state.boring.bar is not None:
            where = f"Cylinder {s.bench.cylinder} · {state.boring.bar.insert}, {s.show.fine(state.boring.bar.feed_mm)} a turn at {state.boring.bar.rpm:g}"
        plan = bore.plan_of(state, s.bench.cylinder, now())
        example = s.show.size(state.as_read(plan.target_mm if plan.target_mm is not None else state.block.bore_mm))
        what = f"What it came out at, top to bottom: {example} {example} {example} across …"
        if plan.done is not None and s.bench.cylinder in to_look_at(state):
            what = "Look into the hole: touched all over, look clean; a patch that the tool never touched, look shadow"
        if state.boring.bar is None:
            what = f"M, then bar TPG 321 proposes feed and speed; or feed {s.show.fine(0.1)} rpm 900 mains"
        return LineText(where, what, "K stamps · Enter books · V next page", "—")

    def deeds(self) -> Deeds:
        """K stamps the check that is lit."""
        return {**super().deeds(), verbs.STAMP: self.stamp_check}

    def stamp_check(self) -> str:
        """K: stamp the check that is lit."""
        s = self.session
        item = next_stamp(run_of(s.job, s.bench.cylinder, s.show))
        if item is None:
            raise InputError(f"Every check of cylinder {s.bench.cylinder} is stamped")
        s.book(RunChecked(step=STEP, cylinder=item.cylinder, check=item.key))
        return f"Stamped: {item.words}."

    def enter_empty(self) -> str:
        s = self.session
        if not bore.all_bored(s.job):
            return self._go_on()
        if s.job.signing.stamp("bore") is None:
            s.book(StepStamped(step="bore", initials=s.person))
        s.go(next_step(s.job, "bore"))
        return {"hone": "Bored. The hone is next.", "sleeve": "Bored. The sleeves are next."}.get(
            s.bench.step, "Bored."
        )

    def _go_on(self) -> str:
        """To the next hole in the order that spreads the heat; the one that decides the size first."""
        look, here = to_look_at(self.session.job), self.session.bench.cylinder
        if first := bore.waits_for(self.session.job, here):
            self.session.select(first[0])
            return f"Cylinder {first[0]} decides the size: bore it and look."
        if here in look and hole_of(self.session.job, here) is not None:
            raise InputError("Look into the hole first: type look clean, or look shadow")
        ahead = [n for numbers in bore.still_to_bore(self.session.job) for n in numbers]
        if here in ahead:
            raise InputError("Nothing is typed: bore it, measure it, and type what it came out at")
        if not ahead:
            raise InputError("No hole is left for the bar")
        self.session.select(ahead[0])
        return f"Cylinder {ahead[0]} is next in the order that spreads the heat."

    def arrows(self, across: int, down: int) -> None:
        count = self.session.job.block.cylinders
        self.session.select((self.session.bench.cylinder - 1 + (across or down)) % count + 1)
