"""Instruments: the stand-ins, and a gauge of one's own."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from redline_bore.job.kinds.gauge import GaugeSet
from redline_bore.job.state.readings import THREE_POINT, TWO_POINT
from redline_bore.ui.commands.command import Group, command
from redline_bore.ui.frame.drawer import Drawer
from redline_bore.ui.frame.window_parts import WindowParts

if TYPE_CHECKING:
    from redline_bore.instruments.listening import HeardLine

INSTRUMENTS = Group.INSTRUMENTS
USUAL_BLOCK_C = 20.4


@command(INSTRUMENTS, 1, "Connect the simulated gauge", "Ctrl+G")
def simulated(window: WindowParts) -> str:
    """A two-point gauge on this job's true wall."""
    return _start_gauge(window, TWO_POINT)


@command(INSTRUMENTS, 2, "Connect the simulated three-point gauge", "Ctrl+3")
def simulated_three(window: WindowParts) -> str:
    """A three-point gauge on this job's true wall."""
    return _start_gauge(window, THREE_POINT)


@command(INSTRUMENTS, 3, "Connect the simulated spindle indicator", "Ctrl+4")
def simulated_spindle(window: WindowParts) -> str:
    """An indicator on a spindle over this job's true wall."""
    from redline_bore.demo.walls import true_wall

    session, state = window.session, window.session.job
    spindle, warm = state.gauging.spindle, _warm(window)
    here = spindle is not None and spindle.cylinder == session.bench.cylinder
    radius = spindle.zero_radius_mm if here and spindle is not None else state.block.bore_mm / 2.0
    wall = true_wall(state.number, state.block, state.travel, state.coefficient_1e6)
    window.instruments.gauge.start_simulated("spindle", warm, wall, radius)
    return ""


def _warm(window: WindowParts) -> float:
    warm = window.session.job.clamped.block_c
    return USUAL_BLOCK_C if warm is None else warm


def _start_gauge(window: WindowParts, kind: str) -> str:
    """Start a stand-in on this job's true wall, zeroed on a master of the nominal bore."""
    from redline_bore.demo.walls import true_wall

    session, state = window.session, window.session.job
    warm = _warm(window)
    wall = true_wall(state.number, state.block, state.travel, state.coefficient_1e6)
    if state.gauging.zero is None or state.gauging.gauge_kind != kind:
        session.book(GaugeSet(master_20_mm=state.block.bore_mm, master_c=20.0, gauge=kind))
    zero = session.job.gauging.zero
    assert zero is not None
    size = zero.master_20_mm * (1.0 + zero.master_1e6 * 1e-6 * (zero.master_c - 20.0))
    window.instruments.gauge.start_simulated(kind, warm, wall, size)
    return ""


@command(INSTRUMENTS, 4, "Connect the simulated hone's load", "Ctrl+5")
def simulated_hone(window: WindowParts) -> str:
    """Start the simulated hone on the wall as it was read last, with the stones and strokes that are set."""
    from redline_bore.core.errors import InputError
    from redline_bore.job.hone.model import wall_now
    from redline_bore.job.hone.set_up import kinematics_of, stone_mm

    session, state = window.session, window.session.job
    k, wall = kinematics_of(state), wall_now(state, session.bench.cylinder)
    if k.stroke is None:
        raise InputError("Say how the hone goes first: hone vertical")
    session.go("hone")
    session.set_page("load")
    run = state.honing.run
    rate = 45.0 if k.hatch is None else k.hatch.double_strokes_per_min
    load = 20.0 if run is None or run.load is None else run.load
    arguments = [
        "--stone", f"{stone_mm(state):.3f}", "--over", f"{k.stroke.over_top_mm:.3f}", f"{k.stroke.over_bottom_mm:.3f}",
        "--length", f"{state.block.length_mm:.3f}", "--rate", f"{rate:g}", "--load", f"{load:g}",
    ]  # fmt: skip
    points = () if wall is None else tuple(zip(wall.depths_mm, wall.sizes_mm, strict=True))
    window.instruments.hone.start_hone(arguments, points)
    return ""


@command(INSTRUMENTS, 5, "Connect the simulated profilometer", "Ctrl+6")
def simulated_profilometer(window: WindowParts) -> str:
    """Start the simulated profilometer on this job's true walls, and go to the finish step."""
    from redline_bore.demo.textures import texture_seed, true_texture
    from redline_bore.instruments.simulated.profilometer import ProfilometerStandIn

    session, state = window.session, window.session.job
    walls = tuple(true_texture(state.number, c, 0.0) for c in state.cylinders)
    session.go("finish")
    stand_in = ProfilometerStandIn(walls, texture_seed(state.number, 0, 0))
    window.instruments.profilometer.start_profilometer(stand_in.to_json())
    return ""


