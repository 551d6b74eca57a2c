"""One bench: the real window, a gauge at a real (pseudo-)port whose button is pressed so many times a second. Run as a process of its own."""

from __future__ import annotations

import contextlib
import json
import os
import resource
import sys
import time
import tty
from array import array
from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QAbstractEventDispatcher, QSettings, QTimer
from PyQt6.QtWidgets import QApplication

from redline_bore.app import application, build_window, warm_up
from redline_bore.job.gauge.analysis import places_read
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.ui.collector import Collector

FRAME_BINS = 2000
LOST_S = 20.0  # a reading not booked so long after it was sent is lost


@dataclass
class Told:
    """What a bench did: every reading it sent, where it stood then, and what it was told. Kept in plain arrays: what listens for
    growth must not itself grow."""

    off_mm: array[float] = field(default_factory=lambda: array("d"))  # every reading sent, from zero
    at: array[int] = field(
        default_factory=lambda: array("h")
    )  # its job, by its place in the list, and its cylinder, one after the other
    kept: int = 0
    refused: list[str] = field(default_factory=list)
    memory_mb: array[float] = field(default_factory=lambda: array("f"))  # seconds, resident MB, one after the other
    frames: array[int] = field(default_factory=lambda: array("L", [0] * FRAME_BINS))  # turns by tenths of a ms of CPU
    longest_ms: array[float] = field(default_factory=lambda: array("f"))  # the longest turn of each reading, CPU
    walks_ms: array[float] = field(
        default_factory=lambda: array("f")
    )  # turns in which what nobody holds was looked for

    def written(self, numbers: Sequence[str]) -> dict[str, object]:
        """As it is handed on: every reading sent with its job and cylinder, memory by its seconds, turns by their readings."""
        at = zip(self.at[::2], self.at[1::2], strict=True)
        sent = [(round(off, 5), numbers[job], c) for off, (job, c) in zip(self.off_mm, at, strict=True)]
        return {
            "sent": sent, "kept": self.kept, "refused": self.refused, "frames": list(self.frames),
            "memory_mb": list(zip(self.memory_mb[::2], self.memory_mb[1::2], strict=True)),
            "longest_ms": list(self.longest_ms), "walks_ms": list(self.walks_ms),
        }  # fmt: skip


