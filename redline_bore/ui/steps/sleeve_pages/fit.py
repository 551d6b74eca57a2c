"""Fit and ways: grip round the clock, every parent against every sleeve, what can be done, ranked."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout

from redline_bore.core.errors import InputError
from redline_bore.core.show import Show, capital
from redline_bore.core.when import now
from redline_bore.job.call.option import MAY, NO, SURE
from redline_bore.job.card import Advice
from redline_bore.job.kinds.sleeve import SleeveWayTaken
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.route import sleeved
from redline_bore.job.sleeve.fit import fit_of, wanted_interference
from redline_bore.job.sleeve.match import match_of
from redline_bore.job.sleeve.ways import SleeveWay, ways_of
from redline_bore.job.words import sleeve as sleeve_advice
from redline_bore.job.words.missing import say_missing
from redline_bore.job.words.sleeve_ways import TITLES, say_need, say_why, whys_of
from redline_bore.ui.paint.grip_dial import draw_grip_dial
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, TOP, Pencil, ticks
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

TOPICS = LEDGER | {"selection", "step", "page", "option"}


class GripView(Picture):
    """The sleeve's grip round the clock, magnified."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Grip round the clock")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        fit, show = fit_of(self.session.state, self.session.bench.cylinder), self.session.show
        if fit.grip is None:
            return say_missing(fit.missing)
        return f"grips {show.size(fit.least_mm)} to {show.size(fit.most_mm)}"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, state, cylinder = pencil.px, self.session.job, self.session.bench.cylinder
        pencil.heading(px(4), px(6), f"Grip in {cylinder}", "ring: what is wanted; circle: nothing grips")
        if not sleeved(state, cylinder):
            pencil.text(area, "This cylinder keeps its own wall.", 15, "graphite", align=CENTRE | MIDDLE)
            return
        fit = fit_of(state, cylinder)
        wanted = wanted_interference(state, fit.parent_mm or state.block.bore_mm)
        draw_grip_dial(pencil, area.adjusted(0, px(40), 0, -px(4)), fit, wanted, self.session.show)


