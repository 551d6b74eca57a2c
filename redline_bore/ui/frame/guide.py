"""The guided first job: a tag at the left that says one thing to do, and goes on when it was done, in whatever way. It does nothing itself."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from redline_bore.core.frozen import frozen
from redline_bore.job.gauge.readings import waiting_cylinders
from redline_bore.job.state.job_state import JobState
from redline_bore.ui.frame.told_label import ToldLabel
from redline_bore.ui.theme.theme import Theme


@frozen(often=True)
class Facts:
    """What was done so far. state: the job that is open, None before there is one; did: the names of the commands that were given."""

    who: bool
    state: JobState | None
    step: str
    page: str
    connected: bool
    did: frozenset[str]

    @property
    def read(self) -> int:
        """How many readings count."""
        return 0 if self.state is None else len(self.state.gauging.readings)


@frozen(often=True)
class Stage:
    """One thing to do: its name, what to do in words, and how it shows that it was done."""

    name: str
    words: str
    done: Callable[[Facts], bool]


STAGES = (
    Stage("Who is working", "Press Q, or touch the round check at the top right, and pick or type initials. They stand on whatever is booked.", lambda f: f.who),
    Stage("Book a job in", "Bore, stroke and cylinders begin one. Layout: single. Bore 78, stroke 68, then Enter, or touch the dark button.", lambda f: f.state is not None),
    Stage("How long it is", "It was not asked before; now it matters, for the levels follow from it. Type 118 and Enter.", lambda f: f.state is not None and not f.state.book_in.length_wanted),
    Stage("How warm", "Sizes count at 20 °C. Type 21 C, or let the simulated thermometer read it: Ctrl+T.", lambda f: f.state is not None and f.state.clamped.block_c is not None),
    Stage("A gauge", "Ctrl+G connects a simulated one, which behaves as a real one at a cable does. It is in the menu too, under Instruments.", lambda f: f.connected or f.read > 0),
    Stage("The first reading", "Space asks the gauge, Enter books what it said. Or press G: that is the gauge's own button, and it books at once.", lambda f: f.read > 0),
    Stage("Put right", "Strike it out: Backspace while the field is empty. It stays in the ledger (Ctrl+L), struck through. Nothing is ever deleted.", lambda f: f.state is not None and bool(f.state.struck)),
    Stage("The whole hole", "The next place is always lit. L takes a shorter plan; then G, G, G until the card says that all is read.", lambda f: f.state is not None and f.read > 0 and not waiting_cylinders(f.state)),
    Stage("Look at it", "V turns the pages: the slice, all cylinders, the plate. F1 explains the page that is on. Turn to another page.", lambda f: f.page not in ("", "readings")),
    Stage("Where a figure comes from", "W shows the working behind the card: each figure, its doubt and its source. Esc lays it away.", lambda f: "working" in f.did),
    Stage("Find anything", "F, then a word of the shop: taper, print, cold. What cannot be done now is there too, and says why.", lambda f: "find" in f.did),
    Stage("By hand", "No word has to be known: E shows what can be stated on a page, and a dotted figure is changed where it stands.", lambda f: "by_hand" in f.did or "tag" in f.did),
    Stage("The call", "Enter, or the dark button, goes to the call. The red line is the finish size; ↑ and ↓ move it, and everything follows.", lambda f: f.step == "call"),
)  # fmt: skip
END = Stage(
    "From here on",
    "The card says what to do next, and why: what to read so that a call is sure, what to set, when to stop. The button puts this tag away.",
    lambda _f: False,
)


def stage_at(facts: Facts, after: int = 0) -> int:
    """Which stage is next, counted from 0; ``after``: those before it were done once, and are not asked again."""
    while after < len(STAGES) and STAGES[after].done(facts):
        after += 1
    return after


class GuideTag(QWidget):
    """The tag. ``left``: it is put away."""

    left = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme, self.at = theme, 0
        self.setObjectName("plan")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.title, self.words = ToldLabel("Guide"), ToldLabel("What to do")
        self.leave = QPushButton("Put the guide away")
        self.leave.setFocusPolicy(self.leave.focusPolicy().NoFocus)
        self.leave.clicked.connect(self.left)
        for label in (self.title, self.words):
            label.setWordWrap(True)
        column, row = QVBoxLayout(self), QHBoxLayout()
        column.addWidget(self.title)
        column.addWidget(self.words)
        row.addWidget(self.leave)
        column.addLayout(row)
        theme.changed.connect(self.restyle)
        self.restyle()

    def restyle(self) -> None:
        c, px = self.theme.palette, self.theme.px
        self.setFixedWidth(px(250))
        self.setStyleSheet(
            f"QWidget#plan {{ background: {c.look_ground}; }} QLabel {{ font-size: {px(14)}px; color: {c.ink}; }}"
        )
        self.title.setStyleSheet(f"font-size: {px(15)}px; font-weight: bold;")
        layout = self.layout()
        assert layout is not None
        layout.setContentsMargins(px(12), px(10), px(12), px(12))

    def look(self, facts: Facts) -> None:
        """Go on where something was done."""
        self.at = stage_at(facts, self.at)
        stage = STAGES[self.at] if self.at < len(STAGES) else END
        count = f"{min(self.at + 1, len(STAGES))} of {len(STAGES)}" if self.at < len(STAGES) else "done"
        self.title.setText(f"{stage.name} · {count}")
        self.words.setText(stage.words)