class Bench:
    """The window and its gauge."""

    def __init__(self, path: Path, who: str, numbers: Sequence[str], cylinders: Sequence[int], offset: int) -> None:
        self.told, self.numbers, self.cylinders, self.offset = Told(), list(numbers), list(cylinders), offset
        self.window = build_window(
            path, numbers[0], QSettings(str(path.with_name(f"{who}.ini")), QSettings.Format.IniFormat)
        )
        self.session = self.window.session
        self.session.person = who
        self.window.show()
        self._warm = False  # a person needs longer to take the gauge up
        self.window.runner.busy.connect(self._is_warm)
        warm_up(self.window)
        assert self.session.logbook is not None
        self.master, slave = os.openpty()
        tty.setraw(slave)
        os.set_blocking(self.master, False)
        self.window.instruments.gauge.connect_port(os.ttyname(slave))
        self.session.kept.connect(self._kept)
        tell = self.window.line.tell
        self.window.line.tell = lambda text, bad: (self.told.refused.append(text) if bad else None, tell(text, bad))[1]  # type: ignore[method-assign]  # listens in
        self.window.instruments.said.connect(lambda text, bad: self.told.refused.append(text) if bad else None)
        self.began, self.sent_at, self.count = time.monotonic(), 0.0, 0
        self._collector: Collector | None = None
        self._walked = False
        self.session.go("gauge")
        self.session.select(cylinders[0])

    def _kept(self, record: object) -> None:
        entry = getattr(record, "entry", None)
        if isinstance(entry, ReadingBooked):
            self.told.kept += 1

    def _is_warm(self, name: str, busy: bool) -> None:
        self._warm = self._warm or (name == "warm up" and not busy)

    def press(self) -> None:
        """Press the button once the last reading is booked; go on to the next cylinder, or job, when this one is full."""
        if self.told.kept < len(self.told.off_mm):
            if time.monotonic() - self.sent_at > LOST_S:
                self.told.refused.append(f"reading {self.told.off_mm[-1]} was not booked")
                self.told.off_mm.pop()
                self.told.longest_ms.pop()
                del self.told.at[-2:]
            return
        if not self._warm or not self._on_to_an_empty_place():
            return
        self.count += 1
        self.told.longest_ms.append(0.0)
        off = round(0.00002 * self.count + 0.00001 * self.offset, 5)
        self.told.off_mm.append(off)
        self.told.at.extend((self.numbers.index(self.session.job.number), self.session.bench.cylinder))
        self.sent_at = time.monotonic()
        with contextlib.suppress(BlockingIOError):  # where it stands is told to it, and must be read
            while os.read(self.master, 4096):
                pass
        os.write(self.master, f"reading {off:+.5f} mm part 21.0\r\n".encode())

    def _on_to_an_empty_place(self) -> bool:
        state = self.session.job
        places = frozenset(state.gauging.plan.places())
        for cylinder in self.cylinders:
            if places_read(state, cylinder, state.clamped.plate_on, state.gauging.gauge_kind) != places:
                self.session.select(cylinder)
                return True
        at = self.numbers.index(state.number) + 1
        if at == len(self.numbers):
            return False
        self.session.open_job(self.numbers[at])
        self.session.go("gauge")
        self.session.select(self.cylinders[0])
        return True

    def listen_to_frames(self) -> None:
        """Measure the CPU time of every turn of the event loop, by the reading it belongs to, and the memory every few seconds."""
        loop, began, told = QAbstractEventDispatcher.instance(), [time.thread_time()], self.told
        assert loop is not None

        def one_turn() -> None:  # waiting takes no CPU, so from one wait to the next is the work of a turn
            now = time.thread_time()
            took, began[0] = 1000.0 * (now - began[0]), now
            if took > 1.0:
                told.frames[min(int(10.0 * took), FRAME_BINS - 1)] += 1
            if self._walked:
                self._walked = False
                told.walks_ms.append(took)
            elif told.longest_ms:
                told.longest_ms[-1] = max(told.longest_ms[-1], took)

        loop.aboutToBlock.connect(one_turn)
        self._memory = QTimer()
        self._memory.timeout.connect(self._look_at_memory)
        self._memory.start(5000)

    def _look_at_memory(self) -> None:
        """Note the memory; from when the window's collector is there, which of its turns are the collector's too."""
        self.told.memory_mb.extend((time.monotonic() - self.began, resident_mb()))
        if self._collector is None and (found := self.window.findChild(Collector)) is not None:
            self._collector = found
            found.timer.timeout.connect(self._note_walk)

    def _note_walk(self) -> None:
        self._walked = True

    def run(self, seconds: float, a_second: float, late: float = 0.0) -> Told:
        """Press so many times a second for so long, then wait for the last. late: seconds before the first."""
        app = QApplication.instance()
        assert app is not None
        presses, end = QTimer(), QTimer()
        presses.timeout.connect(self.press)
        QTimer.singleShot(int(1000 * late), partial(presses.start, max(int(1000 / a_second), 1)))
        end.setSingleShot(True)
        end.timeout.connect(presses.stop)
        end.timeout.connect(lambda: QTimer.singleShot(1500, app.quit))
        end.start(int(1000 * (late + seconds)))
        app.exec()
        self.window.close()
        return self.told


def resident_mb() -> float:
    """Memory that this process holds now, MB."""
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return pages * resource.getpagesize() / 1e6


def main() -> int:
    """``python -m tools.endurance.bench '{...}'``: what it was told goes to the file that is named."""
    given = json.loads(sys.argv[1])
    app = application()  # held: it ends when nobody holds it
    assert app is not None
    bench = Bench(Path(given["logbook"]), given["who"], given["jobs"], given["cylinders"], given["offset"])
    if given.get("measured"):
        bench.listen_to_frames()
    told = bench.run(given["seconds"], given["a_second"], given.get("late", 0.0))
    Path(given["out"]).write_text(json.dumps(told.written(given["jobs"])))
    return 0


if __name__ == "__main__":
    sys.exit(main())
