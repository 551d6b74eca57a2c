"""An instrument as the window sees it: opened, asked, heard, and gone, always on the interface thread."""

from __future__ import annotations

import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from redline_bore.core.errors import EnvironmentTrouble, InputError
from redline_bore.core.frozen import frozen
from redline_bore.ui.session import Session

if TYPE_CHECKING:
    import subprocess
    import tempfile

    from redline_bore.instruments.line_protocol import LinePattern, Message
    from redline_bore.instruments.port import Event, Instrument
    from redline_bore.job.state.job_state import JobState
    from redline_bore.truth.wall import TrueWall
    from redline_bore.ui.bench import Bench

PRESS = "Space takes a reading, Enter books it; its own button books at once."
HELLO = {
    "spindle": "A spindle indicator answers. Space sweeps, Enter books; its own button books at once.",
    "hone": "A hone answers. Its load is drawn as it strokes; G stops and starts the simulated one.",
    "profilometer": "A profilometer answers. Space traces where the spot is lit; the trace is booked at once.",
    "thermometer": "A thermometer answers; what it reads of the block is booked.",
}
PLACE_TOPICS = frozenset({"place", "selection", "plate", "plan", "job", "spot", "checks"})


@frozen
class GarbledLoad:
    """A line of the hone that was not understood; it is counted where the load is shown."""