@command(INSTRUMENTS, 6, "Connect the simulated thermometer", "Ctrl+T")
def simulated_thermometer(window: WindowParts) -> str:
    """Start the thermometer; what it reads is the block's temperature."""
    window.instruments.thermometer.start_simulated("thermometer", _warm(window))
    window.instruments.thermometer.ask()
    return ""


@command(INSTRUMENTS, 7, "Connect a gauge at a port", "Ctrl+Shift+G")
def port(window: WindowParts) -> str:
    """The serial ports there are, each in a drawer; another is typed. The first reading is shown and not booked."""
    from redline_bore.instruments.port import found_ports

    drawers = [
        Drawer(
            "port",
            f.device,
            _kept_pattern(window, f.device) or f.what,
            "this machine",
            "",
            f.what,
            partial(_begin, window, f.device),
            f.why_not,
        )
        for f in found_ports()
    ]
    window.over.look_among("A gauge at a port", drawers, partial(_other_port, window))
    if not drawers:
        window.line.tell(
            "No serial port is on this machine: plug the gauge in, or type its device path, such as /dev/ttyUSB0.", True
        )
    return ""


def _kept_pattern(window: WindowParts, device: str) -> str:
    """How the gauge at a port was understood last time: kind, unit and pattern; empty where nothing was said."""
    return str(window.settings.value(f"port/{device.replace('/', '_')}", ""))


def _other_port(window: WindowParts, text: str) -> Drawer | None:
    if not text.startswith("/"):
        return None
    return Drawer(
        "port",
        text,
        _kept_pattern(window, text) or "a device path of your own",
        "typed",
        "",
        text,
        partial(_begin, window, text),
    )


def _begin(window: WindowParts, device: str) -> None:
    """A port that was understood before is opened as it was; for another one there are two ways to find out."""
    if _kept_pattern(window, device):
        ways = [
            Drawer(
                "as before",
                f"As before: {_kept_pattern(window, device)}",
                device,
                "open",
                "",
                "before",
                partial(_connect, window, device),
            )
        ]
    else:
        ways = [
            Drawer(
                "its own",
                "An instrument that speaks this program's lines",
                "docs/instruments.md says how",
                "open",
                "",
                "protocol stand-in",
                partial(_connect, window, device),
            )
        ]
    listened = Drawer("listen", "Listen: find its speed and how it writes a reading", "its button is pressed a few times", "every speed", "", "find baud pattern", partial(_listen, window, device))  # fmt: skip
    window.over.look_among(f"How does {device} speak?", [*ways, listened])


def _listen(window: WindowParts, device: str, turn: int = 0) -> None:
    """Listen at one speed after the other, and say which; the first line that makes sense is taken apart."""
    from redline_bore.instruments.listening import LIKELIEST, listen_at

    if turn >= len(LIKELIEST):
        window.line.tell(
            f"Nothing that makes sense came from {device} at any speed. Is the cable one for this gauge?", True
        )
        return
    baud = LIKELIEST[turn]
    if turn == 0:
        window.instruments.gauge.let_go()
    window.line.tell(f"Listening to {device} at {baud}: press the gauge's button now and then.", False)

    def heard(found: HeardLine | None) -> None:
        if found is None:
            _listen(window, device, turn + 1)
        else:
            _understood(window, device, found)

    window.behind("listen", lambda token: listen_at(device, baud, lambda: token.cancelled), heard)


def _understood(window: WindowParts, device: str, found: HeardLine) -> None:
    """What came, and the ways it may be meant: the kind of gauge, and its unit where the line names none."""
    drawers = [
        Drawer(kind, f"{kind} gauge, {'inches' if unit == 'in' else 'millimetres'}", f"“{found.line}” read as {found.pattern}, at {found.baud}", "one reading on trial", "", f"{kind} {unit}", partial(_keep, window, device, found, kind, unit))
        for kind in ("two-point", "three-point")
        for unit in ([found.unit] if found.unit else ["mm", "in"])
    ]  # fmt: skip
    window.over.look_among(f"“{found.line[:40]}” came. What is it?", drawers)


def _keep(window: WindowParts, device: str, found: HeardLine, kind: str, unit: str) -> None:
    name = device.replace("/", "_")
    window.settings.setValue(f"port/{name}", f"{kind} {unit} {found.pattern}")
    window.settings.setValue(f"baud/{name}", found.baud)
    _connect(window, device)


def _connect(window: WindowParts, device: str) -> None:
    from redline_bore.instruments.line_protocol import LinePattern

    words = _kept_pattern(window, device).split(maxsplit=2)
    pattern = None
    if len(words) == 3:
        line, _, ask = words[2].partition(" ask ")
        pattern = LinePattern(words[0], words[1], line, ask.strip())
    baud = str(window.settings.value(f"baud/{device.replace('/', '_')}", "0"))
    window.instruments.gauge.connect_port(device, pattern, int(baud) if baud.isdecimal() else 0, trial=True)
    window.line.tell(
        f"The gauge at {device} is open. Press its button once: what it sends is shown before anything is booked.",
        False,
    )
