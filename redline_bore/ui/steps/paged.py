"""A step in pages: tabs over a stack; the page that is on gives the advice and takes what it can."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PyQt6.QtCore import QSize
from PyQt6.QtGui import QResizeEvent, QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from redline_bore.job.card import Advice
from redline_bore.ui import verbs
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText, StepView
from redline_bore.ui.steps.declared import StepParts
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.verbs import Deeds
from redline_bore.ui.walls import TOPICS, Walls


class PageTabs(QWidget):
    """The names of the pages in a row; the one that is on is underlined. back: those that this job does not need, which are counted."""

    def __init__(
        self, session: Session, theme: Theme, titles: Mapping[str, str], back: Callable[[], frozenset[str]]
    ) -> None:
        super().__init__()
        self.session, self.theme, self._back = session, theme, back
        self.setAccessibleName("Pages of this step")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        self.buttons: dict[str, QPushButton] = {}
        for name, title in titles.items():
            button = QPushButton(title)
            button.clicked.connect(lambda _checked, page=name: session.set_page(page))
            button.setAccessibleName(f"{title} page")
            row.addWidget(button)
            self.buttons[name] = button
        self.more = QLabel()
        row.addWidget(self.more)
        row.addStretch()
        theme.changed.connect(self._theme_changed)
        self._stale = False
        self.restyle()

    def _theme_changed(self) -> None:
        """The buttons of a step that is not on are restyled when it comes on."""
        self._stale = not self.isVisible()
        if not self._stale:
            self.restyle()

    def showEvent(self, event: QShowEvent | None) -> None:
        if self._stale:
            self._stale = False
            self.restyle()
        super().showEvent(event)

    def restyle(self) -> None:
        c, px = self.theme.palette, self.theme.px
        layout = self.layout()
        assert layout is not None
        layout.setSpacing(px(2))
        high = self.theme.target(0) - px(4) if self.theme.touch else 0
        for name, button in self.buttons.items():
            on = name == self.session.bench.page
            edge = c.ink if on else c.paper
            button.setFocusPolicy(button.focusPolicy().NoFocus)
            button.setStyleSheet(
                f"QPushButton {{ border: 0; border-bottom: {px(3)}px solid {edge}; background: {c.paper}; "
                f"color: {c.ink if on else c.graphite}; font-size: {px(13)}px; padding: {px(1)}px {px(7)}px; min-height: {high}px; }}"
            )
            button.setAccessibleDescription("shown" if on else "")
        self.more.setStyleSheet(f"color: {c.graphite}; font-size: {px(13)}px;")
        self._fit()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._fit()
        super().resizeEvent(event)

    def minimumSizeHint(self) -> QSize:
        """As narrow as need be: tabs give way, and are reached by V."""
        return QSize(0, super().minimumSizeHint().height())

    def _fit(self) -> None:
        """Where not all tabs fit, the one that is on stays, then its neighbours; the rest is counted."""
        names, gap = list(self.buttons), self.theme.px(2)
        wide = {n: b.sizeHint().width() + gap for n, b in self.buttons.items()}
        here = names.index(self.session.bench.page) if self.session.bench.page in names else 0
        room, wanted = self.width(), [n for n in names if n not in self._back() or n == names[here]]
        shown = set(wanted)
        if sum(wide[n] for n in wanted) > room:
            room -= self.theme.px(64)  # for the count
            shown = {names[here]}
            for name in sorted(wanted, key=lambda n: abs(names.index(n) - here)):
                if name not in shown and sum(wide[n] for n in shown) + wide[name] <= room:
                    shown.add(name)
        for name, button in self.buttons.items():
            button.setVisible(name in shown)
        self.more.setText(f"+{len(names) - len(shown)}, V" if len(shown) < len(names) else "")


class PagedStep(StepView):
    """Base of steps with pages. ``titles``: page name to tab."""

    titles: Mapping[str, str] = {}
    reading_pages: tuple[str, ...] = ()  # on which readings show; none: on the first
    topics = TOPICS

    def __init__(self, parts: StepParts) -> None:
        super().__init__(parts)
        self.parts, self.walls = parts, Walls(parts.session, parts.runner)
        self.tabs, self.stack = PageTabs(parts.session, parts.theme, self.titles, self.back), QStackedWidget()
        self.pages: dict[str, StepPage] = {}
        column = QVBoxLayout(self)
        column.setSpacing(2)
        column.addWidget(self.tabs)
        column.addWidget(self.stack, 1)
        parts.session.changed.connect(self._heard)

    def back(self) -> frozenset[str]:
        """The pages that this job does not need: they stand back, and V and Find reach them."""
        return frozenset()

    def make_page(self, name: str) -> StepPage:
        """A page, made when it is first shown."""
        raise AssertionError("a paged step makes its own pages")

    @property
    def page(self) -> StepPage:
        """The page that is on."""
        return self.made(self.session.bench.page_of(self.name, next(iter(self.titles))))

    @property
    def shown_page(self) -> QWidget:
        """Its page."""
        return self.page

    @property
    def shows_readings(self) -> bool:
        return self.page.name in (self.reading_pages or (next(iter(self.titles)),))

    def made(self, name: str) -> StepPage:
        """A page by its name, made where it is not yet."""
        if name not in self.pages:
            page = self.make_page(name)
            page.propose = self.parts.propose
            self.pages[name] = page
            self.stack.addWidget(page)
        return self.pages[name]

    def deeds(self) -> Deeds:
        """Turning pages, and what the page that is on does."""
        turning = {verbs.NEXT_PAGE: lambda: self.next_page(1), verbs.PAGE_BEFORE: lambda: self.next_page(-1)}
        return {**turning, **self.page.deeds()}

    def _heard(self, topics: frozenset[str]) -> None:
        if self.session.bench.step != self.name or self.session.state is None or self.session.bench.new_job:
            return
        if topics & {"page", "job", "step"}:
            self.shown()
        elif topics & (TOPICS | {"selection"}):
            self.walls.want(self.page.wanted())

    def shown(self) -> None:
        self.stack.setCurrentWidget(self.page)
        self.tabs.restyle()
        self.walls.want(self.page.wanted())
        self.page.want()

    def advice(self) -> Advice:
        return self.page.advice()

    def would(self, text: str) -> str:
        """Nothing is said beforehand where the page takes such a line itself."""
        return "" if self.page.takes(text) else super().would(text)

    def line_text(self) -> LineText:
        own = self.page.line_text()
        return own if own is not None else self.usual_line()

    def usual_line(self) -> LineText:
        """What the gauge line says on pages that say nothing of their own."""
        raise AssertionError("a paged step says what Enter does")

    def next_page(self, by: int) -> str:
        """V: the next page, Shift+V the one before."""
        names = list(self.titles)
        name = names[(names.index(self.session.bench.page) + by) % len(names)]
        self.session.set_page(name)
        return f"{self.titles[name]}. V goes on, Shift+V back."

    def move_probe(self, across: int, down: int) -> None:
        """Shift and arrows, as the page has it."""
        self.page.move_probe(across, down)
