"""What the keys and the menu do with instruments: the stand-ins, and a gauge of one's own."""

from __future__ import annotations

from typing import TYPE_CHECKING

from redline_bore.job.kinds.gauge import GaugeSet
from redline_bore.job.state.gauging import TWO_POINT

if TYPE_CHECKING:
    from redline_bore.ui.main_window import MainWindow


class InstrumentCommands:
    """Connecting instruments, and pressing the stand-in's button."""

    window: MainWindow

    def simulated(self) -> None:
        self._start_gauge(TWO_POINT)

    def simulated_three(self) -> None:
        self._start_gauge("three-point")

    def simulated_spindle(self) -> None:
        self._start_gauge("spindle")

    def simulated_thermometer(self) -> None:
        """Start the thermometer; what it reads is the block's temperature."""
        state = self.window.session.job
        warm = state.clamped.block_c if state.clamped.block_c is not None else 20.4
        self.window.thermometer.start_simulated("thermometer", warm)
        self.window.thermometer.ask()

    def simulated_hone(self) -> None:
        """Start the simulated hone on the wall as it was read last, with the stones and strokes that are set."""
        from redline_bore.core.errors import InputError
        from redline_bore.job.hone.model import wall_now
        from redline_bore.job.hone.set_up import kinematics_of, stone_mm

        session, state = self.window.session, self.window.session.job
        k, wall = kinematics_of(state), wall_now(state, session.bench.cylinder)
        if k.stroke is None:
            raise InputError("Say how the hone goes first: hone vertical")
        session.go("hone")
        session.set_page("load")
        rate = 45.0 if k.hatch is None else k.hatch.double_strokes_per_min
        load = 20.0 if state.honing.run is None or state.honing.run.load is None else state.honing.run.load
        arguments = [
            "--stone", f"{stone_mm(state):.3f}", "--over", f"{k.stroke.over_top_mm:.3f}", f"{k.stroke.over_bottom_mm:.3f}",
            "--length", f"{state.block.length_mm:.3f}", "--rate", f"{rate:g}", "--load", f"{load:g}",
        ]  # fmt: skip
        points = () if wall is None else tuple(zip(wall.depths_mm, wall.sizes_mm, strict=True))
        self.window.hone.start_hone(arguments, points)

    def simulated_profilometer(self) -> None:
        """Start the simulated profilometer on this job's true walls, and go to the finish step."""
        from redline_bore.demo.textures import texture_seed, true_texture
        from redline_bore.instruments.simulated.profilometer import ProfilometerStandIn

        session, state = self.window.session, self.window.session.job
        walls = tuple(true_texture(state.number, c, 0.0) for c in state.cylinders)
        session.go("finish")
        self.window.profilometer.start_profilometer(
            ProfilometerStandIn(walls, texture_seed(state.number, 0, 0)).to_json()
        )

    def _start_gauge(self, kind: str) -> None:
        """Start a stand-in on this job's true wall, zeroed on a master of the nominal bore (a spindle: its radius)."""
        from redline_bore.demo.walls import true_wall

        session, state = self.window.session, self.window.session.job
        warm = state.clamped.block_c if state.clamped.block_c is not None else 20.4
        wall = true_wall(state.number, state.block, state.travel, state.coefficient_1e6)
        if kind == "spindle":
            here = state.gauging.spindle is not None and state.gauging.spindle.cylinder == session.bench.cylinder
            radius = (
                state.gauging.spindle.zero_radius_mm
                if here and state.gauging.spindle is not None
                else state.block.bore_mm / 2.0
            )
            self.window.gauge.start_simulated(kind, warm, wall, radius)
            return
        if state.gauging.zero is None or state.gauging.gauge_kind != kind:
            session.book(GaugeSet(master_20_mm=state.block.bore_mm, master_c=20.0, gauge=kind))
        zero = session.job.gauging.zero
        assert zero is not None
        size = zero.master_20_mm * (1.0 + zero.master_1e6 * 1e-6 * (zero.master_c - 20.0))
        self.window.gauge.start_simulated(kind, warm, wall, size)

    def port(self) -> None:
        self.window.line.field.setText("port /dev/ttyUSB0")
        self.window.line.field.setFocus()
        self.window.line.tell("Put the gauge's device path behind “port”, then Enter.", False)

    def port_with_pattern(self, port: str, kind: str, unit: str, pattern: str) -> str:
        """``port /dev/ttyUSB0 two-point in {value}``: a real gauge by its own line pattern."""
        from redline_bore.instruments.line_protocol import LinePattern

        line, _, ask = (pattern or "{value}").partition(" ask ")
        self.window.gauge.connect_port(port, LinePattern(kind, unit, line, ask.strip()))
        self.window.settings.setValue(f"port/{port.replace('/', '_')}", f"{kind} {unit} {pattern}")
        return f"A {kind} gauge at {port}, read as {line}, in {unit}. Its own button books at once."

    def press(self) -> None:
        """Press the button of the stand-in that is connected."""
        view = self.window.step
        on_load = view is not None and view.name == "hone" and self.window.session.bench.page == "load"
        link = self.window.hone if on_load else self.window.gauge if view is None else self.window.asked(view)
        link.tell_stand_in("press")
