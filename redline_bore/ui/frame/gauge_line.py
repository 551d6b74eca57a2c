"""The gauge line: what the gauge says in big digits, where Enter will book it, and when the last entry was kept."""

from __future__ import annotations

from datetime import datetime

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from redline_bore.core.when import local
from redline_bore.job.kinds.entry import Record
from redline_bore.ui.frame.bench_field import BenchField
from redline_bore.ui.frame.told_label import ToldLabel
from redline_bore.ui.session import Session
from redline_bore.ui.theme.theme import Theme, styled_anew

MOST_DIGITS = 13  # what is longer than this is words


class GaugeLine(QWidget):
    """The dark line at the bottom. ``tell`` shows a remark; a refusal keeps what was typed."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.setObjectName("line")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.field = BenchField()
        self.where, self.what = ToldLabel("Where it is booked"), ToldLabel("What Enter does")
        self.kept, self.keys = ToldLabel("Last entry kept"), ToldLabel("Keys")
        self.where.setObjectName("soft")
        self.kept.setObjectName("soft")
        self.what.setWordWrap(True)
        self.kept.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.keys.setAlignment(Qt.AlignmentFlag.AlignRight)
        self._words = False
        self._lay_out()
        self.field.textEdited.connect(lambda _text: self.clear_remark())
        self.field.textChanged.connect(self._make_room)
        session.kept.connect(self.show_kept)
        session.changed.connect(self._heard)
        theme.changed.connect(self.restyle)
        self.restyle()

    def _lay_out(self) -> None:
        row = QHBoxLayout(self)
        row.addWidget(self.field)
        for labels, stretch in (((self.where, self.what), 1), ((self.kept, self.keys), 0)):
            column = QVBoxLayout()
            column.setSpacing(0)
            column.addStretch()
            for label in labels:
                column.addWidget(label)
            column.addStretch()
            row.addLayout(column, stretch)

    def restyle(self) -> None:
        c, px = self.theme.palette, self.theme.px
        self.setFixedHeight(px(56))
        self._make_room(self.field.text())
        margins = px(16)
        layout = self.layout()
        assert layout is not None
        layout.setContentsMargins(margins, px(2), margins, px(2))
        layout.setSpacing(px(16))
        self.setStyleSheet(
            f"QWidget#line {{ background: {c.bar}; }} QLabel {{ color: {c.on_bar}; font-size: {px(14)}px; }}"
            f"QLabel#soft {{ color: {c.on_bar_soft}; font-size: {px(13)}px; }}"
            f"QLabel#pencil {{ color: {c.on_bar}; font-style: italic; font-size: {px(14)}px; }}"
            f"QLabel#refused {{ color: {c.ink}; background: {c.look_ground}; font-size: {px(13)}px; padding: {px(2)}px {px(6)}px; }}"
        )
        self._dress_field()

    def _make_room(self, text: str) -> None:
        """Words are longer than figures: they stand smaller in a wider field."""
        words = len(text) > MOST_DIGITS
        self.field.setFixedWidth(self.theme.px(470 if words else 238))
        if words != self._words:
            self._words = words
            self._dress_field()

    def _dress_field(self) -> None:
        c, px = self.theme.palette, self.theme.px
        size = 17 if self._words else 28
        self.field.setStyleSheet(
            f"QLineEdit#bench {{ background: transparent; color: {c.on_bar}; font-size: {px(size)}px; font-weight: bold;"
            f" border: 0; border-bottom: {px(2)}px solid {c.on_bar_soft}; }}"
            f"QLineEdit#bench:focus {{ border-bottom: {px(2)}px solid {c.on_bar}; background: transparent; }}"
        )

    def _heard(self, topics: frozenset[str]) -> None:
        if "job" in topics and self.session.records:
            self.show_kept(self.session.records[-1])

    def say(self, where: str, what: str, keys: str) -> None:
        """What will happen: where to, what Enter does, which other keys matter. A refusal stands until typing goes on."""
        self.where.setText(where)
        if self.what.objectName() == "":
            self.what.setText(what)
        self._plain = what
        self.keys.setText(keys)

    def tell(self, text: str, look: bool) -> None:
        """A remark in place of what Enter does; ``look``: it needs a look."""
        self.what.setText(f"Look here: {text}" if look else text)
        self._set_name("refused" if look else "")

    def pencil(self, text: str) -> None:
        """What Enter would book, while it is being typed; empty: what the page says of Enter."""
        self._set_name("pencil" if text else "")
        self.what.setText(text or getattr(self, "_plain", ""))

    def clear_remark(self) -> None:
        self._set_name("")
        self.what.setText(getattr(self, "_plain", ""))

    def _set_name(self, name: str) -> None:
        if self.what.objectName() != name:
            self.what.setObjectName(name)
            styled_anew(self.what)

    def show_kept(self, record: Record) -> None:
        """When the last entry was safely on the disk."""
        at = local(record.at)
        if at is None:
            self.kept.setText(f"kept · entry {record.seq}")
            return
        day = "" if at.date() == datetime.now().astimezone().date() else f"{at:%d %b} "
        self.kept.setText(f"kept {day}{at:%H:%M:%S} · entry {record.seq}")
