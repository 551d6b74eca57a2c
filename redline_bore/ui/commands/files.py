"""Jobs and files: lists, taking in, writing out."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog

from redline_bore.core.errors import InputError
from redline_bore.job.kinds.defects import PhotoAttached
from redline_bore.store.exports import file_stem
from redline_bore.ui.commands.command import Group, command, needs_job
from redline_bore.ui.frame.window_parts import WindowParts

FILES = Group.FILES


@command(FILES, 1, "Jobs in the logbook", "Ctrl+J")
def jobs(window: WindowParts) -> str:
    """The list of jobs."""
    window.lists.show_jobs()
    return ""


@command(FILES, 2, "Book in a new job", "Ctrl+N")
def new(window: WindowParts) -> str:
    """An empty book-in card."""
    window.session.begin_new_job()
    return ""


@command(FILES, 2, "Book in another like this one", "Ctrl+Shift+N", why_not=needs_job)
def another(window: WindowParts) -> str:
    """A book-in card filled in as this job's is: the same engine, again."""
    window.session.begin_new_job(window.session.job)
    return "Filled in as this job is; the number is the next one."


@command(FILES, 3, "Readings, a trace or a job from a file", "Ctrl+O")
def take_in(window: WindowParts) -> str:
    """Ask for a file and take it in."""
    kinds = "Readings and jobs (*.csv *.txt *.json)" if window.step is None else window.step.file_kinds
    path, _ = QFileDialog.getOpenFileName(window.widget, "Take in from a file", str(Path.home()), kinds)
    return take_file(window, Path(path)) if path else ""


def take_file(window: WindowParts, path: Path) -> str:
    """Take in a job JSON, what the step at hand takes, or a readings CSV; returns a remark. Raises BenchError."""
    session, view = window.session, window.step
    if path.suffix.lower() == ".json":
        number = session.desk.take_job(path)
        session.open_job(number)
        return f"Job {number} is taken in."
    if view is not None and (remark := view.take_file(path)) is not None:
        return remark
    other = "" if view is None else view.others_readings
    taken = session.took(session.desk.take_readings(session.opened, path, other))
    session.to_next_place()
    whose = f" as {other}'s" if other else ""
    return f"{taken.remark} taken in from {path.name}{whose}."


@command(FILES, 4, "The customer's sheet as PDF", "Ctrl+P")
def pdf(window: WindowParts) -> str:
    """The customer's sheet."""
    return export_one(window, "Customer PDF")


def export_one(window: WindowParts, name: str) -> str:
    """Ask where to, and write one export; without a name, all of them into a folder."""
    from redline_bore.ui.exports import EXPORTS, write_export

    if not name:
        return export(window)
    number = window.session.job.number
    suggested = str(Path.home() / f"{file_stem(number)}-{EXPORTS[name]}")
    path, _ = QFileDialog.getSaveFileName(window.widget, f"Save {name}", suggested)
    if not path:
        return ""
    write_export(window.session, name, Path(path))
    return f"Written: {path}"


@command(FILES, 5, "Sheets, readings, finish and job to a folder", "Ctrl+E")
def export(window: WindowParts) -> str:
    """Write everything into a folder."""
    number = window.session.job.number
    folder = QFileDialog.getExistingDirectory(
        window.widget, "Folder for the sheet, the readings and the job", str(Path.home())
    )
    return export_to(window, Path(folder), number) if folder else ""


def export_to(window: WindowParts, folder: Path, number: str) -> str:
    """Write every export of the open job into ``folder``. Raises BenchError."""
    from redline_bore.ui.exports import EXPORTS, write_export

    for name, file in EXPORTS.items():
        write_export(window.session, name, folder / f"{file_stem(number)}-{file}")
    return f"Written to {folder}: {', '.join(EXPORTS)}"


@command(FILES, 6, "Second opinion: the half page", "Ctrl+H")
def half_page(window: WindowParts) -> str:
    """The second opinion as half a page to hand over."""
    path = _save_as(window, "Save the half page", "second-opinion.pdf", "PDF or HTML (*.pdf *.html)")
    return "" if path is None else write_half_page(window, path)


def write_half_page(window: WindowParts, path: Path) -> str:
    """Write it; the ending says as what. Raises BenchError."""
    from redline_bore.ui.exports import write_opinion

    write_opinion(window.session.job, window.session.show, path, window.session.paper)
    return f"Written: {path}"


@command(FILES, 7, "Call: the quote, or the order list; Hone: the bench sheet", "Ctrl+B")
def quote(window: WindowParts) -> str:
    """The paper of the step at hand: the bench sheet at the hone, else the quote for the call that is looked at."""
    if window.step is not None and window.step.paper == "bench sheet":
        ending = f"cylinder-{window.session.bench.cylinder}.pdf"
        path = _save_as(window, "Save the bench sheet", ending, "PDF or HTML (*.pdf *.html)")
        return "" if path is None else write_bench_sheet(window, path)
    path = _save_as(window, "Save the quote", "quote.pdf", "PDF, HTML, or the order list (*.pdf *.html *.csv)")
    return "" if path is None else write_quote(window, path)


