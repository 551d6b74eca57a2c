"""The gauge as the window sees it: opened, asked, heard, and gone, always on the interface thread."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.ui.session import Session

if TYPE_CHECKING:
    import subprocess
    import tempfile

    from redline_bore.instruments.bore_gauge import BoreGauge, Event
    from redline_bore.instruments.simulated.true_wall import TrueWall


class GaugeLink(QObject):
    """Holds at most one gauge. ``said`` is a line for the gauge line; ``read`` carries a GaugeReading."""

    read = pyqtSignal(object)
    said = pyqtSignal(str, bool)  # text, and whether it needs a look
    _heard = pyqtSignal(object, object)

    def __init__(self, session: Session):
        super().__init__()
        self._session = session
        self._gauge: BoreGauge | None = None
        self._stand_in: subprocess.Popen[str] | None = None
        self._folder: tempfile.TemporaryDirectory[str] | None = None
        self._heard.connect(self._take)

    @property
    def connected(self) -> bool:
        return self._gauge is not None

    @property
    def simulated(self) -> bool:
        return self._stand_in is not None

    @property
    def name(self) -> str:
        """What is written beside a reading."""
        return (
            ""
            if self._gauge is None
            else ("simulated bore gauge" if self.simulated else f"bore gauge {self._gauge.port}")
        )

    def connect_port(self, port: str) -> None:
        """Open a gauge at a device path. Raises EnvironmentTrouble."""
        from redline_bore.instruments.bore_gauge import BoreGauge  # the serial library, once a gauge is there

        self._drop()
        mine: list[BoreGauge] = []
        gauge = BoreGauge(port, lambda event: self._heard.emit(event, mine))
        mine.append(gauge)
        self._gauge = gauge
        self.said.emit(f"Gauge at {port}. Space takes a reading.", False)

    def start_simulated(self, wall: TrueWall, zero_mm: float, block_c: float, seed: int | None = None) -> None:
        """Start the stand-in as a process of its own and connect to it. Raises EnvironmentTrouble."""
        import subprocess
        import tempfile

        self.disconnect_gauge()
        self._folder = tempfile.TemporaryDirectory(prefix="redline-bore-")
        path = Path(self._folder.name) / "wall.json"
        path.write_text(wall.to_json(), "utf-8")
        command = [sys.executable, "-m", "redline_bore.instruments.simulated.bore_gauge", "--wall", str(path)]
        command += ["--zero", f"{zero_mm:.4f}", "--block-c", f"{block_c:.2f}"]
        command += ["--seed", str(seed)] if seed is not None else []
        process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
        assert process.stdout is not None
        port = process.stdout.readline().strip()
        if not port:
            process.wait()
            raise EnvironmentTrouble("The simulated gauge did not start")
        self._stand_in = process
        self.connect_port(port)

    def ask(self) -> None:
        """Take a reading where the bench stands."""
        if self._gauge is None:
            self.said.emit("No gauge is connected: type the reading, or connect one from the menu.", True)
            return
        state, bench = self._session.job, self._session.bench
        depth, clock = state.plan.depths_mm[bench.place.level], state.plan.clocks_deg[bench.place.clock]
        self._gauge.place(bench.cylinder, depth, clock, state.plate_on)
        self._gauge.read()

    def _take(self, event: Event, mine: list[BoreGauge]) -> None:

        from redline_bore.instruments.bore_gauge import Unplugged
        from redline_bore.instruments.line_protocol import Garbage, GaugeReading, Hello, Trouble

        if not mine or mine[0] is not self._gauge:
            return  # the last words of a gauge that was let go
        if isinstance(event, GaugeReading):
            self.read.emit(event)
        elif isinstance(event, Unplugged):
            self.disconnect_gauge()
            self.said.emit("The gauge is unplugged. Nothing was booked from it; type on, or connect it again.", True)
        elif isinstance(event, Trouble):
            self.said.emit(f"The gauge says: {event.reason}.", True)
        elif isinstance(event, Garbage):
            self.said.emit(f"The gauge sent something that is no reading ({event.reason}). Read again.", True)
        elif isinstance(event, Hello):
            self.said.emit(f"A {event.kind} gauge answers, reading in {event.unit}. Space takes a reading.", False)

    def _drop(self) -> None:
        gauge, self._gauge = self._gauge, None
        if gauge is not None:
            gauge.close()

    def disconnect_gauge(self) -> None:
        """Let go of the gauge and end the stand-in."""
        self._drop()
        process, self._stand_in = self._stand_in, None
        if process is not None:
            process.terminate()
            process.wait()
            if process.stdout is not None:
                process.stdout.close()
        folder, self._folder = self._folder, None
        if folder is not None:
            folder.cleanup()
