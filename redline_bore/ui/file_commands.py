"""What the keys and the menu do with jobs and files. One method a command, named as in frame/keys.py."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QApplication, QFileDialog

from redline_bore.core.errors import BenchError, FaultyInput, InputError
from redline_bore.job.kinds.defects import PhotoAttached
from redline_bore.ui.exports import EXPORTS, write_export

if TYPE_CHECKING:
    from redline_bore.ui.main_window import MainWindow


class FileCommands:
    """Lists, taking in, writing out."""

    window: MainWindow

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
        self.export_one("Customer PDF")

    def export_one(self, name: str) -> None:
        """Ask where to, and write one export; without a name, all of them into a folder."""
        if not name:
            self.export()
            return
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
        session = self.window.session
        if path.suffix.lower() == ".json":
            number = session.desk.take_job(path)
            session.open_job(number)
            self.window.line.tell(f"Job {number} is taken in.", False)
            return
        if self._at_finish():
            self.window.line.tell(self.window.step.offer_file(path), False)  # type: ignore[union-attr]
            return
        other = self._whose()
        taken = session.took(session.desk.take_readings(session.opened, path, other))
        session.to_next_place()
        whose = f" as {other}'s" if other else ""
        self.window.line.tell(f"{taken.remark} taken in from {path.name}{whose}.", False)

    def _whose(self) -> str:
        """Whose readings a file holds: another shop's while its page is on, else ours (empty)."""
        session = self.window.session
        if session.bench.step != "gauge" or session.bench.page != "second":
            return ""
        shops = session.job.comparing.second_opinions
        return shops[-1].conditions.who if shops else "other shop"

    def show_faults(self, error: FaultyInput) -> None:
        """List every fault of an input in the panel."""
        rows = "".join(f"<p><b>{f.path}</b>: {f.reason}</p>" for f in error.faults[:60])
        more = f"<p>and {len(error.faults) - 60} more</p>" if len(error.faults) > 60 else ""
        self.window.panel.lay("faults", "Nothing was taken in", f"<p>{len(error.faults)} to put right:</p>{rows}{more}")

    def take_in(self) -> None:
        kinds = "Readings and jobs (*.csv *.txt *.json)"
        if self._at_finish():
            kinds = "Traces and jobs (*.csv *.txt *.prf *.x3p *.sdf *.json)"
        path, _ = QFileDialog.getOpenFileName(self.window, "Take in from a file", str(Path.home()), kinds)
        if path:
            self.take_file(Path(path))

    def _at_finish(self) -> bool:
        return self.window.step is not None and self.window.step.name == "finish"

    def quit(self) -> None:
        self.window.close()
        app = QApplication.instance()
        if app is not None:
            app.quit()

    def half_page(self) -> None:
        """The second opinion as half a page to hand over."""
        path = self._save_as("Save the half page", "second-opinion.pdf", "PDF or HTML (*.pdf *.html)")
        if path is not None:
            self.write_half_page(path)

    def _save_as(self, title: str, ending: str, kinds: str) -> Path | None:
        """Where a paper of this job is to go; None when nobody says."""
        offered = str(Path.home() / f"{self.window.session.job.number}-{ending}")
        path, _ = QFileDialog.getSaveFileName(self.window, title, offered, kinds)
        return Path(path) if path else None

    def write_half_page(self, path: Path) -> None:
        """Write it; the ending says as what."""
        from redline_bore.ui.exports import write_opinion

        self._told(lambda: write_opinion(self.window.session.job, self.window.session.show, path), f"Written: {path}")

    def bench_sheet(self) -> None:
        """The bench sheet of the cylinder that is looked at."""
        ending = f"cylinder-{self.window.session.bench.cylinder}.pdf"
        path = self._save_as("Save the bench sheet", ending, "PDF or HTML (*.pdf *.html)")
        if path is not None:
            self.write_bench_sheet(path)

    def write_bench_sheet(self, path: Path) -> None:
        """Write it; the ending says as what."""
        from redline_bore.ui.exports import write_bench_sheet

        s = self.window.session
        self._told(lambda: write_bench_sheet(s.job, s.bench.cylinder, s.show, path), f"Written: {path}")

    def quote(self) -> None:
        """The quote for the call that is looked at, or its order list; at the hone, the bench sheet."""
        if self.window.step is not None and self.window.step.name == "hone":
            self.bench_sheet()
            return
        path = self._save_as("Save the quote", "quote.pdf", "PDF, HTML, or the order list (*.pdf *.html *.csv)")
        if path is not None:
            self.write_quote(path)

    def write_quote(self, path: Path) -> None:
        """Write it; the ending says as what."""
        from redline_bore.ui.exports import write_quote

        s = self.window.session
        self._told(lambda: write_quote(s.job, s.call_mm, s.apart, s.show, path), f"Written: {path}")

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

    def attach_photo(self, path: Path) -> str:
        """Keep a picture with the job, belonging to the defect that is looked at. Raises BenchError."""
        from redline_bore.store.photos import photo_from_file

        session = self.window.session
        marked = session.job.gauging.defects_of(session.bench.cylinder)
        if not marked:
            raise InputError("A photo belongs to a defect: mark it on the wall first, with D")
        photo = photo_from_file(path)
        session.logbook.keep_photo(photo)
        of = marked[min(session.bench.gauge.defect, len(marked) - 1)]
        session.book(PhotoAttached(seq=of.seq, name=path.name, media=photo.media, sha256=photo.sha256), typed=path.name)
        return f"{path.name} is kept with the {of.what}."

    def photo(self) -> None:
        title = "A picture of the wall, the bore's axis upright" if self._at_finish() else "A photo of the defect"
        path, _ = QFileDialog.getOpenFileName(self.window, title, str(Path.home()), "Pictures (*.png *.jpg *.jpeg)")
        if path and self._at_finish():
            self.window.line.tell(self.window.step.take_picture(Path(path)), False)  # type: ignore[union-attr]
        elif path:
            self.window.line.tell(self.attach_photo(Path(path)), False)
