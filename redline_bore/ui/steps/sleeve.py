"""Sleeve: how each grips, how it goes in, the deck it counts from, the run sheet; what is typed here."""

from __future__ import annotations

from redline_bore.core.errors import InputError
from redline_bore.job.bore.plan import all_bored
from redline_bore.job.kinds.bore import RunChecked
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.route import sleeved, sleeved_cylinders
from redline_bore.job.sleeve.run import STEP, SleeveStage, all_in, stage_of
from redline_bore.job.words.run_sheet import next_stamp
from redline_bore.job.words.sleeve import stage_word
from redline_bore.job.words.sleeve_run import run_of
from redline_bore.ui import verbs
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.steps.paged import PagedStep
from redline_bore.ui.steps.sleeve_pages.fit import FitPage
from redline_bore.ui.verbs import Deeds

WANTED = {
    SleeveStage.OLD: "old, then the outside of the sleeve that comes out",
    SleeveStage.PARENT: "parent, then sizes round the clock, at a depth",
    SleeveStage.SLEEVE: "sleeve, outside x bore, flange, long, its temperature",
    SleeveStage.BORE_PARENT: "parent again, once it is bored; sleeve, the one for it",
    SleeveStage.SEAT: "counterbore, then its depth from the deck",
    SleeveStage.READ: "after, then its bore from the top down",
}


class SleeveStep(PagedStep):
    """The sleeve step. Left and right pick a cylinder, up and down what the page offers."""

    name = "sleeve"
    wheel_walks = True
    titles = {"fit": "Fit and ways", "heat": "Heat and cold", "deck": "Deck and counterbore", "run": "Run sheet"}
    topics = LEDGER | {"selection", "step", "page", "option"}

    def make_page(self, name: str) -> StepPage:
        if name == "fit":
            return FitPage(self.session, self.theme, self.walls)
        from redline_bore.ui.steps.sleeve_pages import deck, heat, run

        made = {"heat": heat.HeatPage, "deck": deck.DeckPage, "run": run.RunPage}[name]
        return made(self.session, self.theme, self.walls)

    def usual_line(self) -> LineText:
        s = self.session
        cylinder = s.bench.cylinder
        if not sleeved(s.job, cylinder):
            return LineText(f"Cylinder {cylinder} · keeps its wall", "← → pick a cylinder", "V next page", "—")
        stage = stage_of(s.job, cylinder)
        wanted = WANTED.get(
            stage.key,
            "↑ ↓ pick a way, Enter takes it" if stage.key in (SleeveStage.WAY, SleeveStage.DOES_NOT_GO) else "",
        )
        what = f"M, then {wanted}" if stage.key in WANTED else wanted or "K stamps the check that is lit"
        return LineText(f"Sleeve {cylinder} · {stage_word(stage)}", what, "K stamps · ← → cylinder · V page", "—")

    def deeds(self) -> Deeds:
        """K stamps the check that is lit."""
        return {**super().deeds(), verbs.STAMP: self.stamp_check}

    def stamp_check(self) -> str:
        """K: stamp the check that is lit."""
        s = self.session
        if not sleeved(s.job, s.bench.cylinder):
            raise InputError(f"Cylinder {s.bench.cylinder} gets no sleeve; there is nothing to check")
        item = next_stamp(run_of(s.job, s.bench.cylinder, s.show))
        if item is None:
            raise InputError(f"Every check of sleeve {s.bench.cylinder} is stamped")
        s.book(RunChecked(step=STEP, cylinder=item.cylinder, check=item.key))
        return f"Stamped: {item.words}."

    def enter_empty(self) -> str:
        s = self.session
        if all_in(s.job):
            if s.job.signing.stamp(STEP) is None:
                s.book(StepStamped(step=STEP, initials=s.person))
            s.go("hone" if all_bored(s.job) else "bore")
            return "Every sleeve is in."
        told = self.page.enter_empty()
        if told is not None:
            return told
        ahead = [c for c in sleeved_cylinders(s.job) if s.job.sleeving.after_of(c) is None and c != s.bench.cylinder]
        if s.job.sleeving.after_of(s.bench.cylinder) is not None and ahead:
            s.select(ahead[0])
            return f"Sleeve {ahead[0]} is next."
        raise InputError(
            f"Nothing is typed: {WANTED.get(stage_of(s.job, s.bench.cylinder).key, 'K stamps the check that is lit')}"
        )

    def arrows(self, across: int, down: int) -> None:
        if self.page.arrows(across, down):
            return
        count = self.session.job.block.cylinders
        self.session.select((self.session.bench.cylinder - 1 + (across or down)) % count + 1)
