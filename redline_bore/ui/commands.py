"""What the keys and the menu do. One method a command, named as in frame/keys.py."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from redline_bore.core.errors import BenchError, FaultyInput, InputError
from redline_bore.job.kinds.plate import PlateChanged
from redline_bore.ui.file_commands import FileCommands
from redline_bore.ui.frame.keys import keys_html
from redline_bore.ui.frame.panel import ledger_html, working_html
from redline_bore.ui.instrument_commands import InstrumentCommands

if TYPE_CHECKING:
    from redline_bore.ui.main_window import MainWindow
    from redline_bore.ui.steps.paged import PagedStep


class Commands(FileCommands, InstrumentCommands):
    """The commands of a window. ``run`` says what is refused in the gauge line, never in a box."""

    def __init__(self, window: MainWindow):
        self.window = window

    def run(self, name: str) -> None:
        """Run a command by its name."""
        try:
            getattr(self, name)()
        except FaultyInput as error:
            self.show_faults(error)
        except BenchError as error:
            self.window.line.tell(f"{error}.".replace("..", "."), True)

    # -- at the bench ----------------------------------------------------------------------------------------------

    def enter(self) -> None:
        self.window.enter()

    def read(self) -> None:
        view = self.window.step
        if view is None or not view.reads:
            raise InputError("A reading is taken in the gauge step, at the hone behind the strokes, or of the finish")
        self.window.asked(view).ask()

    def strike(self) -> None:
        record = self.window.session.undo()
        if record is None:
            raise InputError("There is nothing to strike out")
        kind = record.entry.kind.replace("_", " ")
        self.window.line.tell(f"Entry {record.seq}, {kind}, is struck out. Ctrl+Y brings it back.", False)

    def restore(self) -> None:
        seq = self.window.session.redo()
        if seq is None:
            raise InputError("There is no struck entry to bring back")
        self.window.line.tell(f"Entry {seq} counts again.", False)

    def plate(self) -> None:
        self.window.session.book(PlateChanged(on=not self.window.session.job.clamped.plate_on))
        self.window.session.to_next_place()

    def units(self) -> None:
        self.window.session.set_units(self.window.session.bench.units.other)

    def field(self) -> None:
        self.window.line.field.words = True
        self.window.line.field.setFocus()

    def next_place(self) -> None:
        if self.window.session.state is not None:
            self.window.session.to_next_place()

    def next_step(self) -> None:
        self._told_by_step("next_step")

    def stroke(self) -> None:
        self._pages("hone").tell("toggle_stroke")

    def practice(self) -> None:
        self._told_by_step("next_practice")

    def next_page(self) -> None:
        self._turn(1)

    def page_before(self) -> None:
        self._turn(-1)

    def _turn(self, by: int) -> None:
        turn = getattr(self.window.step, "next_page", None)
        if turn is None or self.window.session.state is None:
            raise InputError("This step has no pages")
        self.window.line.tell(turn(by), False)

    def swept(self) -> None:
        self._pages("gauge").tell("toggle_swept")

    def defect(self) -> None:
        self._pages("gauge").tell("mark_defect")

    def keep_study(self) -> None:
        """K: in the study its U becomes the shop's own; at the machine the next check is stamped."""
        if getattr(self.window.step, "stamp_check", None) is not None and self.window.session.state is not None:
            self._told_by_step("stamp_check")
        else:
            self._pages("gauge").tell("keep")

    def quick_plan(self) -> None:
        self._pages("gauge").tell("cycle_plan")

    def sleeve(self) -> None:
        self._pages("call").tell("toggle_sleeve")

    def beside(self) -> None:
        self._pages("call").tell("put_beside")

    def axis(self) -> None:
        self._pages("call").cycle("axis")

    def wear_share(self) -> None:
        self._pages("call").cycle("wear_side")

    def hone_allowance(self) -> None:
        self._pages("call").cycle("hone_allowance")

    def odd_cylinder(self) -> None:
        self._pages("call").cycle("odd_cylinder")

    def _pages(self, step: str) -> _Pages:
        """The step at hand, for commands of its pages. Raises InputError where they mean nothing."""
        from redline_bore.ui.steps.paged import PagedStep

        view = self.window.step
        if not isinstance(view, PagedStep) or self.window.session.state is None or view.name != step:
            raise InputError(f"That is done in the {step} step")
        return _Pages(self.window, view)

    def _told_by_step(self, name: str) -> None:
        """Do what the step at hand has under that name, if it has it, and say what it says."""
        act = getattr(self.window.step, name, None)
        if act is not None:
            self.window.line.tell(act(), False)

    def word_typed(self, text: str) -> str:
        """Words that mean the same in every step; returns a remark, or nothing when it is none of them."""
        words = text.split()
        if len(words) == 2 and words[0].lower() == "who":
            self.window.session.set_person(words[1][:6])
            self.window.settings.setValue("person", self.window.session.person)
            return f"What is booked from now on is booked by {self.window.session.person}."
        if len(words) == 2 and words[0].lower() == "port":
            self.window.gauge.connect_port(words[1])
            return f"Instrument at {words[1]}. Space takes a reading."
        if len(words) >= 4 and words[0].lower() == "port":
            return self.port_with_pattern(words[1], words[2].lower(), words[3].lower(), " ".join(words[4:]))
        if len(words) >= 2 and words[0].lower() in ("strike", "restore") and words[1].isdigit():
            return self._strike_any(words[0].lower(), int(words[1]), " ".join(words[2:]))
        if len(words) >= 2 and words[0].lower() == "photo":
            return self.attach_photo(Path(text.strip()[len("photo") :].strip()).expanduser())
        return ""

    def _strike_any(self, act: str, seq: int, reason: str) -> str:
        """``strike 123 wrong cylinder``: any entry but the opening of the job; ``restore 123`` brings it back."""
        session = self.window.session
        if act == "strike":
            session.took(session.opened.strike(seq, reason, f"strike {seq} {reason}".strip()))
            return f"Entry {seq} is struck out; it stays in the ledger."
        session.took(session.opened.restore(seq, f"restore {seq}"))
        return f"Entry {seq} counts again."

    # -- looking ---------------------------------------------------------------------------------------------------

    def working(self) -> None:
        view = self.window.step
        if view is not None and self.window.session.state is not None:
            self.window.panel.lay("working", "Working", working_html(view.advice(), self.window.theme))

    def ledger(self) -> None:
        """The ledger as it stands, newest first, what was struck struck through."""
        session, theme = self.window.session, self.window.theme
        html = ledger_html(session.records, session.job.struck, session.show, theme.palette.graphite)
        self.window.panel.lay("ledger", f"Ledger of job {session.job.number}", html)

    def keys(self) -> None:
        theme = self.window.theme
        self.window.panel.lay("keys", "All keys", keys_html(theme.px(13), theme.palette.graphite))

    def previous(self) -> None:
        self.window.walk(-1)

    def following(self) -> None:
        self.window.walk(1)

    def night(self) -> None:
        self.window.theme.set_night(not self.window.theme.night)
        self.window.settings.setValue("night", self.window.theme.night)

    def larger(self) -> None:
        self._scale(1)

    def smaller(self) -> None:
        self._scale(-1)

    def _scale(self, by: int) -> None:
        self.window.theme.set_scale(self.window.theme.stepped(by))
        self.window.settings.setValue("scale", self.window.theme.scale)
        self.window.line.tell(f"Shown at {self.window.theme.scale:.0%}.", False)

    def leave(self) -> None:
        """Esc: the panel goes first, then what is typed, then the list or the empty card."""
        window = self.window
        if window.panel.isVisible():
            window.panel.put_away()
        elif window.line.field.text():
            window.line.field.clear()
            window.line.field.words = False
            window.line.clear_remark()
        elif getattr(window.step, "leave", None) is not None and window.step.leave():  # type: ignore[union-attr]
            window.line.tell("It is broken off.", False)
        elif window.session.bench.gauge.pulled is not None:
            window.session.set_pulled(None)
            window.line.tell("The tightening is broken off; nothing was booked.", False)
        elif window.session.state is not None:
            window.session.go(window.session.bench.step)


class _Pages:
    """A step with pages and the page that is on, for commands that mean something there only."""

    def __init__(self, window: MainWindow, view: PagedStep):
        self.window, self.view = window, view

    def tell(self, name: str) -> None:
        """Do what the step or its page has under a name. Raises InputError where neither has it."""
        act = getattr(self.view, name, None) or getattr(self.view.page, name, None)
        if act is None:
            raise InputError("That belongs to another page: V goes through them")
        self.window.line.tell(act(), False)

    def cycle(self, topic: str) -> None:
        """The next practice of a topic."""
        self.window.line.tell(self.view.cycle(topic), False)  # type: ignore[attr-defined]
