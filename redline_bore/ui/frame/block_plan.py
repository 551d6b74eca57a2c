"""The block plan: always there, to scale; it selects the cylinder and shows who is done, next, odd."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QMouseEvent

from redline_bore.core.shape import LevelFit
from redline_bore.core.show import Show
from redline_bore.job.card import Mark
from redline_bore.job.gauge.analysis import colour_scale, places_read, shape_of
from redline_bore.job.gauge.extremes import wear_told
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.redline import planned_mm
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState
from redline_bore.ui.paint.deck_plan import BoreLook, Tightening, bore_at, draw_deck_plan
from redline_bore.ui.paint.pencil import MIDDLE, RIGHT, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.theme.theme import Theme


def looks_of(
    state: JobState, step: str, show: Show, rung_mm: float | None = None, apart: Sequence[Apart] = ()
) -> list[BoreLook]:
    """What the plan shows under each bore at a step."""
    make = {
        "bore": _at_bore,
        "sleeve": _at_sleeve,
        "hone": _at_hone,
        "finish": _at_finish,
        "sign_off": _at_sign_off,
    }.get(step)
    if step == "call":
        return _at_call(state, rung_mm or 0.0, show, apart)
    return make(state, show) if make is not None else _at_gauge(state, show)


def _worst_fit(state: JobState, cylinder: int) -> LevelFit | None:
    levels = shape_of(state, cylinder).levels
    return max(levels, key=lambda v: v.fit.mean_mm).fit if levels else None


def _at_gauge(state: JobState, show: Show) -> list[BoreLook]:
    looks, count = [], len(state.gauging.plan.places())
    for c in state.cylinders:
        shape, read = shape_of(state, c), len(places_read(state, c, state.clamped.plate_on))
        gaps = any(g.cylinder == c for g in state.gauging.ring_gaps)
        if shape.wear is not None and read == count:
            figure, word, mark = show.rough(wear_told(state, c, shape.plate_on) or 0.0), "wear", Mark.PLAIN
        elif read:
            figure, word, mark = f"{read}/{count}", "places read", Mark.PLAIN
        else:
            figure, word, mark = "—", "gaps only" if gaps else "not read", Mark.LOOK
        looks.append(BoreLook(c, _worst_fit(state, c), figure, word, mark, planned_mm(state, c) is not None))
    return looks


def _at_call(state: JobState, rung_mm: float, show: Show, apart: Sequence[Apart] = ()) -> list[BoreLook]:
    from redline_bore.job.call.finding import judge
    from redline_bore.job.words.fares import FARES_SHORT, called_words

    found, looks = judge(state, rung_mm, apart), []
    for f in found.fates:
        (word, mark), size = called_words(found, f), "sleeve" if f.sleeved else show.step(f.oversize_mm)
        word = FARES_SHORT.get(word, word)
        looks.append(BoreLook(f.cylinder, _worst_fit(state, f.cylinder), size, word, mark, True))
    return looks


def _at_bore(state: JobState, show: Show) -> list[BoreLook]:
    from redline_bore.job.bore.finding import BoreCall, judge
    from redline_bore.job.words.bore import say

    short = {
        BoreCall.CRACKED: "cracked", BoreCall.DONE_NO_REDLINE: "no redline", BoreCall.OVER: "past: stop", BoreCall.RECUT: "cut again",
        BoreCall.UNPROVED: "measure it", BoreCall.LOOK: "look into it", BoreCall.LOOK_FIRST: "waits for a look",
        BoreCall.GAUGE_PATCH: "gauge patch", BoreCall.PATCH_STAYS: "shadow stays",
        BoreCall.WAITS_FOR_SLEEVE: "waits for sleeve", BoreCall.AGAINST_CALL: "do not bore", BoreCall.NOT_KNOWN: "not yet",
    }  # fmt: skip
    looks = []
    for c in state.cylinders:
        found = judge(state, c)
        p, mark = found.plan, say(state, found, show).mark
        if p.done is not None and p.redline_mm is not None:
            figure, word = (
                show.size(abs(found.left_mm)),
                short.get(found.call, "uneven" if found.uneven else "left to hone"),
            )
        elif p.target_mm is not None and p.passes_mm and found.call not in short:
            figure, word, mark = show.size(p.target_mm), "bore to", Mark.PLAIN
        else:
            figure, word = "—", short.get(found.call, "not yet")
        looks.append(BoreLook(c, _worst_fit(state, c), figure, word, mark, p.redline_mm is not None))
    return looks


def _at_sleeve(state: JobState, show: Show) -> list[BoreLook]:
    from redline_bore.job.route import sleeved
    from redline_bore.job.sleeve.fit import fit_of
    from redline_bore.job.sleeve.run import stage_of
    from redline_bore.job.words.sleeve import stage_mark, stage_word

    looks = []
    for c in state.cylinders:
        grip = fit_of(state, c).grip
        if not sleeved(state, c):
            figure, word, mark = "—", "no sleeve", Mark.PLAIN
        else:
            stage = stage_of(state, c)
            figure = "—" if grip is None else show.size(grip.interference_mm)
            word, mark = stage_word(stage), stage_mark(stage)
        looks.append(BoreLook(c, None, figure, word, mark, False))
    return looks


def _at_hone(state: JobState, show: Show) -> list[BoreLook]:
    from redline_bore.job.hone.progress import progress_of
    from redline_bore.job.redline import wrong_pistons

    looks, wrong = [], [w.cylinder for w in wrong_pistons(state)]
    for c in state.cylinders:
        p = progress_of(state, c)
        if c in wrong:  # what is left hangs on it
            figure, word, mark = "—", "wrong piston", Mark.STOP
        elif p.redline.size_mm is None:
            figure, word, mark = "—", "no redline", Mark.LOOK
        elif p.left_mm is None:
            figure, word, mark = "—", "not begun", Mark.PLAIN
        elif p.over:
            figure, word, mark = show.size(p.past_mm), "past: stop", Mark.STOP
        elif p.at_size:
            figure, word, mark = show.size(max(p.left_mm, 0.0)), *_at_size(state, p.cylinder)
        else:
            figure, word, mark = show.size(p.left_mm), "left", Mark.PLAIN
        looks.append(BoreLook(c, _worst_fit(state, c), figure, word, mark, p.redline.size_mm is not None))
    return looks


def _at_size(state: JobState, cylinder: int) -> tuple[str, Mark]:
    """A hole at size; or at size, and something speaks against leaving it so: what the card says, in two words. A tick is for what is sure."""
    from redline_bore.job.calls import hone_call
    from redline_bore.job.hone.finding import HoneCall
    from redline_bore.job.hone.progress import progress_of
    from redline_bore.job.hone.shape import shape_at_hone

    shape, last = shape_at_hone(state, cylinder), progress_of(state, cylinder).last
    if shape is not None and shape.out:
        return "out of shape", Mark.STOP
    against = {
        HoneCall.CRACKED: ("cracked", Mark.STOP), HoneCall.WAITS_FOR_PISTON: ("no piston", Mark.LOOK),
        HoneCall.PLATE_DIFFERS: ("wrong plate", Mark.LOOK), HoneCall.COOL: ("warm", Mark.LOOK),
    }  # fmt: skip
    if (found := against.get(hone_call(state, cylinder).call)) is not None:
        return found
    return ("at size", Mark.SOUND) if last is not None and last.both_ends else ("read ends", Mark.LOOK)


def _at_finish(state: JobState, show: Show) -> list[BoreLook]:  # noqa: ARG001  (a table of looks, all called alike)
    from redline_bore.core.fit import Decision
    from redline_bore.job.finish.finding import wanted
    from redline_bore.job.finish.judgement import SPOTS, TraceStage, finish_of

    looks = []
    for c in state.cylinders:
        found = finish_of(state, c)
        figure = f"{len(found.traces)}/{len(SPOTS)}" if found.traces else "—"
        if found.stage is TraceStage.NONE:
            word, mark = ("not traced", Mark.LOOK) if wanted(state, found) else ("none wanted", Mark.PLAIN)
        elif found.since:
            word, mark = "trace again", Mark.LOOK
        elif found.where(Decision.OUT):
            word, mark = f"{found.where(Decision.OUT)[0].parameter} is out", Mark.STOP
        elif found.where(Decision.TOO_CLOSE):
            word, mark = "too close to call", Mark.LOOK
        elif found.stage is TraceStage.BEFORE:
            word, mark = "before plateau", Mark.PLAIN
        else:
            word, mark = ("finish in", Mark.SOUND) if found.fine else ("no window", Mark.LOOK)
        looks.append(BoreLook(c, _worst_fit(state, c), figure, word, mark, planned_mm(state, c) is not None))
    return looks


def _at_sign_off(state: JobState, show: Show) -> list[BoreLook]:
    from redline_bore.job.sign_off.sheet import sheet_of

    looks = []
    for row in sheet_of(state).rows:
        figure = show.size(row.clearance_mm) if row.clearance_mm is not None else "—"
        left = row.progress.left_mm
        word = {"in": "clearance in", "out": "clearance out"}.get(str(row.decision), "too close to call")
        mark = {"in": Mark.SOUND, "out": Mark.STOP}.get(str(row.decision), Mark.LOOK)
        if row.clearance_mm is None:
            word = "no clearance"
        elif row.short:
            figure, word, mark = "—" if left is None else show.size(left), "left to size", Mark.LOOK
        looks.append(
            BoreLook(row.cylinder, _worst_fit(state, row.cylinder), figure, word, mark, row.final_mm is not None)
        )
    return looks


LIGHT_WORDS = {"leave": "left as it is", "deglaze": "deglaze", "rering": "re-ring"}


def company_words(people: Sequence[str]) -> str:
    """Who else is at this job."""
    named = [p or "somebody" for p in people]
    return f"{' and '.join(named)} {'is' if len(named) == 1 else 'are'} at this job too"


class BlockPlan(Picture):
    """The plan on the left. A click selects a cylinder."""

    needs_job, behind = False, True
    topics = LEDGER | {"selection", "step", "rung", "new_job", "page", "pulled", "company"}

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Block plan")
        self.setObjectName("plan")
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        theme.changed.connect(self.restyle)
        self.restyle()

    def restyle(self) -> None:
        self.setFixedWidth(self.theme.px(250))

    def _looks(self, state: JobState) -> list[BoreLook]:
        step = self.session.bench.step
        if step != "call":
            return looks_of(state, step, self.session.show)
        decision = state.calling.decision
        if decision is not None and self.session.call_mm is None:
            return [
                BoreLook(c, _worst_fit(state, c), "—", LIGHT_WORDS[decision.way], Mark.PLAIN, False)
                for c in state.cylinders
            ]
        return looks_of(state, step, self.session.show, self.session.rung_mm, self.session.apart)

    def said(self) -> str:
        if self.session.state is None:
            return ""
        looks = self._looks(self.session.state)
        here = f"; {company_words(self.session.company)}" if self.session.company else ""
        return "; ".join(f"cylinder {k.cylinder}: {k.figure} {k.word}" for k in looks) + here

    def _area(self) -> QRectF:
        px = self.theme.px
        below = px(32) if self.session.company else px(10)
        return QRectF(self.rect()).adjusted(px(6), px(40), -px(4), -below)

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, state = pencil.px, self.session.state
        pencil.rect(area, "sheet")
        pencil.line(area.right(), 0, area.right(), area.bottom(), "rule")
        pencil.text(QRectF(px(16), px(10), px(120), px(20)), "Block plan", 14, "graphite")
        pencil.text(
            QRectF(px(110), px(10), area.width() - px(126), px(20)), "front ↑", 12, "graphite", align=RIGHT | MIDDLE
        )
        if self.session.bench.new_job or state is None:
            pencil.text(
                QRectF(px(16), px(46), area.width() - px(30), px(60)),
                "Drawn once the job is booked in.",
                14,
                "graphite",
                wrap=True,
            )
            return
        if others := self.session.company:
            here = QRectF(px(16), area.bottom() - px(24), area.width() - px(30), px(20))
            pencil.text(here, pencil.fitted(company_words(others), here.width(), 13), 13, "ink", True, MIDDLE)
        looks = self._looks(state)
        draw_deck_plan(
            pencil,
            self._area(),
            state.block,
            looks,
            self.session.bench.cylinder,
            colour_scale(state),
            self._tightening(state),
            self._path(state),
        )

    def _path(self, state: JobState) -> tuple[tuple[int, ...], ...]:
        """The way of the bar over the block, bank by bank, at the bore step."""
        if self.session.bench.step != "bore":
            return ()
        from redline_bore.job.bore.plan import order_of
        from redline_bore.job.call.asks import to_look_at

        if to_look_at(
            state
        ):  # the one that decides is bored alone; the way over the block is drawn once it is looked at
            return ()
        return tuple(order.numbers for order in order_of(state) if len(order.numbers) > 1)

    def _tightening(self, state: JobState) -> Tightening | None:
        """The order of the fasteners, while the plate is looked at."""
        bench = self.session.bench
        if bench.step != "gauge" or bench.page != "plate":
            return None
        from redline_bore.job.gauge.plate import places_in_order, tightening

        steps, order = tightening(state), places_in_order(state)
        if bench.gauge.pulled is None:
            return Tightening(order)
        now = steps[bench.gauge.pulled]
        done = frozenset(s.fastener for s in steps[: bench.gauge.pulled] if s.stage == now.stage)
        return Tightening(order, now.fastener, done)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.session.state is None:
            return
        hit = bore_at(
            self._area(), self.session.state.block, event.position().x(), event.position().y(), self.theme.scale
        )
        if hit is not None:
            self.session.select(hit)
