"""Where a shadow would stay: the wall map with what the cut at the redline does not reach."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.frozen import replace
from redline_bore.job.call import shadow
from redline_bore.job.card import Advice, Mark, Note
from redline_bore.job.words import shadow as shadow_words
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.shadow import draw_shadow
from redline_bore.ui.paint.wall_picture import WallKey
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.gauge_pages.maps import WallMapView
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import TOPICS, Walls


class ShadowMap(WallMapView):
    """The wall as it is known best, with the shadow over it."""

    topics = TOPICS | {"selection", "probe", "rung", "practice", "page"}

    def __init__(self, page: ShadowPage) -> None:
        super().__init__(page.session, page.theme, page.walls, page.key, page.heading)
        self._page = page

    def said(self) -> str:
        if self.session.state is None:
            return ""
        found = self._page.shadow()
        return (
            self.walls.reason(self._key())
            if found is None
            else f"Shadow over {found.sure_share:.0%} of the wall for sure, up to {found.may_share:.0%}"
        )

    def draw_over(self, pencil: Pencil) -> None:
        found = self._page.shadow()
        if found is not None:
            draw_shadow(pencil, self.wall(), found)

    def draw_vectors(self, pencil: Pencil, area: QRectF) -> None:
        super().draw_vectors(pencil, area)
        self.draw_over(pencil)


class ShadowPage(StepPage):
    """Up and down move the redline, left and right the cylinder."""

    name, title = "shadow", "Shadow"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.map = ShadowMap(self)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.map)

    def size_mm(self) -> float:
        """The size the selected cylinder would be cut to."""
        s = self.session
        own = next(
            (a.oversize_mm for a in s.apart if a.cylinder == s.bench.cylinder and a.oversize_mm is not None), None
        )
        return s.job.block.bore_mm + (s.rung_mm if own is None else own)

    def key(self) -> WallKey:
        """The wall that is drawn: as swept where it was, else by two points."""
        s = self.session
        return WallKey("swept" if shadow.is_swept(s.job, s.bench.cylinder) else "now", s.bench.cylinder)

    def heading(self) -> str:
        s = self.session
        return f"Cylinder {s.bench.cylinder} cut to {s.show.size(self.size_mm())}"

    def shadow(self) -> shadow.Shadow | None:
        """What the cut leaves; None while nothing can be told."""
        s = self.session
        return shadow.shadow_of(s.job, s.bench.cylinder, self.size_mm())

    def wanted(self) -> Iterable[WallKey]:
        return [self.key()]

    def advice(self) -> Advice:
        s = self.session
        advice = shadow_words.advise(s.job, s.bench.cylinder, self.size_mm(), s.show)
        if any(a.cylinder == s.bench.cylinder and a.way == "sleeve" for a in s.apart):
            note = Note(f"Cylinder {s.bench.cylinder} is to be sleeved; this is what boring it instead would leave.")
            return replace(advice, changes=(note, *advice.changes), mark=Mark.PLAIN)
        return advice

    def line_text(self) -> LineText | None:
        return LineText(
            f"Cylinder {self.session.bench.cylinder} · what the cut at the redline does not reach",
            "↑ ↓ move the redline, ← → the cylinder; Shift and arrows read the map", "A bored about which axis", "—",
        )  # fmt: skip

    def arrows(self, across: int, down: int) -> bool:
        from redline_bore.job.call.ladder import ladder_of

        s = self.session
        if across:
            s.select((s.bench.cylinder - 1 + across) % s.job.block.cylinders + 1)
            return True
        rungs = ladder_of(s.job).rungs_mm
        up = [r for r in rungs if r > s.rung_mm + 1e-9]
        below = [r for r in rungs if r < s.rung_mm - 1e-9]
        if up if down < 0 else below:
            s.set_rung(up[0] if down < 0 else below[-1])
        return True
