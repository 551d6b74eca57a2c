"""Call: its pages, and what is booked in it: pistons, clearances, practices, the decision."""

from __future__ import annotations

from functools import partial

from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.redline import leading_window
from redline_bore.ui import verbs
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.call_pages.ladder import LadderPage
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.steps.paged import PagedStep
from redline_bore.ui.verbs import Deeds


class CallStep(PagedStep):
    """The call step: moves the redline, books pistons and clearance, takes the decision."""

    name = "call"
    titles = {
        "ladder": "Size ladder", "options": "Options", "pistons": "Pistons", "shadow": "Shadow", "beside": "Compare and order",
    }  # fmt: skip
    topics = LEDGER | {"rung", "selection", "step", "page", "option"}
    digits_pick = True

    def make_page(self, name: str) -> StepPage:
        if name == "ladder":
            return LadderPage(self.session, self.theme, self.walls)
        from redline_bore.ui.steps.call_pages import beside, options, pistons, shadow

        made = {
            "options": options.OptionsPage, "pistons": pistons.PistonsPage, "shadow": shadow.ShadowPage, "beside": beside.BesidePage,
        }[name]  # fmt: skip
        return made(self.session, self.theme, self.walls)

    def usual_line(self) -> LineText:
        state, bench, show = self.session.job, self.session.bench, self.session.show
        window, piston = leading_window(state), state.calling.piston(bench.cylinder)
        measured = f"piston {show.size(piston.size_mm)}" if piston else "piston not measured"
        where = f"Cylinder {bench.cylinder} · {measured} · clearance {show.size(window.low_mm)}–{show.size(window.high_mm)} by {window.source}"
        what = "↑ ↓ move the redline, with Shift this cylinder alone; S sleeves it; M types"
        return LineText(where, what, "Enter takes the call · B puts it beside", "—")

    def arrows(self, across: int, down: int) -> None:
        self.page.arrows(across, down)

    def enter_empty(self) -> str:
        return self.page.enter_empty() or super().enter_empty()

    def deeds(self) -> Deeds:
        """Practices change and a call is put beside on every page; the rest as the page has it."""
        practices = {
            verbs.AXIS: "axis", verbs.WEAR: "wear_side", verbs.ALLOWANCE: "hone_allowance", verbs.ODD: "odd_cylinder",
            verbs.PRACTICE: "clearance",
        }  # fmt: skip
        cycles = {verb: partial(self.cycle, topic) for verb, topic in practices.items()}
        return {**super().deeds(), **cycles, verbs.BESIDE: self.put_beside}

    def cycle(self, topic: str) -> str:
        """The next practice of a topic, on whichever page is on; for clearance, the next source leads. Recorded on the job."""
        page = self.made("ladder")
        assert isinstance(page, LadderPage)
        return page.cycle_practice(topic)

    def put_beside(self) -> str:
        """B: keep the call that is looked at, to compare the next one with; again lets it go."""
        self.session.put_beside()
        return (
            "Kept beside: move the redline and compare."
            if self.session.bench.call.beside
            else "Let go; nothing is beside."
        )