def write_bench_sheet(window: WindowParts, path: Path) -> str:
    """Write the bench sheet of the cylinder looked at; the ending says as what. Raises BenchError."""
    from redline_bore.ui import exports

    s = window.session
    exports.write_bench_sheet(s.job, s.bench.cylinder, s.show, path, s.paper)
    return f"Written: {path}"


def write_quote(window: WindowParts, path: Path) -> str:
    """Write the quote for the call looked at; the ending says as what. Raises BenchError."""
    from redline_bore.ui import exports

    s = window.session
    exports.write_quote(s.job, s.call_mm, s.apart, s.show, path, s.paper)
    return f"Written: {path}"


def _save_as(window: WindowParts, title: str, ending: str, kinds: str) -> Path | None:
    """Where a paper of this job is to go; None when nobody says."""
    offered = str(Path.home() / f"{file_stem(window.session.job.number)}-{ending}")
    path, _ = QFileDialog.getSaveFileName(window.widget, title, offered, kinds)
    return Path(path) if path else None


@command(FILES, 8, "Pictures as PNG and SVG", "Ctrl+Shift+E")
def pictures(window: WindowParts) -> str:
    """Every picture on the screen, as PNG and SVG."""
    folder = QFileDialog.getExistingDirectory(window.widget, "Folder for the pictures", str(Path.home()))
    return write_pictures(window, Path(folder)) if folder else ""


def write_pictures(window: WindowParts, folder: Path) -> str:
    """Write the pictures of the step at hand into ``folder``. Raises BenchError."""
    from redline_bore.ui import exports

    view, number = window.step, window.session.job.number
    if view is None:
        raise InputError("There is no picture on the screen to write")
    exports.write_pictures(view, folder, number)
    return f"PNG and SVG written to {folder}"


@command(FILES, 9, "A photo of the defect; Finish: of the crosshatch", "Ctrl+I")
def photo(window: WindowParts) -> str:
    """Ask for a picture and keep it."""
    title = "A photo of the defect" if window.step is None else window.step.photo_title
    path, _ = QFileDialog.getOpenFileName(window.widget, title, str(Path.home()), "Pictures (*.png *.jpg *.jpeg)")
    return attach_photo(window, Path(path)) if path else ""


def attach_photo(window: WindowParts, path: Path) -> str:
    """Keep a picture with the job: what the step at hand reads off it, else with the defect that is looked at. Raises BenchError."""
    from redline_bore.store.photos import photo_from_file

    session, view = window.session, window.step
    if view is not None and (remark := view.take_picture(path)) is not None:
        return remark
    marked = session.job.gauging.defects_of(session.bench.cylinder)
    if not marked:
        raise InputError("A photo belongs to a defect: mark it on the wall first, with D")
    kept = photo_from_file(path)
    session.logbook.keep_photo(kept)
    of = marked[min(session.bench.gauge.defect, len(marked) - 1)]
    session.book(PhotoAttached(seq=of.seq, name=path.name, media=kept.media, sha256=kept.sha256), typed=path.name)
    return f"{path.name} is kept with the {of.what}."


@command(FILES, 10, "Shop figures", "Ctrl+,")
def figures(window: WindowParts) -> str:
    """The shop's figures."""
    window.lists.show_figures()
    return ""


@command(FILES, 11, "Leave the program", "Ctrl+Q")
def quit(window: WindowParts) -> str:  # noqa: A001  (the word in the menu)
    """Leave the program."""
    window.close_all()
    return ""


@command(FILES, 10, "Where backups of the logbook go, one a day")
def backups(window: WindowParts) -> str:
    """Ask for the folder, and make one there at once."""
    from redline_bore.store.backup_folder import backup_folder

    before = backup_folder() or Path.home()
    folder = QFileDialog.getExistingDirectory(window.widget, "Folder for the backups of the logbook", str(before))
    return back_up_to(window, Path(folder)) if folder else ""


def back_up_to(window: WindowParts, folder: Path) -> str:
    """Name the folder and make a backup there, off the interface thread. Raises BenchError."""
    from redline_bore.store.backup import back_up
    from redline_bore.store.backup_folder import name_backup_folder

    name_backup_folder(folder)
    logbook = window.session.logbook
    window.behind("backup", lambda _token: back_up(logbook, folder), lambda path: window.line.tell(f"{path} is made and checked; one a day follows.", False))  # fmt: skip
    return "The backup is being made."
