"""What the keys and the menu do. One method a command, named as in frame/keys.py."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QApplication, QFileDialog

from redline_bore.core.errors import BenchError, FaultyInput, InputError
from redline_bore.job.entries import GaugeSet, PlateChanged
from redline_bore.ui.exports import EXPORTS, write_export
from redline_bore.ui.frame.keys import keys_html
from redline_bore.ui.frame.panel import working_html

if TYPE_CHECKING:
    from redline_bore.ui.main_window import MainWindow


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

    def _told_by_step(self, name: str) -> None:
        """Do what the step at hand has under that name, if it has it, and say what it says."""
        act = getattr(self.window.step, name, None)
        if act is not None:
            self.window.line.tell(act(), False)

    def word_typed(self, text: str) -> str:
        """Words that mean the same in every step; returns a remark, or nothing when it is none of them."""
        words = text.split()
        if len(words) == 2 and words[0].lower() == "who":
            self.window.session.person = words[1][:6]
            self.window.settings.setValue("person", self.window.session.person)
            return f"What is booked from now on is booked by {self.window.session.person}."
        if len(words) == 2 and words[0].lower() == "port":
            self.window.gauge.connect_port(words[1])
            return f"Gauge at {words[1]}. Space takes a reading."
        return ""

    # -- looking ---------------------------------------------------------------------------------------------------

    def working(self) -> None:
        view = self.window.step
        if view is not None and self.window.session.state is not None:
            self.window.panel.lay("working", "Working", working_html(view.advice(), self.window.theme))

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

        session = self.window.session
        if path.suffix.lower() == ".json":
            number = import_job(session.logbook, path, session.figures)
            session.open_job(number)
            self.window.line.tell(f"Job {number} is taken in.", False)
            return
        rows = import_readings(path, session.job)
        session.book_rows(rows, path.name)
        self.window.line.tell(f"{len(rows)} readings are taken in from {path.name}.", False)

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

    # -- instruments -----------------------------------------------------------------------------------------------

    def simulated(self) -> None:
        """Start the stand-in on this job's true wall, zeroed on a master of the nominal bore."""
        from redline_bore.demo.walls import true_wall

        session, state = self.window.session, self.window.session.job
        warm = state.block_c if state.block_c is not None else 20.4
        wall = true_wall(state.number, state.block, state.travel, state.coefficient_1e6)
        if state.gauge is None:
            session.book(GaugeSet(master_20_mm=state.block.bore_mm, master_c=20.0))
        zero = session.job.gauge
        assert zero is not None
        size = zero.master_20_mm * (1.0 + zero.master_1e6 * 1e-6 * (zero.master_c - 20.0))
        self.window.gauge.start_simulated(wall, size, warm)

    def port(self) -> None:
        self.window.line.field.setText("port /dev/ttyUSB0")
        self.window.line.field.setFocus()
        self.window.line.tell("Put the gauge's device path behind “port”, then Enter.", False)
