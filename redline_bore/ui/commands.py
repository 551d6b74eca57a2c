"""What the keys and the menu do. One method a command, named as in frame/keys.py."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QApplication, QFileDialog

from redline_bore.core.errors import BenchError, FaultyInput, InputError
from redline_bore.job.entries import TWO_POINT, EntryRestored, EntryStruck, GaugeSet, PhotoAttached, PlateChanged
from redline_bore.job.fold import UNDOABLE
from redline_bore.ui.exports import EXPORTS, write_export
from redline_bore.ui.frame.keys import keys_html
from redline_bore.ui.frame.panel import ledger_html, working_html

if TYPE_CHECKING:
    from redline_bore.ui.main_window import MainWindow
    from redline_bore.ui.steps.gauge import GaugeStep


class Commands:
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
            raise InputError("A reading is taken in the gauge step, or at the hone behind the strokes")
        self.window.gauge.ask()

    def press(self) -> None:
        """Press the button of the stand-in that is connected."""
        self.window.gauge.tell_stand_in("press")

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
        self.window.session.book(PlateChanged(on=not self.window.session.job.plate_on))
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

    def practice(self) -> None:
        self._told_by_step("next_practice")

    def next_page(self) -> None:
        self._at_gauge().turn(1)

    def page_before(self) -> None:
        self._at_gauge().turn(-1)

    def swept(self) -> None:
        self._at_gauge().tell("toggle_swept")

    def defect(self) -> None:
        self._at_gauge().tell("mark_defect")

    def keep_study(self) -> None:
        self._at_gauge().tell("keep")

    def quick_plan(self) -> None:
        self._at_gauge().tell("cycle_plan")

    def _at_gauge(self) -> _AtGauge:
        from redline_bore.ui.steps.gauge import GaugeStep

        view = self.window.step
        if not isinstance(view, GaugeStep) or self.window.session.state is None:
            raise InputError("That is done in the gauge step")
        return _AtGauge(self.window, view)

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
            return self._port_with_pattern(words[1], words[2].lower(), words[3].lower(), " ".join(words[4:]))
        if len(words) >= 2 and words[0].lower() in ("strike", "restore") and words[1].isdigit():
            return self._strike_any(words[0].lower(), int(words[1]), " ".join(words[2:]))
        if len(words) >= 2 and words[0].lower() == "photo":
            return self.attach_photo(Path(text.strip()[len("photo") :].strip()).expanduser())
        return ""

    def _strike_any(self, act: str, seq: int, reason: str) -> str:
        """``strike 123 wrong cylinder``: any entry but the opening of the job; ``restore 123`` brings it back."""
        session = self.window.session
        record = next((r for r in session.records if r.seq == seq), None)
        if record is None or not isinstance(record.entry, UNDOABLE):
            raise InputError(f"Entry {seq} is none that can be struck; Ctrl+L shows the ledger")
        if (seq in session.job.struck) == (act == "strike"):
            raise InputError(f"Entry {seq} {'is struck already' if act == 'strike' else 'counts as it is'}")
        if act == "strike":
            session.book(EntryStruck(seq=seq, reason=reason), typed=f"strike {seq} {reason}".strip())
            return f"Entry {seq} is struck out; it stays in the ledger."
        session.book(EntryRestored(seq=seq), typed=f"restore {seq}")
        return f"Entry {seq} counts again."

    def _port_with_pattern(self, port: str, kind: str, unit: str, pattern: str) -> str:
        """``port /dev/ttyUSB0 two-point in {value}``: a real gauge by its own line pattern."""
        from redline_bore.instruments.line_protocol import LinePattern

        line, _, ask = (pattern or "{value}").partition(" ask ")
        self.window.gauge.connect_port(port, LinePattern(kind, unit, line, ask.strip()))
        self.window.settings.setValue(f"port/{port.replace('/', '_')}", f"{kind} {unit} {pattern}")
        return f"A {kind} gauge at {port}, read as {line}, in {unit}. Its own button books at once."

    def attach_photo(self, path: Path) -> str:
        """Keep a picture with the job, belonging to the defect that is looked at. Raises BenchError."""
        from redline_bore.store.photos import photo_from_file

        session = self.window.session
        marked = session.job.defects_of(session.bench.cylinder)
        if not marked:
            raise InputError("A photo belongs to a defect: mark it on the wall first, with D")
        photo = photo_from_file(path)
        session.logbook.keep_photo(photo)
        of = marked[min(session.bench.defect, len(marked) - 1)]
        session.book(PhotoAttached(seq=of.seq, name=path.name, media=photo.media, sha256=photo.sha256), typed=path.name)
        return f"{path.name} is kept with the {of.what}."

    def photo(self) -> None:
        path, _ = QFileDialog.getOpenFileName(
            self.window, "A photo of the defect", str(Path.home()), "Pictures (*.png *.jpg *.jpeg)"
        )
        if path:
            self.window.line.tell(self.attach_photo(Path(path)), False)

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
        elif window.session.bench.pulled is not None:
            window.session.set_pulled(None)
            window.line.tell("The tightening is broken off; nothing was booked.", False)
        elif window.session.state is not None:
            window.session.go(window.session.bench.step)

    # -- jobs and files --------------------------------------------------------------------------------------------

    def jobs(self) -> None:
        window = self.window
        if window.jobs is None:
            from redline_bore.ui.frame.job_list import JobList

            window.jobs = JobList(window.session)
            window.jobs.chosen.connect(window.open_job)
            window.stack.addWidget(window.jobs)
        window.panel.put_away()
        window.jobs.refresh()
        window.stack.setCurrentWidget(window.jobs)
        window.jobs.search.setFocus()
        window.card.button.hide()
        window.line.say("Jobs in the logbook", "Type to search; Enter opens the job", "Esc goes back")

    def new(self) -> None:
        self.window.session.begin_new_job()

    def figures(self) -> None:
        window = self.window
        if window.figures is None:
            from redline_bore.ui.frame.shop_figures import ShopFigures

            window.figures = ShopFigures(window.session)
            window.stack.addWidget(window.figures)
        window.panel.put_away()
        window.figures.refresh()
        window.stack.setCurrentWidget(window.figures)
        window.figures.search.setFocus()
        window.card.button.hide()
        window.line.say("Shop figures", "Enter keeps what is typed as the shop's own", "Esc goes back")

    def pdf(self) -> None:
        self.export_one("PDF")

    def export_one(self, name: str) -> None:
        """Ask where to, and write one export."""
        number = self.window.session.job.number
        suggested = str(Path.home() / f"{number}-{EXPORTS[name]}")
        path, _ = QFileDialog.getSaveFileName(self.window, f"Save {name}", suggested)
        if path:
            self._told(lambda: write_export(self.window.session, name, Path(path)), f"Written: {path}")

    def export(self) -> None:
        """Write everything into a folder."""
        number = self.window.session.job.number
        folder = QFileDialog.getExistingDirectory(
            self.window, "Folder for the sheet, the readings and the job", str(Path.home())
        )
        if folder:
            self.export_to(Path(folder), number)

    def export_to(self, folder: Path, number: str) -> None:
        """Write every export of the open job into ``folder``."""

        def work() -> None:
            for name, file in EXPORTS.items():
                write_export(self.window.session, name, folder / f"{number}-{file}")

        self._told(work, f"Written to {folder}: {', '.join(EXPORTS)}")

    def _told(self, work, remark: str) -> None:  # type: ignore[no-untyped-def]
        try:
            work()
        except BenchError as error:
            self.window.line.tell(f"{error}.", True)
        else:
            self.window.line.tell(remark, False)

    def take_file(self, path: Path) -> None:
        """Take in a readings CSV or a job JSON. Raises BenchError; a faulty file is told row by row."""
        from redline_bore.store.importing import import_job, import_readings
        from redline_bore.store.readings_csv import taken_words

        session = self.window.session
        if path.suffix.lower() == ".json":
            number = import_job(session.logbook, path, session.figures)
            session.open_job(number)
            self.window.line.tell(f"Job {number} is taken in.", False)
            return
        other = self._whose()
        rows = import_readings(path, session.job, other)
        session.book_rows(rows, path.name)
        whose = f" as {other}'s" if other else ""
        self.window.line.tell(f"{taken_words(rows)} taken in from {path.name}{whose}.", False)

    def _whose(self) -> str:
        """Whose readings a file holds: another shop's while its page is on, else ours (empty)."""
        session = self.window.session
        if session.bench.step != "gauge" or session.bench.page != "second":
            return ""
        shops = session.job.second_opinions
        return shops[-1].conditions.who if shops else "other shop"

    def show_faults(self, error: FaultyInput) -> None:
        """List every fault of an input in the panel."""
        rows = "".join(f"<p><b>{f.path}</b>: {f.reason}</p>" for f in error.faults[:60])
        more = f"<p>and {len(error.faults) - 60} more</p>" if len(error.faults) > 60 else ""
        self.window.panel.lay("faults", "Nothing was taken in", f"<p>{len(error.faults)} to put right:</p>{rows}{more}")

    def take_in(self) -> None:
        path, _ = QFileDialog.getOpenFileName(
            self.window, "Readings (CSV) or a job (JSON)", str(Path.home()), "Readings and jobs (*.csv *.txt *.json)"
        )
        if path:
            self.take_file(Path(path))

    def quit(self) -> None:
        self.window.close()
        app = QApplication.instance()
        if app is not None:
            app.quit()

    def half_page(self) -> None:
        """The second opinion as half a page to hand over."""
        number = self.window.session.job.number
        path, _ = QFileDialog.getSaveFileName(
            self.window,
            "Save the half page",
            str(Path.home() / f"{number}-second-opinion.pdf"),
            "PDF or HTML (*.pdf *.html)",
        )
        if path:
            self.write_half_page(Path(path))

    def write_half_page(self, path: Path) -> None:
        """Write it; the ending says as what."""
        from redline_bore.ui.exports import write_opinion

        self._told(lambda: write_opinion(self.window.session.job, self.window.session.show, path), f"Written: {path}")

    def pictures(self) -> None:
        """Every picture on the screen, as PNG and SVG."""
        folder = QFileDialog.getExistingDirectory(self.window, "Folder for the pictures", str(Path.home()))
        if folder:
            self.write_pictures(Path(folder))

    def write_pictures(self, folder: Path) -> None:
        """Write the pictures of the step at hand into ``folder``."""
        from redline_bore.ui.exports import write_pictures

        view, number = self.window.step, self.window.session.job.number
        if view is None:
            raise InputError("There is no picture on the screen to write")
        names: list[str] = []
        self._told(lambda: names.extend(write_pictures(view, folder, number)), f"PNG and SVG written to {folder}")

    # -- instruments -----------------------------------------------------------------------------------------------

    def simulated(self) -> None:
        self._start_gauge(TWO_POINT)

    def simulated_three(self) -> None:
        self._start_gauge("three-point")

    def simulated_spindle(self) -> None:
        self._start_gauge("spindle")

    def simulated_thermometer(self) -> None:
        """Start the thermometer; what it reads is the block's temperature."""
        state = self.window.session.job
        warm = state.block_c if state.block_c is not None else 20.4
        self.window.thermometer.start_simulated("thermometer", warm)
        self.window.thermometer.ask()

    def _start_gauge(self, kind: str) -> None:
        """Start a stand-in on this job's true wall, zeroed on a master of the nominal bore (a spindle: its radius)."""
        from redline_bore.demo.walls import true_wall

        session, state = self.window.session, self.window.session.job
        warm = state.block_c if state.block_c is not None else 20.4
        wall = true_wall(state.number, state.block, state.travel, state.coefficient_1e6)
        if kind == "spindle":
            here = state.spindle is not None and state.spindle.cylinder == session.bench.cylinder
            radius = state.spindle.zero_radius_mm if here and state.spindle is not None else state.block.bore_mm / 2.0
            self.window.gauge.start_simulated(kind, warm, wall, radius)
            return
        if state.gauge is None or state.gauge_kind != kind:
            session.book(GaugeSet(master_20_mm=state.block.bore_mm, master_c=20.0, gauge=kind))
        zero = session.job.gauge
        assert zero is not None
        size = zero.master_20_mm * (1.0 + zero.master_1e6 * 1e-6 * (zero.master_c - 20.0))
        self.window.gauge.start_simulated(kind, warm, wall, size)

    def port(self) -> None:
        self.window.line.field.setText("port /dev/ttyUSB0")
        self.window.line.field.setFocus()
        self.window.line.tell("Put the gauge's device path behind “port”, then Enter.", False)


class _AtGauge:
    """The gauge step and the page that is on, for commands that mean something there only."""

    def __init__(self, window: MainWindow, view: GaugeStep):
        self.window, self.view = window, view

    def turn(self, by: int) -> None:
        self.window.line.tell(self.view.next_page(by), False)

    def tell(self, name: str) -> None:
        """Do what the step or its page has under a name. Raises InputError where neither has it."""
        act = getattr(self.view, name, None) or getattr(self.view.page, name, None)
        if act is None:
            raise InputError("That belongs to another page: V goes through them")
        self.window.line.tell(act(), False)
