"""What a screen reader gets: the window through the desktop's accessibility bus (AT-SPI over D-Bus), as another program asks it."""

from __future__ import annotations

import os
import subprocess
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

from jeepney import DBusAddress, MatchRule, new_method_call
from jeepney.io.blocking import DBusConnection, open_dbus_connection
from jeepney.low_level import HeaderFields, MessageType

REGISTRY, ROOT = "org.a11y.atspi.Registry", "/org/a11y/atspi/accessible/root"
ACCESSIBLE, TEXT = "org.a11y.atspi.Accessible", "org.a11y.atspi.Text"
PROPERTIES = "org.freedesktop.DBus.Properties"
LAUNCHERS = (Path("/usr/libexec/at-spi-bus-launcher"), Path("/usr/lib/at-spi2-core/at-spi-bus-launcher"))
ENABLED, FOCUSABLE, FOCUSED, SHOWING = 8, 11, 12, 25  # bits of a state, AtspiStateType
NEEDED = ("dbus-daemon",)


def launcher() -> Path | None:
    """The program that starts the accessibility bus; None where it is not installed."""
    return next((p for p in LAUNCHERS if p.exists()), None)


class Desktop:
    """A session bus and an accessibility bus of the test's own."""

    def __init__(self) -> None:
        program = launcher()
        assert program is not None, "install at-spi2-core: make test does"
        self._session = subprocess.Popen(
            ["dbus-daemon", "--session", "--nofork", "--print-address=1"],
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            text=True,
        )
        assert self._session.stdout is not None
        self.address = self._session.stdout.readline().strip()
        env = {**os.environ, "DBUS_SESSION_BUS_ADDRESS": self.address}
        self._launcher = subprocess.Popen(
            [program, "--launch-immediately"], env=env, stderr=subprocess.DEVNULL, stdout=subprocess.DEVNULL
        )

    def end(self) -> None:
        """Both buses end."""
        for process in (self._launcher, self._session):
            process.terminate()
            process.wait()
        assert self._session.stdout is not None
        self._session.stdout.close()


@dataclass(frozen=True)
class Heard:
    """One object as it is told. At: whose it is, and where."""

    at: tuple[str, str]
    depth: int
    role: str
    name: str
    description: str
    states: frozenset[int]

    @property
    def told(self) -> str:
        """All that is said of it."""
        return f"{self.name} {self.description}".strip()


class ScreenReader:
    """Asks, and listens for names that change."""

    def __init__(self, session_bus: str, wait_s: float = 20.0) -> None:
        until = time.monotonic() + wait_s
        session = open_dbus_connection(session_bus)
        try:
            while True:
                asked = new_method_call(DBusAddress("/org/a11y/bus", "org.a11y.Bus", "org.a11y.Bus"), "GetAddress")
                reply = session.send_and_get_reply(asked)
                if reply.header.message_type is not MessageType.error:
                    break
                assert time.monotonic() < until, reply.body
                time.sleep(0.1)
        finally:
            session.close()
        self._bus: DBusConnection = open_dbus_connection(reply.body[0])
        self._listening = False

    def close(self) -> None:
        """Leave the bus."""
        self._bus.close()

    def _ask(self, at: tuple[str, str], interface: str, method: str, signature: str = "", body: tuple = ()) -> tuple:
        asked = new_method_call(DBusAddress(at[1], at[0], interface), method, signature or None, body)
        reply = self._bus.send_and_get_reply(asked, timeout=10.0)
        if reply.header.message_type is MessageType.error:
            raise LookupError(f"{method} of {at}: {reply.body}")
        return reply.body

    def _property(self, at: tuple[str, str], name: str) -> str:
        return str(self._ask(at, PROPERTIES, "Get", "ss", (ACCESSIBLE, name))[0][1])

    def programs(self) -> list[tuple[str, str]]:
        """Who is on the bus."""
        return [tuple(child) for child in self._ask((REGISTRY, ROOT), ACCESSIBLE, "GetChildren")[0]]

    def program(self, name: str, wait_s: float = 30.0) -> tuple[str, str]:
        """The program of that name, once it is there."""
        until = time.monotonic() + wait_s
        while time.monotonic() < until:
            for at in self.programs():
                if self._property(at, "Name") == name:
                    return at
            time.sleep(0.2)
        raise LookupError(f"{name} is not on the accessibility bus")

    def all_of(self, at: tuple[str, str], depth: int = 0) -> Iterator[Heard]:
        """An object and everything in it that is on the screen."""
        try:
            low, high = self._ask(at, ACCESSIBLE, "GetState")[0]
            states = frozenset(n for n in range(64) if (low, high)[n // 32] >> n % 32 & 1)
            heard = Heard(
                at, depth, self._ask(at, ACCESSIBLE, "GetRoleName")[0], self._property(at, "Name"),
                self._property(at, "Description"), states,
            )  # fmt: skip
            children = self._ask(at, ACCESSIBLE, "GetChildren")[0]
        except LookupError:
            return  # it went away meanwhile
        if depth > 1 and SHOWING not in states:
            return
        yield heard
        for child in children:
            yield from self.all_of(tuple(child), depth + 1)

    def text_of(self, heard: Heard) -> str:
        """What stands in a field."""
        return str(self._ask(heard.at, TEXT, "GetText", "ii", (0, -1))[0])

    def listen(self) -> None:
        """Hear of names and descriptions that change, as a screen reader does."""
        for what in ("accessible-name", "accessible-description"):
            self._ask(
                (REGISTRY, "/org/a11y/atspi/registry"), REGISTRY, "RegisterEvent", "s", (f"object:property-change:{what}",)
            )  # fmt: skip
        rule = MatchRule(type="signal", interface="org.a11y.atspi.Event.Object", member="PropertyChange")
        self._ask(
            ("org.freedesktop.DBus", "/org/freedesktop/DBus"),
            "org.freedesktop.DBus",
            "AddMatch",
            "s",
            (rule.serialise(),),
        )
        self._listening = True

    def told_until(self, wanted: Callable[[str], bool], wait_s: float = 10.0) -> list[str]:
        """The new names that are told, until one is as wanted. Raises TimeoutError."""
        assert self._listening
        rule = MatchRule(type="signal", interface="org.a11y.atspi.Event.Object", member="PropertyChange")
        told, until = list[str](), time.monotonic() + wait_s
        with self._bus.filter(rule) as queue:
            while True:
                message = self._bus.recv_until_filtered(queue, timeout=max(until - time.monotonic(), 0.01))
                sender = message.header.fields.get(HeaderFields.sender)
                value = message.body[3][1] if len(message.body) > 3 else ""
                if sender is not None and isinstance(value, str):
                    told.append(value)
                    if wanted(value):
                        return told
