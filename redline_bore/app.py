"""Starting the window: the frame first, from what can be read quickly; the rest when the first picture stands."""

from __future__ import annotations

import gc
import os
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

from PyQt6.QtCore import QLocale, QSettings, Qt, QTimer
from PyQt6.QtWidgets import QApplication

from redline_bore.core.errors import BenchError, EnvironmentTrouble, InputError, ServerAway
from redline_bore.core.written import write_with_comma
from redline_bore.store import quick_read
from redline_bore.store.file_connection import is_current
from redline_bore.store.kept_answers import keep_answers, read_answers
from redline_bore.store.places import data_folder, is_server, outboxes_of
from redline_bore.store.shop import shipped_figures
from redline_bore.ui.main_window import MainWindow
from redline_bore.ui.paint.turns import Turns
from redline_bore.ui.session import Session
from redline_bore.ui.theme.theme import Theme, load_fonts, load_other_fonts

if TYPE_CHECKING:
    from redline_bore.job.kinds.entry import Record
    from redline_bore.store.logbook import Logbook


BUSY_S = 0.2  # another program is waited for no longer on the interface thread; what was typed stays and is tried again
PLACE = ("LC_ALL", "LC_NUMERIC", "LC_MESSAGES", "LANGUAGE", "LANG")  # what Qt knows a place by
POINT_AND_A4, POINT_AND_LETTER = {"C", "POSIX", "en_GB"}, {"en_US"}  # places that Qt need not be asked about


def application() -> QApplication:
    """The one QApplication, with the shipped type loaded."""
    app = QApplication.instance()
    if isinstance(app, QApplication):
        return app
    app = QApplication([*sys.argv[:1], "-style", "fusion"])  # as an argument: setStyle() costs a tenth of the start
    app.setApplicationName("Redline Bore")
    load_fonts(app)
    return app


def logbook_opener(where: Path | str, make: bool = True) -> Callable[[], Logbook]:
    """Opens the logbook when it is first needed: SQLAlchemy costs more than the first picture may take. One that was there already is
    never made anew."""

    def opened() -> Logbook:
        from redline_bore.store.logbook import Logbook

        return Logbook(where, make, BUSY_S)

    return opened


def build_window(where: Path | str, number: str | None = None, settings: QSettings | None = None) -> MainWindow:
    """A window on a logbook, in a file or on a server, with a job open if there is one. Raises BenchError when the logbook cannot be used."""
    with _no_collecting():
        return _built(where, number, settings)


@contextmanager
def _no_collecting() -> Iterator[None]:
    """Nothing is looked for that can be thrown away: a long ledger is a hundred thousand new objects, and none of them is in a circle."""
    before = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if before:
            gc.enable()


def _built(where: Path | str, number: str | None, settings: QSettings | None) -> MainWindow:
    application()
    kept = settings if settings is not None else QSettings("redline-bore", "redline-bore")
    night = _said(kept, "night") if kept.contains("night") else _desktop_is_dark()
    theme = Theme(night, _scale(kept.value("scale", 1.0)), _said(kept, "clear"), _said(kept, "touch"))
    read_answers()
    path, trouble_there = _place(where)
    current = path is not None and is_current(path)
    figures = shipped_figures()
    trouble = trouble_there
    if path is not None and current:
        try:
            figures = figures.with_own(quick_read.own_figures(path))
        except InputError as error:
            trouble = f"The shop's own figures cannot be used, the shipped ones count: {error}"
    session = Session(figures, logbook_opener(where if path is None else path, path is not None and not path.exists()))
    comma, letter = as_here()
    write_with_comma(_said(kept, "comma") if kept.contains("comma") else comma)
    session.paper = "Letter" if kept.value("paper", "Letter" if letter else "A4") == "Letter" else "A4"
    if kept.contains("person"):
        session.person = str(kept.value("person"))
    window = MainWindow(session, theme, kept)
    if path is None:
        trouble = _open_at_server(session, number)
    elif current:
        found = quick_read.find_job(path, number)
        if found is not None:
            trouble = _opened(session, *found, number) or trouble
        elif number is not None:
            session.logbook.job_id(number)  # says which jobs there are
    else:
        session.logbook.figures()  # makes the logbook, or says why it cannot
    if session.state is None:
        session.begin_new_job()
    if trouble:
        QTimer.singleShot(0, lambda: window.line.tell(trouble, True))
    return window


def as_here() -> tuple[bool, bool]:
    """Whether a decimal comma is written at this place, and whether its paper is Letter. Asking Qt costs a fiftieth of the start."""
    named = {said.partition(".")[0] for name in PLACE if (said := os.environ.get(name))}
    if named <= POINT_AND_A4 or named == POINT_AND_LETTER:
        return False, named == POINT_AND_LETTER
    here, land = QLocale.system(), QLocale.Country
    letter = (land.UnitedStates, land.Canada, land.Mexico, land.Philippines)
    return here.decimalPoint() == ",", here.territory() in letter


def _place(where: Path | str) -> tuple[Path | None, str]:
    """The file to work in (None: it is the server itself), and what is to be said of it. Where the server is away, it is what was kept here."""
    if not is_server(where):
        return Path(where), ""
    from redline_bore.store.opened import base_of

    try:
        base_of(where).engine.dispose()
        return None, ""
    except ServerAway as away:
        kept = sorted(outboxes_of(str(where)), key=lambda p: p.stat().st_mtime)
        if not kept:
            raise
        return (
            kept[-1],
            f"{away}. This is what was kept at this bench; it is handed in when the server is back and the program is started anew",
        )


