"""Inserts and bars of the shop: edges used and left, what each is fit for and why, the window at this bore."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.cutting import Window
from redline_bore.core.inserts import InsertUse, Suits, suitability
from redline_bore.core.when import now
from redline_bore.job.bore import plan as bore
from redline_bore.job.bore.tools import ShelfLine
from redline_bore.job.card import Advice, Mark
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.words import bore as bore_advice
from redline_bore.job.words.inserts import WHY, chatter_words, suits_said
from redline_bore.ui.background import Runner
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

CUT_PX = 26.0


class ShelfView(Picture):
    """The shelf: one strip an insert, its edges as marks, its uses beside it; the machine's speeds below."""

    topics = LEDGER | {"selection", "step", "page"}

    def __init__(self, session: Session, theme: Theme, runner: Runner) -> None:
        super().__init__(session, theme, "Inserts and bar")
        self._runner = runner

    def _lines(self) -> tuple[ShelfLine, ...] | None:
        """The shelf; None while the other jobs are read for it, once for each time a job is opened."""
        desk, job = self.session.desk, self.session.opened
        if (lines := desk.shelf(job)) is not None:
            return lines
        self._runner.quickly("shelf", lambda _token: desk.read_shelf(job), lambda _done: self.update(), lambda _error: None)  # fmt: skip  # that the logbook cannot be read is told by who listens to it
        return desk.shelf(job)

    def said(self) -> str:
        if self.session.state is None:
            return ""
        lines = self._lines()
        if lines is None:
            return "the shelf is being counted"
        return "; ".join(f"{s.insert}, {_edges_words(s)}" for s in lines) or "no insert is on the shelf yet"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, lines = pencil.px, self._lines()
        pencil.heading(px(4), px(6), "Inserts", "edges counted over all jobs")
        top, foot = area.top() + px(44), px(190)
        if not lines:
            told = "Nothing is on the shelf: M, then insert TPG 321 coated 5 puts five there."
            told = "Counting the shelf over all jobs." if lines is None else told
            pencil.text(QRectF(px(8), top, area.width() - px(30), px(60)), told, 15, "graphite", wrap=True)
        high = min(px(118), (area.height() - px(50) - foot) / max(len(lines or ()), 1))
        for i, line in enumerate(lines or ()):
            self._insert(pencil, QRectF(area.left() + px(4), top + high * i, area.width() - px(14), high), line)
        self._machine(pencil, QRectF(area.left() + px(4), area.bottom() - foot, area.width() - px(14), foot - px(6)))
        below = top + high * len(lines or ()) + px(16)
        self._cuts(pencil, QRectF(area.left() + px(4), below, area.width() - px(14), area.bottom() - foot - below))

    def _cuts(self, pencil: Pencil, r: QRectF) -> None:
        """The cut as it is set beside other speeds and inserts, where the shelf leaves room: minutes, and the marks each leaves."""
        px, show, state = pencil.px, self.session.show, self.session.job
        cuts = bore.cuts_beside(state)
        fit = int((r.height() - px(36)) // px(CUT_PX))
        if not cuts or fit < 2:
            return
        most = max(c.minutes for c in cuts)
        left_mm = bore.plan_of(state, self.session.bench.cylinder).left_mm[0]
        pencil.heading(
            r.left(),
            r.top(),
            "This cut, and others beside it",
            "minutes a hole, one pass; the marks it leaves for the hone",
        )
        for i, cut in enumerate(cuts[:fit]):
            row = QRectF(r.left() + px(8), r.top() + px(34) + px(CUT_PX) * i, r.width() - px(16), px(CUT_PX))
            name = f"{cut.what}, {cut.rpm:g} turns, {show.fine(cut.feed_mm)} a turn"
            pencil.text(row, pencil.fitted(name, px(290), 13), 13, "ink" if i == 0 else "graphite", i == 0)
            bar = QRectF(row.left() + px(300), row.center().y() - px(5), px(150) * cut.minutes / most, px(10))
            pencil.rect(bar, "tight", alpha=0.55 if i == 0 else 0.3)
            pencil.text(QRectF(bar.right() + px(8), row.top(), px(90), row.height()), f"{cut.minutes:.1f} min", 13)
            if cut.marks_mm > left_mm:
                pencil.triangle_mark(row.right() - px(14), row.center().y())
            pencil.text(
                QRectF(row.left(), row.top(), row.width() - px(22), row.height()),
                f"marks {show.size(cut.marks_mm)}",
                13,
                align=RIGHT | MIDDLE,
            )

    def _insert(self, pencil: Pencil, r: QRectF, line: ShelfLine) -> None:
        px, show, f = pencil.px, self.session.show, self.session.job.figures
        frame = r.adjusted(0, px(3), 0, -px(3))
        pencil.rect(frame, "sheet", "ink" if line.in_bar else "rule", 2.0 if line.in_bar else 1.0)
        name = line.insert + (" · in the bar" if line.in_bar else "")
        left, y = r.left() + px(12), r.top() + px(10)
        pencil.text(QRectF(left, y, px(260), px(22)), name, 17, "ink", True)
        told = f"nose {show.fine(line.nose_radius_mm)} {show.units.mark}, {line.rake}, {line.grade}"
        after = left + pencil.width_of(name, 17, True) + px(14)
        pencil.text(QRectF(after, y, px(260), px(22)), told, 13, "graphite")
        self._edges(pencil, r.right() - px(12), y + px(11), line, after + pencil.width_of(told, 13))
        across = (r.width() - px(20)) / len(InsertUse)
        for i, suits in enumerate(suitability(line.nose_radius_mm, line.rake, f.number("boring.large_nose"))):
            box = QRectF(left + across * i, r.top() + px(44), across - px(14), r.height() - px(50))
            self._use(pencil, box, suits)

    def _edges(self, pencil: Pencil, right: float, y: float, line: ShelfLine, clear: float) -> None:
        """Edges as marks, the used ones filled, ending at ``right``; where there is no room after ``clear``, words alone."""
        px, words = pencil.px, _edges_words(line)
        left = right - pencil.width_of(words, 13)
        pencil.text(QRectF(left, y - px(10), px(200), px(20)), words, 13, "ink")
        if left - px(12) - px(11) * line.edges > clear:
            for i in range(line.edges):
                x = left - px(12) - px(11) * (line.edges - 1 - i)
                pencil.circle(x, y, px(4), "graphite" if i < line.used else "sheet", "ink", 1.4)

    def _use(self, pencil: Pencil, r: QRectF, suits: Suits) -> None:
        px, (said, mark) = pencil.px, suits_said(suits)
        y = r.top() + px(10)
        if mark is Mark.SOUND:
            pencil.tick_mark(r.left(), y)
        elif mark is Mark.LOOK:
            pencil.triangle_mark(r.left(), y)
        else:
            pencil.hatch(QRectF(r.left(), y - px(6), px(11), px(11)), "ink", "ink")
        pencil.text(QRectF(r.left() + px(16), r.top(), r.width(), px(20)), said, 13, "ink", True)
        below = QRectF(r.left(), r.top() + px(22), r.width(), r.height() - px(22))
        pencil.text(below, WHY[suits.why], 12, "graphite", align=LEFT, wrap=True)

    def _machine(self, pencil: Pencil, r: QRectF) -> None:
        """The machine's speeds on a scale, with the window at this bore and the speed that is set."""
        px, state, show = pencil.px, self.session.job, self.session.show
        speeds, found = bore.speeds_of(state), bore.window_now(state)
        m, f = state.boring.machine, state.figures
        name = "Machine, as the shop's figures have it" if m is None else f"Machine {m.name}"
        thick, reach = (
            (f.number("boring.bar_thick"), f.number("boring.bar_reach")) if m is None else (m.thick_mm, m.reach_mm)
        )
        aside = f"bar {show.rough(thick)} thick, reaches {show.rough(reach)}; turns a minute"
        pencil.heading(r.left(), r.top() + px(4), name, aside)
        y, left, right = r.top() + px(96), r.left() + px(30), r.right() - px(40)
        top_speed = 1.08 * max([*speeds, *([found[1].rpm_high] if found else [])])

        def x_of(rpm: float) -> float:
            return left + (right - left) * rpm / top_speed

        if found is not None:
            self._window(pencil, x_of, y, found[1])
        pencil.line(left, y, right, y, "ink", 1.4)
        for i, rpm in enumerate(speeds):
            pencil.line(x_of(rpm), y, x_of(rpm), y + px(9), "ink", 1.4)
            crowded = i > 0 and x_of(rpm) - x_of(speeds[i - 1]) < px(34)
            pencil.label(x_of(rpm), y + px(38 if crowded and i % 2 else 20), f"{rpm:g}", 12, "graphite", align=CENTRE)
        if state.boring.bar is not None:
            x = x_of(state.boring.bar.rpm)
            pencil.polygon([(x, y - px(2)), (x - px(7), y - px(15)), (x + px(7), y - px(15))], "ink")
            pencil.label(
                x, y - px(24), f"{state.boring.bar.rpm:g}", 14, "ink", True, CENTRE, ground="sheet", crowd=False
            )
        if why := chatter_words(bore.chatters(state)):
            pencil.triangle_mark(r.left(), r.bottom() - px(14))
            pencil.text(
                QRectF(r.left() + px(18), r.bottom() - px(24), r.width(), px(20)), f"The bar will sing: {why}", 13
            )

    def _window(self, pencil: Pencil, x_of: Callable[[float], float], y: float, window: Window) -> None:
        px = pencil.px
        box = QRectF(x_of(window.rpm_low), y - px(46), x_of(window.rpm_high) - x_of(window.rpm_low), px(46))
        pencil.rect(box, "iron", "graphite", alpha=0.7)
        seat = x_of(window.rpm_high_for_sleeve_parent)
        pencil.line(seat, box.top(), seat, box.bottom(), "graphite", 1.0, "dash")
        pencil.text(
            QRectF(box.left() - px(4), box.top() - px(20), px(300), px(18)),
            "window of this insert here",
            12,
            "graphite",
        )
        pencil.text(
            QRectF(seat - px(206), box.top() + px(2), px(200), px(18)), "seats", 12, "graphite", align=RIGHT | MIDDLE
        )


def _edges_words(line: ShelfLine) -> str:
    if not line.edges:
        return f"{line.used} used; how many there are is not known"
    return f"{line.used} used, {line.left} left"


class InsertsPage(StepPage):
    """The shelf and the machine."""

    name, title = "inserts", "Inserts and bar"

    def __init__(self, session: Session, theme: Theme, walls: Walls, runner: Runner) -> None:
        super().__init__(session, theme, walls)
        self.view = ShelfView(session, theme, runner)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view)

    def advice(self) -> Advice:
        return bore_advice.advise(self.session.job, self.session.bench.cylinder, self.session.show, now())

    def line_text(self) -> LineText | None:
        return LineText(
            "Inserts and bar", "M, then insert TPG 321 coated 5; bar TPG 321; turn worn", f"{self.session.example('machine_stated').split(' speeds')[0]} …", "—"
        )  # fmt: skip
