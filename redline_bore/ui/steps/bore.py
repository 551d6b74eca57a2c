"""Bore: the cut, the inserts and the bar, the run sheet; what is typed at the bar."""

from __future__ import annotations

from dataclasses import replace

from redline_bore.core.errors import InputError
from redline_bore.job.bore import plan as bore
from redline_bore.job.bore.run import STEP, run_of
from redline_bore.job.ledger.entries import BarSet, Entry, RunChecked, StepStamped
from redline_bore.job.route import next_step
from redline_bore.job.run_sheet import next_stamp
from redline_bore.ui.session import LEDGER, today
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.bore_pages.cut import CutPage
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.steps.paged import PagedStep


class BoreStep(PagedStep):
    """The bore step: the bar's set-up, settings hole by hole, what each came out at."""

    name = "bore"
    titles = {"cut": "Cut", "run": "Run sheet", "inserts": "Inserts and bar"}
    topics = LEDGER | {"selection", "step", "page"}

    def make_page(self, name: str) -> StepPage:
        if name == "cut":
            return CutPage(self.session, self.theme, self.walls)
        from redline_bore.ui.steps.bore_pages import inserts, run

        made = {"run": run.RunPage, "inserts": inserts.InsertsPage}[name]
        return made(self.session, self.theme, self.walls)

    def usual_line(self) -> LineText:
        s, state = self.session, self.session.job
        where = f"Cylinder {s.bench.cylinder} · the bar is not set up"
        if state.bar is not None:
            where = f"Cylinder {s.bench.cylinder} · {state.bar.insert}, {s.show.fine(state.bar.feed_mm)} a turn at {state.bar.rpm:g}"
        plan = bore.plan_of(state, s.bench.cylinder, today())
        example = s.show.size(plan.target_mm) if plan.target_mm is not None else s.show.size(state.block.bore_mm)
        what = f"What it came out at, top to bottom: {example} {example} {example} across …"
        if state.bar is None:
            what = f"M, then bar TPG 321 proposes feed and speed; or feed {s.show.fine(0.1)} rpm 900 mains"
        return LineText(where, what, "K stamps · Enter books · V next page", "—")

    def entered(self, text: str) -> str:
        if not text.strip() or text.strip()[-1].lower() in "cf":
            return super().entered(text)
        from redline_bore.job.typed.bore import entry_at_bar
        from redline_bore.job.typed.where import Where

        s, state = self.session, self.session.job
        machine = s.shop_machine() if text.split()[0].lower() == "bar" and state.machine is None else None
        if machine is not None:  # the shop's machine is used as it was stated last, and this job keeps it
            state = replace(state, machine=machine, memo={})
        entry = entry_at_bar(text, state, Where(s.bench.cylinder, s.bench.place, s.bench.units), today())
        remark = ""
        if isinstance(entry, BarSet):
            entry, remark = self._set_up(entry)
        if machine is not None:
            s.book(machine, typed="the shop's machine as stated last")
        s.book(entry, typed=text.strip())
        return remark

    def _set_up(self, entry: BarSet) -> tuple[Entry, str]:
        """The bar with what its machine and insert have taught on earlier jobs, and a remark on that."""
        entry = self.session.taught(entry)
        told = f"{self.session.show.fine(entry.feed_mm)} a turn at {entry.rpm:g}."
        if not entry.taught_by:
            return entry, f"{entry.insert}: {told}"
        return (
            entry,
            f"{entry.insert}: {told} Taught by {', '.join(entry.taught_by)}: {self.session.show.fine(entry.usual_mm)} over its setting.",
        )

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
        if s.job.stamp("bore") is None:
            s.book(StepStamped(step="bore", initials=s.person))
        s.go(next_step(s.job, "bore"))
        return {"hone": "Bored. The hone is next.", "sleeve": "Bored. The sleeves are next."}.get(
            s.bench.step, "Bored."
        )

    def _go_on(self) -> str:
        """To the next hole in the order that spreads the heat."""
        plan = bore.plan_of(self.session.job, self.session.bench.cylinder, today())
        ahead = [n for numbers in bore.still_to_bore(self.session.job) for n in numbers]
        if plan.done is None and self.session.bench.cylinder in ahead:
            raise InputError("Nothing is typed: bore it, measure it, and type what it came out at")
        if not ahead:
            raise InputError("No hole is left for the bar")
        self.session.select(ahead[0])
        return f"Cylinder {ahead[0]} is next in the order that spreads the heat."

    def move(self, across: int, down: int) -> None:
        count = self.session.job.block.cylinders
        self.session.select((self.session.bench.cylinder - 1 + (across or down)) % count + 1)