def _open_at_server(session: Session, number: str | None) -> str:
    """Open a job of a server's logbook: the one asked for, else the one worked on last; says why where it cannot be shown."""
    session.desk.figures = session.logbook.figures()
    newest = session.logbook.newest_number() if number is None else number
    if newest is None:
        return ""
    job_id = session.logbook.job_id(newest)
    return _opened(session, job_id, session.logbook.ledger(job_id), newest)


def _opened(session: Session, job_id: int, records: tuple[Record, ...], asked: str | None) -> str:
    """Open the job that was worked on last; says why where it cannot be shown. The window starts all the same: the other jobs are there."""
    try:
        session.load(job_id, records)
        return ""
    except Exception as error:  # whatever a ledger holds, the window starts
        session.open = None
        number = getattr(records[0].entry, "number", asked) if records else asked
        return f"Job {number or 'worked on last'} cannot be shown ({type(error).__name__}: {error}). The others are in the list, Ctrl+J; Alt+A sets one aside there"


def _said(kept: QSettings, key: str) -> bool:
    return str(kept.value(key, "false")).lower() == "true"


def _desktop_is_dark() -> bool:
    """Until somebody chose, the night shift follows the desktop."""
    hints = QApplication.styleHints()
    return hints is not None and hints.colorScheme() is Qt.ColorScheme.Dark


def _scale(value: object) -> float:
    try:
        return min(2.0, max(0.8, float(str(value))))
    except ValueError:
        return 1.0


def run(where: Path | str, number: str | None = None, guide: bool = False) -> int:
    """Show the window until it is closed; returns the exit code. guide: with the guide of the first job, on a new one."""
    if not _display():
        raise EnvironmentTrouble(
            "There is no display here, so there is no window. redline-bore --help says what can be done without one"
        )
    app = application()
    window = build_window(where, number)
    catch_faults(window)
    if guide:
        window.session.begin_new_job()
        window.begin_guide()
    elif window.session.state is None and _is_empty(where):
        window.do("begin")  # with the first picture: nothing may take the keys behind it
    Turns.of(window.session).stands.connect(lambda: warm_up(window))
    window.show()
    return app.exec()


def _is_empty(where: Path | str) -> bool:
    """Whether a logbook in a file holds no job yet; of one on a server that is not asked before the first picture."""
    path = _place(where)[0]
    return path is not None and (not path.exists() or not is_current(path) or quick_read.find_job(path, None) is None)


def _display() -> bool:
    """Whether a window can be shown, or is wanted without a display."""
    wanted = ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")
    return not sys.platform.startswith("linux") or any(os.environ.get(name) for name in wanted)


def warm_up(window: MainWindow) -> None:
    """Load what the first booking and the wall map will need, and keep what was worked out, behind the first picture; from here on is looked for
    what nobody holds."""
    gc.enable()

    def work(_token: object) -> None:
        import scipy.interpolate  # noqa: F401
        import scipy.optimize  # noqa: F401

        import redline_bore.store.logbook  # noqa: F401

        keep_answers()  # what the first picture asked: a power cut must not make the next start slow

    load_other_fonts()
    window.runner.start("warm up", work, lambda _result: _open_logbook(window))


def _open_logbook(window: MainWindow) -> None:
    """Open the logbook, so that the first booking need not wait for it; say where it is not as it was left."""
    assert window.session.logbook is not None
    from redline_bore.ui.collector import Collector
    from redline_bore.ui.company import Company

    Collector(window)
    window.endings.append(Company(window).end)
    if window.session.desk.missing:
        window.line.tell(window.session.desk.missing, True)


def fault_log() -> Path:
    """Where unexpected faults are written down."""
    return data_folder() / "faults.log"


def catch_faults(window: MainWindow) -> None:
    """An unexpected exception shows one plain panel and is written down; the ledger is as it was, the program goes on."""

    def caught(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt):
            sys.__excepthook__(kind, error, trace)
            return
        if isinstance(error, BenchError):
            window.line.tell(f"{error}.", True)
            return
        import traceback

        text = "".join(traceback.format_exception(kind, error, trace))
        sys.stderr.write(text)
        where = _written_down(text)
        window.over.panel.lay(
            "fault",
            "The program made a mistake",
            "<p>What was booked is safe in the logbook, and you can go on.</p>"
            "<p>What you did last may not have been done: look at the last entry in the gauge line.</p>"
            f"<p>Written down in {where}. In short: {kind.__name__}: {error}</p>",
        )

    sys.excepthook = caught


def _written_down(text: str) -> str:
    try:
        path = fault_log()
        path.parent.mkdir(parents=True, exist_ok=True)
        with open(path, "a", encoding="utf-8") as log:
            log.write(text + "\n")
    except OSError:
        return "the terminal only; the data folder cannot be written"
    return str(path)


def offscreen_if_no_display() -> None:
    """Paint without a display where there is none: for the sheet from the command line, and for pictures."""
    if sys.platform.startswith("linux") and not (os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY")):
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
