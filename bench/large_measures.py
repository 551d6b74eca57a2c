"""What it costs to work in a large logbook: prints ``name|wall ms|cpu ms|floor ms|floor cpu ms|pace`` a line, floors measured in the same run.

``python -m bench.large_measures PATH``, or ``URL URL-OF-ITS-KEEPER``; every figure is the middle of several unless it says another.
"""

from __future__ import annotations

import os
import shutil
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, QSettings
from PyQt6.QtWidgets import QWidget

from bench.booking import Pair, bare, bare_served, bookings, middle, reading, timed
from bench.pace import REFERENCE_SPIN_S, spin
from redline_bore.app import application, build_window
from redline_bore.ui.collector import Collector
from redline_bore.ui.steps.declared import STEPS


def high(pairs: list[Pair]) -> Pair:
    at = lambda values: sorted(values)[int(0.95 * (len(values) - 1))]  # noqa: E731
    return at([p[0] for p in pairs]), at([p[1] for p in pairs])


def told(name: str, ours: Pair, floor: Pair = (0.0, 0.0)) -> None:
    """Beside each figure how fast the machine is at this moment, by the shortest of a few fixed bits of work."""
    pace = min(spin() for _i in range(25)) / REFERENCE_SPIN_S
    print("|".join((name, *(f"{v:.3f}" for v in (*ours, *floor, pace)))), flush=True)


class Painted(QObject):
    """Notes that a widget was asked to paint itself."""

    seen = False

    def eventFilter(self, widget: QObject | None, event: QEvent | None) -> bool:
        self.seen = self.seen or (event is not None and event.type() == QEvent.Type.Paint)
        return False


app = application()
served = "://" in sys.argv[1]
folder = Path(tempfile.mkdtemp(dir=None if served else Path(sys.argv[1]).parent))
where: Path | str = sys.argv[1] if served else Path(shutil.copy(sys.argv[1], folder / "large.sqlite"))
window = build_window(where, None, QSettings(str(folder / "bench.ini"), QSettings.Format.IniFormat))
window.show()
session = window.session
_ = session.logbook
Collector(window)  # as the program does once its first picture stands
for _i in range(20):
    app.processEvents()


def until_painted(widget: QWidget, work: Callable[[], object]) -> None:
    painted = Painted()
    widget.installEventFilter(painted)
    work()
    while not painted.seen or window.runner._tokens.keys() & {"jobs", "open job"}:
        app.processEvents()
        time.sleep(2e-4)  # as an event loop sleeps: one that spins takes the time from the thread that reads
    widget.removeEventFilter(painted)


# -- the list ----------------------------------------------------------------------------------------------------------
window.lists.show_jobs()
assert window.lists.jobs is not None
rack = window.lists.jobs.list.viewport()
assert rack is not None
told(
    "list of jobs, opened and painted",
    middle([timed(lambda: until_painted(rack, window.lists.show_jobs)) for _i in range(9)]),
)
letters = ["s", "sa", "sal", "salt", "salt", "", "f", "fe", "fell", "fell 3", "fell 33", ""]
told(
    "a letter of the search, painted",
    high(
        [
            timed(lambda t=t: until_painted(rack, lambda: window.lists.jobs.search.setText(t)))
            for t in letters * 3
            if t != window.lists.jobs.search.text()
        ]
    ),
)  # type: ignore[misc,union-attr]

# -- opening a job -----------------------------------------------------------------------------------------------------
for number in ("00017", "L5000", "L20000"):
    told(
        f"job {number} opened and painted",
        middle([timed(lambda n=number: until_painted(window.card, lambda: window.open_job(n))) for _i in range(5)]),
    )  # type: ignore[misc]


# -- booking, against the same bytes through the bare driver ------------------------------------------------------------
for number in ("00017", "L5000", "L20000"):
    job = session.desk.open(number)
    ours, floor = bookings(job, bare_served(sys.argv[2]) if served else bare(Path(tempfile.mkdtemp(dir=folder))))
    told(f"a booking, job {number}", ours, floor)

# -- striking and restoring --------------------------------------------------------------------------------------------
job = session.desk.open("L5000")
struck = [timed(lambda n=n: job.strike(3000 + n)) for n in range(9)]  # type: ignore[misc]
restored = [timed(lambda n=n: job.restore(3000 + n)) for n in range(9)]  # type: ignore[misc]
told("strike at 5,000 entries", middle(struck))
told("restore at 5,000 entries", middle(restored))

# -- the frame after a booking -----------------------------------------------------------------------------------------
for number in ("00017", "L20000"):
    session.open_job(number)
    session.go("gauge")
    for _i in range(30):
        app.processEvents()

    def frame(n: int) -> None:
        session.book(reading(n), typed="105.1", advance=True)
        for _turn in range(4):
            app.processEvents()

    told(f"booked and painted, job {number}, 95 %", high([timed(lambda n=n: frame(n)) for n in range(60)][10:]))  # type: ignore[misc]

# -- theme and scale, after every page has been looked at -----------------------------------------------------------------
if not served:
    session.open_job("00005")
    for step, declared in STEPS.items():
        session.go(step)
        for page in declared.titles():
            session.set_page(page)
            app.processEvents()
    session.go("gauge")
    for _i in range(30):
        app.processEvents()
    theme, scales = window.theme, [1.25, 1.5, 2.0, 1.0]
    told(
        "theme changed and painted",
        middle([timed(lambda n=n: until_painted(window.card, lambda: theme.set_night(n % 2 == 0))) for n in range(9)]),
    )  # type: ignore[misc]
    told(
        "scale changed and painted",
        middle([timed(lambda s=s: until_painted(window.card, lambda: theme.set_scale(s))) for s in scales * 3]),
    )  # type: ignore[misc]

shutil.rmtree(folder)
sys.stdout.flush()
os._exit(0)
