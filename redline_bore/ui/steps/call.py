"""Call: its pages, and what is booked in it: pistons, clearances, practices, the decision."""

from __future__ import annotations

from functools import partial

from redline_bore.core.frozen import replace
from redline_bore.job.call.finding import CallVerdict, judge
from redline_bore.job.call.stand_by import contradictions
from redline_bore.job.card import Advice, Mark
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.redline import WrongPiston, leading_window, wrong_pistons
from redline_bore.job.words.stand_by import wrong_piston_words
from redline_bore.ui import verbs
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.call_pages.ladder import LadderPage
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.steps.paged import PagedStep
from redline_bore.ui.verbs import Deeds

CALLED = {"bore": "bar", "sleeve": "sleeves", "hone": "hone", "finish": "finish", "sign_off": "sign-off"}


class CallStep(PagedStep):
    """The call step: moves the redline, books pistons and clearance, takes the decision."""

    name = "call"
    wheel_walks = True
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
        onward = "goes to the pistons" if self._wrong_piston() else "goes on" if self._goes_on() else "takes the call"
        return LineText(where, what, f"Enter {onward} · B puts it beside", "—")

    def arrows(self, across: int, down: int) -> None:
        self.page.arrows(across, down)

    def advice(self) -> Advice:
        advice, after = super().advice(), self._goes_on()
        if wrong := self._wrong_piston():
            said = wrong_piston_words(wrong, self.session.show)
            return replace(
                advice, sentence=f"{said} Measure it again, or move the redline and take another call.", mark=Mark.STOP,
                button="Go to the pistons", leads_on=True, unsure=False,
            )  # fmt: skip
        return replace(advice, button=f"Go to the {CALLED[after]}", leads_on=True, unsure=False) if after else advice

    def _wrong_piston(self) -> WrongPiston | None:
        """A piston that is none of the call, where that call is looked at on the ladder."""
        wrong = wrong_pistons(self.session.job)
        return wrong[0] if wrong and self.session.bench.page == "ladder" and self._is_taken() else None

    def _goes_on(self) -> str:
        """The step after, where the call looked at is the one that was taken and nothing speaks against it; else empty."""
        s, taken = self.session, self.session.job.calling.decision
        if taken is None or contradictions(s.job):
            return ""
        if s.bench.page == "options":
            from redline_bore.job.call.options import options_of  # the ladder needs none

            rows = options_of(s.job)
            there = not taken.bores and rows[min(s.bench.call.option, len(rows) - 1)].key == taken.way
        elif judge(s.job, s.rung_mm, s.apart).verdict is CallVerdict.LEAVE:
            there = taken.way == "rering"
        else:
            there = self._is_taken()
        return s.steps[s.steps.index(self.name) + 1] if there else ""

    def _is_taken(self) -> bool:
        """Whether the rung looked at is the call that was taken."""
        s, taken = self.session, self.session.job.calling.decision
        return (
            taken is not None and taken.bores and abs(taken.oversize_mm - s.rung_mm) < 1e-9 and taken.apart == s.apart
        )

    def enter_empty(self) -> str:
        if self._wrong_piston():
            self.session.set_page("pistons")
            return ""
        if after := self._goes_on():
            self.session.go(after)
            return ""
        return self.page.enter_empty() or super().enter_empty()

    def deeds(self) -> Deeds:
        """Practices change and a call is put beside on every page; the rest as the page has it."""
        practices = {
            verbs.AXIS: "axis", verbs.WEAR: "wear_side", verbs.ALLOWANCE: "hone_allowance", verbs.ODD: "odd_cylinder",
            verbs.BUYING: "pistons",
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
