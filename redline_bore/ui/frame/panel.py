"""A sheet of paper laid over the work: the working, the keys, faults. Never modal; Esc or its key takes it away."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from redline_bore.core.errors import FaultyInput
from redline_bore.core.show import Show
from redline_bore.core.written import shown, shown_html
from redline_bore.job.card import Advice
from redline_bore.job.kinds.entry import Record
from redline_bore.job.words.tables import Table
from redline_bore.ui.theme.theme import Theme


class Panel(QWidget):
    """One panel, used for whatever has to be read beside the work."""

    def __init__(self, parent: QWidget, theme: Theme) -> None:
        super().__init__(parent)
        self.theme = theme
        self.kind = ""
        self.setObjectName("sheet")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.title, self.body = QLabel(), QLabel()
        self.body.setWordWrap(True)
        self.body.setTextFormat(Qt.TextFormat.RichText)
        self.body.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.body.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.close_button = QPushButton("Esc  close")
        self.close_button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.close_button.clicked.connect(self.put_away)
        head = QHBoxLayout()
        head.addWidget(self.title, 1)
        head.addWidget(self.close_button)
        self.scroller = QScrollArea()
        self.scroller.setWidgetResizable(True)
        self.scroller.setWidget(self.body)
        self.scroller.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        column = QVBoxLayout(self)
        column.addLayout(head)
        self.table = QTableWidget()
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.setAlternatingRowColors(False)
        column.addWidget(self.scroller, 1)
        column.addWidget(self.table, 1)
        self.table.hide()
        theme.changed.connect(self.restyle)
        self.restyle()
        self.hide()

    def restyle(self) -> None:
        c, px = self.theme.palette, self.theme.px
        self.setStyleSheet(
            f"QWidget#sheet {{ background: {c.sheet}; border: {px(2)}px solid {c.ink}; }}"
            f"QScrollArea, QScrollArea > QWidget > QWidget {{ background: {c.sheet}; }}"
        )
        self.title.setStyleSheet(f"font-size: {px(18)}px; font-weight: bold;")

    def lay(self, kind: str, title: str, html: str) -> None:
        """Show ``html`` under ``title``; the same kind again puts it away."""
        if self.isVisible() and self.kind == kind and kind in ("working", "keys", "ledger", "page"):
            self.put_away()
            return
        self.kind = kind
        self.table.hide()
        self.scroller.show()
        self.setAccessibleName(title)
        self.title.setText(shown(title))
        self.body.setText(shown_html(html))
        self.fit()
        self.show()
        self.raise_()

    def lay_table(self, table: Table) -> None:
        """Show a table, which has the keys: the arrows walk it, and it is read aloud cell by cell. Again puts it away."""
        if self.isVisible() and self.kind == "table":
            self.put_away()
            return
        self.kind = "table"
        self.setAccessibleName(table.title)
        self.title.setText(shown(table.title))
        self.table.setAccessibleName(table.title)
        self.table.setColumnCount(len(table.heads))
        self.table.setRowCount(len(table.rows))
        self.table.setHorizontalHeaderLabels([shown(h) for h in table.heads])
        numbers = self.table.verticalHeader()
        assert numbers is not None
        numbers.hide()
        for i, row in enumerate(table.rows):
            for k, text in enumerate(row):
                item = QTableWidgetItem(shown(text))
                item.setData(Qt.ItemDataRole.AccessibleTextRole, f"{table.heads[k]}: {text}")
                item.setTextAlignment(
                    Qt.AlignmentFlag.AlignVCenter | (Qt.AlignmentFlag.AlignRight if k else Qt.AlignmentFlag.AlignLeft)
                )
                self.table.setItem(i, k, item)
        self.table.resizeColumnsToContents()
        self.scroller.hide()
        self.table.show()
        self.fit()
        self.show()
        self.raise_()
        self.table.setFocus()
        self.table.setCurrentCell(0, 0)

    def renew(self, kind: str, html: str) -> None:
        """Bring the text up to date when that kind is showing."""
        if self.isVisible() and self.kind == kind:
            self.body.setText(shown_html(html))

    def fit(self) -> None:
        """Lie over the work; the plan, the card and the gauge line stay in sight."""
        parent = self.parentWidget()
        if parent is not None:
            self.setGeometry(0, 0, parent.width(), parent.height())

    def scroll_by(self, down: int) -> None:
        """Up and down by a few lines."""
        bar = self.scroller.verticalScrollBar()
        if bar is not None:
            bar.setValue(bar.value() + down * self.theme.px(60))

    def put_away(self) -> None:
        self.hide()


def working_html(advice: Advice, theme: Theme) -> str:
    """The working as it would stand on paper: a line of arithmetic, its source under it."""
    from html import escape

    c, px = theme.palette, theme.px
    if not advice.working:
        return "<p>There is nothing to work out here yet.</p>"
    rows = []
    for line in advice.working:
        source = (
            f"<br><span style='color:{c.graphite}; font-size:{px(12)}px'>{escape(line.source)}</span>"
            if line.source
            else ""
        )
        rows.append(f"<p style='font-size:{px(16)}px; margin:0 0 {px(10)}px 0'>{escape(line.text)}{source}</p>")
    return "".join(rows)


MOST_FAULTS = 60


def faults_html(error: FaultyInput) -> str:
    """Every fault of an input."""
    rows = "".join(f"<p><b>{f.path}</b>: {f.reason}</p>" for f in error.faults[:MOST_FAULTS])
    more = f"<p>and {len(error.faults) - MOST_FAULTS} more</p>" if len(error.faults) > MOST_FAULTS else ""
    return f"<p>{len(error.faults)} to put right:</p>{rows}{more}"


MOST_LINES = 400


def ledger_html(records: Sequence[Record], struck: frozenset[int], show: Show, grey: str) -> str:
    """The newest entries of a ledger, a line each, newest first; struck ones struck through."""
    from html import escape

    from redline_bore.core.when import moment
    from redline_bore.job.kinds.kind import entry_words

    rows = []
    for r in list(reversed(records))[:MOST_LINES]:
        warm = "" if r.block_c is None else show.warm(r.block_c)
        typed = f"“{r.typed}”" if r.typed else ""
        beside = escape(" · ".join(word for word in (r.person, r.instrument, warm, typed) if word))
        words = escape(entry_words(r.entry, show))
        text = f"<s>{words}</s> struck" if r.seq in struck else words
        rows.append(
            f"<tr><td align='right'>{r.seq}&nbsp;</td><td style='color:{grey}; white-space:nowrap'>{moment(r.at)[5:]}&nbsp;&nbsp;</td>"
            f"<td width='100%'>{text} &nbsp;<span style='color:{grey}'>{beside}</span></td></tr>"
        )
    more = f"<p>and {len(records) - MOST_LINES} before</p>" if len(records) > MOST_LINES else ""
    return (
        f"<p style='color:{grey}'>Nothing is deleted. M, then “strike 123 wrong cylinder” strikes any entry; “restore 123” lets it count again.</p>"
        f"<table cellpadding='2' width='100%'>{''.join(rows)}</table>{more}"
    )
