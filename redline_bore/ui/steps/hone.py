"""Hone: its pages, the booking of checks, going from step to step."""

from __future__ import annotations

from redline_bore.core.errors import InputError
from redline_bore.desk.readings import size_read
from redline_bore.job.hone.finding import still_to_hone
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.hone import KEPT_WITH_CHECKS, HoneStepBegan, check_example
from redline_bore.job.kinds.phrase import At, Where
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.profiles.practice import next_practice
from redline_bore.job.route import next_step
from redline_bore.job.words.missing import say_missing
from redline_bore.ui import verbs
from redline_bore.ui.steps.base import Heard, LineText
from redline_bore.ui.steps.hone_pages.stock import StockPage
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.steps.paged import PagedStep
from redline_bore.ui.verbs import Deeds


class HoneStep(PagedStep):
    """The hone step: books checks, goes from step to step."""

    name = "hone"
    reads = True
    paper = "bench sheet"
    titles = {
        "stock": "Stock left", "set_up": "Set-up", "plan": "Strokes", "steps": "Steps", "load": "Load by depth",
        "pacer": "Pacer", "ledger": "Stock ledger",
    }  # fmt: skip
    topics = LEDGER | {"selection", "step", "page", "plan shown", "load", "beat"}

    def back(self) -> frozenset[str]:
        """A machine hone keeps its own time; a drill and a ball hone tell no load."""
        state = self.session.state
        run = None if state is None else state.honing.run
        machine = "" if run is None else run.machine
        return frozenset({"vertical": {"pacer"}, "drill": {"load"}, "ball": {"load"}}.get(machine, ()))

    def make_page(self, name: str) -> StepPage:
        if name == "stock":
            return StockPage(self.session, self.theme, self.walls)
        from redline_bore.ui.steps.hone_pages import ledger, load, pacer, plan, set_up, steps

        if name == "plan":
            return plan.PlanPage(self.session, self.theme, self.walls, self.parts.runner)
        made = {
            "set_up": set_up.SetUpPage, "steps": steps.StepsPage, "load": load.LoadPage, "pacer": pacer.PacerPage,
            "ledger": ledger.LedgerPage,
        }[name]  # fmt: skip
        return made(self.session, self.theme, self.walls)

    def usual_line(self) -> LineText:
        from redline_bore.job.proposals import StepProposals

        p = progress_of(self.session.job, self.session.bench.cylinder)
        where = f"Cylinder {p.cylinder} · step {p.step + 1} of {len(p.practice.steps)}, {p.step_name} · goes to check {len(p.checks) + 1}"
        example = check_example(At(self.session.job, self.session.where, StepProposals()))
        return LineText(
            where,
            f"Double strokes, then sizes from the top down: {example}",
            "Enter books · Space reads · N next step",
            "—",
        )

    def entered(self, text: str) -> str:
        p = progress_of(self.session.job, self.session.bench.cylinder)
        words = text.split()
        light = self.session.job.calling.decision is not None and not self.session.job.calling.decision.bores
        # towards a piston that turns out to be another's it was honed all the same, and is booked
        nowhere = p.redline.size_mm is None and p.redline.piston is None and not light
        if nowhere and len(words) > 1 and not words[0][:1].isalpha():
            raise InputError(f"There is no redline yet: {say_missing(p.redline.missing)}. What you typed is kept")
        if not words:
            return self.page.enter_empty() or self._go_on()
        return super().entered(text)

    def _go_on(self) -> str:
        """Enter with nothing typed, at a cylinder that is at size: the next one, or the step is stamped."""
        s = self.session
        if self.page.name != "stock" or not progress_of(s.job, s.bench.cylinder).at_size:
            return super().entered("")
        ahead = still_to_hone(s.job, s.bench.cylinder)
        if ahead:
            s.select(ahead[0])
            return f"Cylinder {ahead[0]} is next."
        if s.job.signing.stamp("hone") is None:
            s.book(StepStamped(step="hone", initials=s.person))
        s.go(next_step(s.job, "hone"))
        return "The hone is stamped. Trace every wall."

    @property
    def presses(self) -> str:
        """The hone's own button where its load is shown."""
        return "hone" if self.session.bench.page == "load" else self.asks

    def deeds(self) -> Deeds:
        """On to the next step, another practice; the rest as the page has it."""
        own = {verbs.NEXT_STEP: self.next_step, verbs.PRACTICE: self.next_practice}
        return {**super().deeds(), **own}

    def hear(self, message: object, pressed: bool, typed: str) -> Heard:
        """The hone's load goes to its page, whichever is on; a size from the gauge stands behind the strokes and sizes before."""
        from redline_bore.instruments.line_protocol import GaugeReading, HoneLoad
        from redline_bore.ui.instrument_link import GarbledLoad
        from redline_bore.ui.steps.hone_pages.load import LoadPage

        if isinstance(message, (HoneLoad, GarbledLoad)):
            page = self.made("load")
            assert isinstance(page, LoadPage)
            page.hear(message)
        if not isinstance(message, GaugeReading):
            return Heard()
        bench = self.session.bench
        where = Where(bench.cylinder, bench.place, bench.units, True, message.body_c)
        word = self.session.keep_read(size_read(self.session.opened, message.from_zero_mm, where))
        return Heard(field=f"{typed.rstrip()} {word} ".lstrip())  # a blank behind, so that Space reads on

    def next_step(self) -> str:
        """Go to the next step of the honing practice; strokes count from nought again."""
        p = progress_of(self.session.job, self.session.bench.cylinder)
        if p.step >= len(p.practice.steps) - 1:
            raise InputError(f"{p.step_name.capitalize()} is the last step of this practice")
        self.session.book(HoneStepBegan(cylinder=p.cylinder, step=p.step + 1))
        return f"Cylinder {p.cylinder} goes to {p.practice.steps[p.step + 1]}; strokes count from nought."

    def next_practice(self) -> str:
        """Change the honing practice; recorded on the job, and only before the first check."""
        if self.session.job.honing.checks:
            raise InputError(KEPT_WITH_CHECKS)
        chosen = next_practice("honing", self.session.job.booking.practice("honing"))
        self.session.book(PracticeChosen(topic="honing", name=chosen.name))
        return f"Honing by {chosen.title}: {chosen.reason}."

    def arrows(self, across: int, down: int) -> None:
        count = self.session.job.block.cylinders
        self.session.select((self.session.bench.cylinder - 1 + (across or down)) % count + 1)