class MatchView(Picture):
    """Every parent against every measured sleeve: a row a parent, a dot a sleeve, the band that is wanted."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Parents against sleeves")

    def said(self) -> str:
        match = None if self.session.state is None else match_of(self.session.state)
        if match is None:
            return "no parent or no sleeve is measured"
        show = self.session.show
        return "; ".join(f"sleeve {p.sleeve} in {p.parent} grips {show.size(p.interference_mm)}" for p in match.pairs)

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, match, show = pencil.px, match_of(self.session.job), self.session.show
        pencil.heading(px(4), px(6), "Every sleeve in every parent", f"interference, {show.units.mark}")
        if match is None:
            told = "M, then parent and its sizes; sleeve outside x bore."
            pencil.text(area.adjusted(px(8), px(40), 0, 0), told, 14, "graphite", align=LEFT | TOP)
            return
        parents = sorted({p.parent for p in match.pairs})
        values = [p.interference_mm for p in match.pairs]
        low, high = min(0.0, *values), 1.15 * max(match.wanted_mm[2], *values)
        box = QRectF(area.left() + px(74), area.top() + px(44), area.width() - px(96), area.height() - px(80))
        unit = float(show.units.mm)

        def x_of(mm: float) -> float:
            return box.left() + box.width() * (mm - low) / (high - low)

        pencil.rect(
            QRectF(
                x_of(match.wanted_mm[0]), box.top(), x_of(match.wanted_mm[2]) - x_of(match.wanted_mm[0]), box.height()
            ),
            "iron",
            "rule",
        )
        pencil.line(
            x_of(match.wanted_mm[1]), box.top(), x_of(match.wanted_mm[1]), box.bottom(), "graphite", 1.0, "dash"
        )
        for value in ticks(low / unit, high / unit, 6):
            pencil.label(x_of(value * unit), box.bottom() + px(12), f"{value:.4g}", 12, "graphite", align=CENTRE)
        high_row = box.height() / len(parents)
        best = dict(match.best)
        for i, parent in enumerate(parents):
            y = box.top() + high_row * (i + 0.5)
            pencil.line(box.left(), y, box.right(), y, "rule")
            here = parent == self.session.bench.cylinder
            pencil.text(QRectF(area.left() + px(4), y - px(10), px(66), px(20)), f"parent {parent}", 13, "ink", here)
            for pair in (p for p in match.pairs if p.parent == parent):
                own = pair.sleeve == parent
                pencil.circle(
                    x_of(pair.interference_mm),
                    y,
                    px(11),
                    "tight" if own else "sheet",
                    "ink",
                    2.4 if best.get(parent) == pair.sleeve else 1.0,
                )
                dot = QRectF(x_of(pair.interference_mm) - px(12), y - px(9), px(24), px(18))
                pencil.text(dot, str(pair.sleeve), 13, "sheet" if own else "ink", own, CENTRE | MIDDLE)


class WaysView(Picture):
    """What can be done about this cylinder's sleeve, the best first; the lit one is taken by Enter."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Ways")

    def ways(self) -> tuple[SleeveWay, ...]:
        state, cylinder = self.session.job, self.session.bench.cylinder
        return ways_of(state, cylinder) if sleeved(state, cylinder) else ()

    def said(self) -> str:
        if self.session.state is None:
            return ""
        return "; ".join(f"{TITLES[w.way]}: {w.standing}" for w in self.ways()) or "nothing to choose from yet"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, ways, show = pencil.px, self.ways(), self.session.show
        pencil.heading(px(4), px(6), "What can be done", "surest first")
        if not ways:
            fit = fit_of(self.session.job, self.session.bench.cylinder)
            told = f"First: {say_missing(fit.missing)}." if fit.missing else "Nothing."
            pencil.text(area.adjusted(px(8), px(40), 0, 0), told, 14, "graphite", align=LEFT | TOP)
            return
        taken = self.session.job.sleeving.way_of(self.session.bench.cylinder)
        high = min(px(168), (area.height() - px(42)) / len(ways))
        for i, way in enumerate(ways):
            r = QRectF(area.left() + px(4), area.top() + px(40) + high * i, area.width() - px(14), high).adjusted(
                0, px(3), 0, -px(3)
            )
            is_lit = i == min(self.session.bench.call.option, len(ways) - 1)
            pencil.rect(r, "sheet", "ink" if is_lit else "rule", 2.0 if is_lit else 1.0)
            self._way(pencil, r, way, taken is not None and taken.way == way.way, show)

    def _way(self, pencil: Pencil, r: QRectF, way: SleeveWay, is_taken: bool, show: Show) -> None:
        px = pencil.px
        x, y = r.left() + px(12), r.top() + px(18)
        if way.standing == SURE:
            pencil.tick_mark(x, y)
        elif way.standing == MAY:
            pencil.triangle_mark(x, y)
        else:
            pencil.hatch(QRectF(x, y - px(6), px(12), px(12)), "ink", "ink")
        title = TITLES[way.way] + (" · taken" if is_taken else "")
        room = r.width() - px(44)
        size = pencil.sized(title, room, 15, True)
        pencil.text(QRectF(x + px(20), r.top() + px(8), room, px(20)), title, size, "ink", True)
        left = "" if way.rebuilds is None else f" · {way.rebuilds} rebuild{'s' if way.rebuilds != 1 else ''} left"
        cost = "" if way.cost is None else f" · costs {way.cost:.0f}"
        metal = f"{show.size(way.metal_mm)} of metal" if way.metal_mm else "no metal"
        told = f"{way.standing} · {metal} · {way.minutes / 60.0:.1f} h{cost}{left}"
        pencil.text(
            QRectF(x, r.top() + px(30), r.width() - px(20), px(36)), told, 13, "ink", align=LEFT | TOP, wrap=True
        )
        sizes = (
            ""
            if way.parent_mm is None
            else f"Parent to {show.size(way.parent_mm)}, sleeve {show.size(way.outside_mm or 0.0)} outside. "
        )
        why = "; ".join((*whys_of(way, show), *(say_need(n) for n in way.needs)))
        below = QRectF(x, r.top() + px(67), r.width() - px(24), r.height() - px(69))
        pencil.text(below, f"{sizes}{capital(why)}.", 13, "graphite", align=LEFT | TOP, wrap=True)


class FitPage(StepPage):
    """Up and down pick a way, Enter takes it."""

    name, title = "fit", "Fit and ways"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.grip, self.match, self.ways = GripView(session, theme), MatchView(session, theme), WaysView(session, theme)
        row, left = QHBoxLayout(self), QVBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        left.addWidget(self.grip, 62)
        left.addWidget(self.match, 38)
        row.addLayout(left, 52)
        row.addWidget(self.ways, 48)

    def advice(self) -> Advice:
        return sleeve_advice.advise(self.session.job, self.session.bench.cylinder, self.session.show, "fit", now())

    def arrows(self, across: int, down: int) -> bool:
        if not down:
            return False
        count = len(self.ways.ways())
        if count:
            self.session.set_option(min(max(self.session.bench.call.option + down, 0), count - 1))
        return True

    def enter_empty(self) -> str | None:
        s, ways = self.session, self.ways.ways()
        if not ways or s.job.sleeving.after_of(s.bench.cylinder) is not None:
            return None
        way = ways[min(s.bench.call.option, len(ways) - 1)]
        if way.standing is NO:
            raise InputError(f"That does not go: {say_why(way.reasons[0], s.show)}")
        s.book(SleeveWayTaken(cylinder=s.bench.cylinder, way=way.way, step_left=way.step))  # type: ignore[arg-type]
        return f"Cylinder {s.bench.cylinder}: {TITLES[way.way][:1].lower()}{TITLES[way.way][1:]}."
