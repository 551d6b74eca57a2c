"""Take a picture of each main view, from the sample jobs, worked by keys in the real window.

python tools/shots.py FOLDER
"""

from __future__ import annotations

import os
import random
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).parent.parent
os.environ["QT_QPA_PLATFORM"] = f"offscreen:configfile={ROOT / 'tests' / 'screen.json'}"

from PyQt6.QtCore import QSettings, Qt  # noqa: E402
from PyQt6.QtTest import QTest  # noqa: E402

from redline_bore.app import application, build_window  # noqa: E402
from redline_bore.core.when import now  # noqa: E402
from redline_bore.demo.jobs import write_demo  # noqa: E402
from redline_bore.job.bore.plan import plan_of  # noqa: E402
from redline_bore.store.logbook import Logbook  # noqa: E402
from redline_bore.store.shop import shipped_figures  # noqa: E402

CTRL = Qt.KeyboardModifier.ControlModifier


class Camera:
    """Works one window and takes pictures of it."""

    def __init__(self, path: Path, folder: Path) -> None:
        self.app = application()
        self.folder = folder
        settings = QSettings(str(path) + ".ini", QSettings.Format.IniFormat)
        self.window = build_window(path, "2041", settings)
        self.window.session.person = "RM"
        self.window.show()
        while not self.window.isActiveWindow():
            self.app.processEvents()

    def settle(self) -> None:
        while self.window.runner._tokens:
            self.app.processEvents()
        self.app.processEvents()

    def take(self, name: str) -> None:
        self.settle()
        self.window.grab().save(str(self.folder / f"{name}.png"))
        print(self.folder / f"{name}.png")

    def key(self, key: Qt.Key, modifier: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        QTest.keyClick(self.app.focusWidget() or self.window, key, modifier)
        self.settle()

    def type(self, text: str) -> None:
        field = self.window.line.field
        field.setFocus()
        if text[:1].isalpha() or field.digits_pick:
            self.key(Qt.Key.Key_M)
        QTest.keyClicks(field, text)
        self.key(Qt.Key.Key_Return)

    def page(self, name: str) -> None:
        self.window.session.set_page(name)
        self.settle()

    def go(self, step: str, cylinder: int) -> None:
        self.window.session.go(step)
        self.window.session.select(cylinder)
        self.settle()


def gauge_pages(camera: Camera) -> None:
    """The pages of the gauge step."""
    session = camera.window.session
    camera.go("gauge", 2)
    camera.page("slice")
    session.set_probe(60.0, 85.0)
    camera.take("slice")
    camera.go("gauge", 3)
    camera.page("plate")
    for _ in range(4):
        camera.key(Qt.Key.Key_Return)
    camera.take("plate")
    camera.key(Qt.Key.Key_Escape)
    camera.go("gauge", 4)
    camera.page("defects")
    session.set_probe(45.0, 95.0)
    camera.type("score catches at 30 to 110 clock 95 wide 12")
    camera.take("defects")
    camera.key(Qt.Key.Key_Backspace)  # the score was for the picture only
    camera.page("readings")
    session.bench.gauge.probe = None


def call_pages(camera: Camera) -> None:
    """The pages of the call step, before the call is taken."""
    session = camera.window.session
    camera.go("call", 4)
    camera.take("call")
    camera.page("options")
    camera.take("call-options")
    session.set_rung(0.5)
    camera.page("ladder")
    camera.key(Qt.Key.Key_Up)


def work_2041(camera: Camera) -> None:
    """Take the call, measure the pistons, bore all five, and hone cylinders 1 to 3 some of the way down."""
    for _ in range(2):  # one that is not sure is asked about first
        if camera.window.session.job.calling.decision is None:
            camera.key(Qt.Key.Key_Return)
    assert camera.window.session.job.calling.decision is not None, "the pictures after this one would be of nothing"
    for cylinder in range(1, 6):
        camera.window.session.select(cylinder)
        camera.type(f"{105.670 + 0.002 * (cylinder % 3):.3f} 20.5 C")
    session = camera.window.session
    session.go("bore")
    session.select(2)
    camera.type("bar TPG 321")
    for cylinder, over in ((2, 0.014), (4, 0.001)):
        session.select(cylinder)
        for _ in range(5 if cylinder == 2 else 3):
            camera.key(Qt.Key.Key_K)
        setting = plan_of(session.job, cylinder, now()).setting_mm or 0.0
        tops = " ".join(f"{setting + over + tip:.3f}" for tip in (0.002, 0.0, 0.001))
        camera.type(f"{tops} across {tops}")
        for _ in range(2 if cylinder == 2 else 1):
            camera.key(Qt.Key.Key_K)
    camera.key(Qt.Key.Key_Return)
    camera.take("bore")
    for cylinder in (1, 5, 3):
        session.select(cylinder)
        camera.type(f"{plan_of(session.job, cylinder, now()).target_mm or 0.0:.3f}")
    camera.key(Qt.Key.Key_Return)
    chance = random.Random(41)
    for cylinder, last, rate in ((1, 70, 0.00068), (2, 50, 0.00074), (3, 20, 0.00070)):
        camera.window.session.select(cylinder)
        camera.type(f"{20.8 + 0.5 * cylinder:.1f} C")
        for strokes in range(0, last + 1, 10):
            size = 105.694 + rate * strokes + chance.gauss(0.0, 0.0006)
            tops = (size - 0.002, size, size - 0.001)
            camera.type(f"{strokes} " + " ".join(f"{s:.3f}" for s in tops))


def hands(camera: Camera) -> None:
    """What is found, changed where it stands, and the rack."""
    window = camera.window
    window.change("hone_set")
    field = next(f for k, f in window.over.tag.fields.items() if k in window.over.tag.scales)
    field.setText(f"{float(field.text()) * 0.8:.0f}")
    QTest.qWait(300)
    camera.take("tag")
    window.over.tag.put_away()
    window.do("find")
    QTest.keyClicks(window.line.field, "taper")
    camera.take("find")
    camera.key(Qt.Key.Key_Escape)
    window.session.open_job("2041")
    camera.type("promised 12 Dec 2026")
    camera.type("waits rings")
    window.do("jobs")
    camera.take("jobs")
    window.session.open_job("2044")
    camera.go("hone", 2)


def main(folder: Path) -> None:
    """Write all pictures into ``folder``."""
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as scratch:
        path = Path(scratch) / "logbook.sqlite"
        logbook = Logbook(path)
        write_demo(logbook, shipped_figures())
        logbook.close()
        camera = Camera(path, folder)
        camera.go("book_in", 1)
        camera.take("book-in")
        camera.go("gauge", 4)
        camera.take("gauge")
        gauge_pages(camera)
        call_pages(camera)
        work_2041(camera)
        camera.go("hone", 2)
        camera.take("hone")
        camera.window.session.open_job("2044")
        camera.go("sleeve", 2)
        camera.take("sleeve")
        camera.go("hone", 2)
        camera.page("set_up")
        camera.take("hone-set-up")
        hands(camera)
        camera.page("plan")
        camera.key(Qt.Key.Key_D, CTRL)
        camera.take("hone-strokes-night")
        camera.key(Qt.Key.Key_D, CTRL)
        camera.window.session.open_job("2036")
        camera.go("gauge", 1)
        camera.page("second")
        camera.take("second-opinion")
        camera.go("finish", 1)
        camera.take("finish")
        camera.page("plateau")
        camera.take("finish-plateau")
        camera.go("sign_off", 1)
        camera.take("sign-off")
        camera.window.close()


if __name__ == "__main__":
    main(Path(sys.argv[1]) if len(sys.argv) > 1 else ROOT / "docs" / "screenshots")
