"""Every instrument of the bench, and what becomes of what they send: it goes to the steps that declare that they hear it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QSettings, pyqtSignal

from redline_bore.core.errors import InputError
from redline_bore.ui.instrument_link import GarbledLoad, InstrumentLink
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import Heard, StepView
from redline_bore.ui.steps.declared import STEPS

if TYPE_CHECKING:
    from redline_bore.instruments.line_protocol import Message, Temperature

GAUGE, THERMOMETER, HONE, PROFILOMETER = "gauge", "thermometer", "hone", "profilometer"


class Instruments(QObject):
    """The links, by name. ``said`` is a line for the gauge line; ``heard`` a message, and whether it came by the instrument's own
    button."""

    said = pyqtSignal(str, bool)
    heard = pyqtSignal(object, bool)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.by_stand_in = False  # the message that is being heard
        self.gauge = InstrumentLink(session)
        self.thermometer, self.hone = InstrumentLink(session, THERMOMETER), InstrumentLink(session, HONE)
        self.profilometer = InstrumentLink(session, PROFILOMETER)
        for link in self._links:
            link.said.connect(self.said)
            link.read.connect(partial(self._hear, link))

    def _hear(self, link: InstrumentLink, message: object, pressed: bool) -> None:
        """Pass a message on, and keep whether a stand-in sent it."""
        self.by_stand_in = link.simulated
        self.heard.emit(message, pressed)

    @property
    def _links(self) -> tuple[InstrumentLink, ...]:
        return self.gauge, self.thermometer, self.hone, self.profilometer

    def asked(self, name: str) -> InstrumentLink:
        """The instrument of that name."""
        return {link.name: link for link in self._links}[name]

    def let_go(self) -> None:
        """Let go of all of them."""
        for link in self._links:
            link.let_go()


def hear(
    message: Message | GarbledLoad, pressed: bool, typed: str, session: Session, on: StepView | None,
    made: Callable[[str, bool], StepView | None],
) -> Heard:  # fmt: skip
    """What a message of an instrument does: a temperature is booked; a step that hears such messages wherever one is takes its own;
    everything else goes to the step on the screen. ``made``: a step by its name, made where it must be. Raises BenchError."""
    from redline_bore.instruments.line_protocol import Temperature  # when the first message comes, not at the start

    if session.state is None:
        return Heard()
    if isinstance(message, Temperature):
        return _take_temperature(message, session)
    for step in STEPS.values():
        if isinstance(message, step.hears()):
            view = made(step.name, step.made_to_hear)
            return Heard() if view is None else view.hear(message, pressed, typed)
    return Heard() if on is None else on.hear(message, pressed, typed)


def _take_temperature(message: Temperature, session: Session) -> Heard:
    if message.what != "block":
        raise InputError(f"A temperature of the {message.what} is written behind its size, not booked by itself")
    from redline_bore.desk.readings import book_temperature

    session.took(book_temperature(session.opened, message.celsius, message.line))
    return Heard(remark=f"The block is at {session.show.warm(message.celsius)}; it is booked.")


def port_with_pattern(
    instruments: Instruments, settings: QSettings, port: str, kind: str, unit: str, pattern: str, baud: int = 0
) -> str:
    """``port /dev/ttyUSB0 two-point in {value}``: a real gauge by its own line pattern. Raises EnvironmentTrouble."""
    from redline_bore.instruments.line_protocol import LinePattern

    line, _, ask = (pattern or "{value}").partition(" ask ")
    instruments.gauge.connect_port(port, LinePattern(kind, unit, line, ask.strip()), baud)
    settings.setValue(f"port/{port.replace('/', '_')}", f"{kind} {unit} {pattern}")
    return f"A {kind} gauge at {port}, read as {line}, in {unit}. Its own button books at once."