class InstrumentLink(QObject):
    """Holds at most one instrument. ``said`` is a line for the gauge line; ``read`` carries a message with a
    reading in it, and whether it came by itself: from the instrument's own button."""

    read = pyqtSignal(object, bool)
    said = pyqtSignal(str, bool)  # text, and whether it needs a look
    _heard = pyqtSignal(object, object)

    def __init__(self, session: Session, name: str = "gauge") -> None:
        super().__init__()
        self.name, self.kind = name, ""
        self._session = session
        self._instrument: Instrument | None = None
        self._stand_in: subprocess.Popen[str] | None = None
        self._folder: tempfile.TemporaryDirectory[str] | None = None
        self._trial = False  # the next reading is only shown: whether the gauge is understood
        self._asked, self._asked_in = False, 0  # whether a reading was asked for, and in which cylinder
        self._heard.connect(self._take)
        session.changed.connect(self._follow)

    @property
    def connected(self) -> bool:
        return self._instrument is not None

    @property
    def simulated(self) -> bool:
        return self._stand_in is not None

    @property
    def written(self) -> str:
        """What is written beside a reading."""
        return f"simulated {self.kind} gauge" if self.simulated else f"{self.kind} gauge".strip()

    def connect_port(self, port: str, pattern: LinePattern | None = None, baud: int = 0, trial: bool = False) -> None:
        """Open an instrument at a device path; baud 0: the usual. trial: its first reading is shown and not booked.

        Raises EnvironmentTrouble.
        """
        from redline_bore.instruments.port import BAUD, Instrument  # the serial library, once a gauge is there

        self._drop()
        mine: list[Instrument] = []
        silent_s = self._session.figures.number("gauging.silent_s")
        instrument = Instrument(port, lambda event: self._heard.emit(event, mine), pattern, silent_s, baud or BAUD)
        mine.append(instrument)
        self._trial = trial
        self._instrument, self.kind = instrument, pattern.kind if pattern else ""
        self.said.emit(f"The {self.name} at {port} is open.", False)
        self._stand()

    def start_simulated(
        self, kind: str, block_c: float, wall: TrueWall | None = None, zero_mm: float = 0.0, seed: int | None = None
    ) -> None:
        """Start the stand-in as a process of its own and connect to it. Raises EnvironmentTrouble."""
        import tempfile

        self.let_go()
        command = ["--block-c", f"{block_c:.2f}"] + (["--seed", str(seed)] if seed is not None else [])
        if wall is not None:
            self._folder = tempfile.TemporaryDirectory(prefix="redline-bore-")
            path = Path(self._folder.name) / "wall.json"
            path.write_text(wall.to_json(), "utf-8")
            command += ["--wall", str(path), "--zero", f"{zero_mm:.5f}"]
        self._launch(kind, command)

    def _launch(self, kind: str, arguments: Sequence[str]) -> None:
        import subprocess

        command = [sys.executable, "-m", "redline_bore.instruments.simulated", "--kind", kind, *arguments]
        process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
        assert process.stdout is not None
        port = process.stdout.readline().strip()
        if not port:
            process.wait()
            raise EnvironmentTrouble(f"The simulated {self.name} did not start")
        self._stand_in = process
        self.connect_port(port)
        self.kind = kind

    def start_hone(self, arguments: Sequence[str], points: Sequence[tuple[float, float]]) -> None:
        """Start the simulated hone on a wall of (depth, diameter) points, mm, and set it going."""
        import json
        import tempfile

        self.let_go()
        self._folder = tempfile.TemporaryDirectory(prefix="redline-bore-")
        path = Path(self._folder.name) / "wall.json"
        path.write_text(json.dumps(list(points)), "utf-8")
        self._launch("hone", ["--wall", str(path), *arguments])
        self.tell_stand_in("press")

    def start_profilometer(self, walls: str) -> None:
        """Start the simulated profilometer on walls as its own JSON has them. Raises EnvironmentTrouble."""
        import tempfile

        self.let_go()
        self._folder = tempfile.TemporaryDirectory(prefix="redline-bore-")
        path = Path(self._folder.name) / "walls.json"
        path.write_text(walls, "utf-8")
        self._launch("profilometer", ["--wall", str(path)])

    def tell_stand_in(self, word: str) -> None:
        """Press the stand-in's button, or make it behave badly. Raises InputError when none is there."""
        if self._stand_in is None or self._stand_in.stdin is None:
            raise InputError(f"There is no simulated {self.name} whose button could be pressed: Ctrl+G connects one")
        self._stand_in.stdin.write(word + "\n")
        self._stand_in.stdin.flush()

    def ask(self) -> None:
        """Take a reading where the bench stands. Raises BenchError."""
        if self._instrument is None:
            self.said.emit(f"No {self.name} is connected: type the reading, or connect one from the menu.", True)
            return
        self._asked, self._asked_in = True, self._session.bench.cylinder
        self._stand()
        self._instrument.read()

    def _follow(self, topics: frozenset[str]) -> None:
        if self._instrument is not None and topics & PLACE_TOPICS:
            self._stand()

    def _stand(self) -> None:
        """Tell a stand-in where it stands."""
        state, bench = self._session.state, self._session.bench
        if self._instrument is None or state is None:
            return
        if self.name == "profilometer":
            self._stand_to_trace(self._instrument, state, bench)
            return
        depth, clock = state.gauging.plan.depths_mm[bench.place.level], state.gauging.plan.clocks_deg[bench.place.clock]
        self._instrument.place(bench.cylinder, depth, clock, state.clamped.plate_on)

    @staticmethod
    def _stand_to_trace(instrument: Instrument, state: JobState, bench: Bench) -> None:
        from redline_bore.job.finish.judgement import spots_of, strokes_had

        instrument.place(bench.cylinder, spots_of(state)[bench.spot], 0.0, state.clamped.plate_on)
        instrument.wall_has_had(strokes_had(state, bench.cylinder) or 0.0)

    def _take(self, event: Event, mine: list[Instrument]) -> None:
        from redline_bore.instruments.line_protocol import (
            Garbage,
            GaugeReading,
            Hello,
            HoneLoad,
            SweepReading,
            Temperature,
            TraceReading,
        )
        from redline_bore.instruments.port import Repeated, Unplugged

        if not mine or mine[0] is not self._instrument:
            return  # the last words of an instrument that was let go
        if isinstance(event, HoneLoad):
            self.read.emit(event, True)
        elif isinstance(event, (GaugeReading, SweepReading, Temperature, TraceReading)):
            pressed, self._asked = not self._asked, False
            if not self._held_back(event, pressed):
                self.read.emit(event, pressed)
        elif isinstance(event, Hello):
            self.kind = event.kind
            self.said.emit(self._words(event), False)
        else:
            if isinstance(event, Unplugged):
                self.let_go()
            elif not isinstance(event, Repeated):
                self._asked = False
            if isinstance(event, Garbage) and self.name == "hone":
                self.read.emit(GarbledLoad(), True)
            if words := self._words(event):
                self.said.emit(words, True)

    def _held_back(self, message: Message, pressed: bool) -> bool:
        """Whether a reading is not to be booked: the first of a gauge that is being tried, or one that was asked for in another cylinder.
        It is said either way."""
        from redline_bore.instruments.line_protocol import GaugeReading, Temperature

        if isinstance(message, GaugeReading) and self._trial:
            self._trial = False
            read = self._session.show.unit(self._session.show.away(message.from_zero_mm))
            told = f"It sent “{message.line.strip()[:40]}”, read as {read} from its zero. From now on its button books."
            self.said.emit(told, False)
            return True
        here = self._session.bench.cylinder
        if pressed or self._asked_in == here or isinstance(message, Temperature):
            return False
        told = f"The reading asked for in cylinder {self._asked_in} came when you were at {here}: it was not taken. Read again."
        self.said.emit(told, True)
        return True

    def _words(self, event: Event) -> str:
        """What the operator is told of an event that is no reading."""
        from redline_bore.instruments.line_protocol import Garbage, Hello, Trouble
        from redline_bore.instruments.port import Repeated, Silent, Unplugged

        if isinstance(event, Hello):
            plain = f"A {event.kind} gauge answers, reading in {event.unit}. {PRESS}"
            return HELLO.get(event.kind, plain)
        if isinstance(event, Unplugged):
            return f"The {self.name} is unplugged. Nothing was booked from it; type on, or connect it again."
        if isinstance(event, Silent):
            return f"The {self.name} has been silent for {event.seconds:g} s. Press its button, or look at its lead."
        if isinstance(event, Repeated):
            return "The same line came twice at once; it is counted once."
        if isinstance(event, Trouble):
            return f"The {self.name} says: {event.reason}."
        if isinstance(event, Garbage):
            return f"The {self.name} sent something that is no reading ({event.reason}). Read again."
        return ""

    def _drop(self) -> None:
        instrument, self._instrument = self._instrument, None
        if instrument is not None:
            instrument.close()

    def let_go(self) -> None:
        """Let go of the instrument and end the stand-in."""
        self._drop()
        process, self._stand_in = self._stand_in, None
        if process is not None:
            process.terminate()
            process.wait()
            for pipe in (process.stdin, process.stdout):
                if pipe is not None:
                    pipe.close()
        folder, self._folder = self._folder, None
        if folder is not None:
            folder.cleanup()
