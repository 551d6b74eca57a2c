"""At the hone, to the letter of the card: so many strokes, then a check."""

from __future__ import annotations

import numpy as np

from redline_bore.job.calls import hone_call
from redline_bore.job.gauge.places import check_places
from redline_bore.job.hone.finding import HoneCall, HoneFinding, creeping, one_way_does
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.hone.set_up import proposed_hone, stone_mm
from redline_bore.job.hone.steps import stones_of
from redline_bore.job.hone.track import tracked_of
from redline_bore.job.kinds.gauge import (
    BlockTemperature,
)
from redline_bore.job.kinds.hone import CheckLogged, HoneSet, HoneStepBegan, StonesDressed, StonesSet
from redline_bore.job.kinds.plate import PlateChanged
from redline_bore.job.kinds.sign_off import FinalGauged
from redline_bore.job.words import hone as hone_words
from redline_bore.loop.gauger import CHECK_MIN, MOST_TURNS, RESET_MIN, SHOW, Gauger, Hone, Told
from redline_bore.truth.tools import TrueHone

MOST_CHECKS = 40
GO_ON = {  # what the card may say while there is something to do
    HoneCall.CHECK_FIRST, HoneCall.STEP_DONE, HoneCall.COOL, HoneCall.TRUE_UP, HoneCall.FIRST_BITE, HoneCall.STROKES, HoneCall.PLATEAU_GO,
    HoneCall.PLATEAU_TRACE_FIRST, HoneCall.NO_METAL,
}  # fmt: skip


class AtHone(Gauger):
    """The same person at the hone: does what the card says, stroke for stroke."""

    def _hone_all(self) -> None:
        self.plate_on = True
        self.book(PlateChanged(on=True))
        self._set_gauge()
        for cylinder in self.state.cylinders:
            self._hone(cylinder)
        self.work.finished = True

    def _set_hone(self, step: int, new: bool) -> None:
        length, name = self.block.spec.length_mm, stones_of(self.state)[step]
        self.book(StonesSet(stones=name, count=4, width_mm=10.0, length_mm=round(0.6 * length), bedded=not new))
        run: HoneSet = proposed_hone(self.state, "vertical")
        self.book(run)

    def _true_hone(self, step: int, new: bool) -> TrueHone:
        c, stones = self.chance, stones_of(self.state)[step]
        usual = self.state.figures.number(f"stones.{stones}_rate") * 1e-3
        soft = {"grey_iron": 1.0, "ductile_iron": 0.7, "iron_in_aluminium": 1.0}[self.block.spec.material]
        if step not in self.stones_cut:
            self.stones_cut[step] = float(np.exp(c.gauss(0.0, 0.45)))
        rate = (
            usual * soft * 100.0 / self.block.spec.bore_mm * self.stones_cut[step] * float(np.exp(c.gauss(0.0, 0.15)))
        )
        return TrueHone(
            c, rate, new, self.block.spec.band_mm, c.uniform(0.8, 1.2), c.uniform(0.8, 1.2), c.uniform(0.03, 0.08), c.uniform(0.06, 0.15), c.uniform(0.1, 0.4),
            c.uniform(0.0, 0.4),
        )  # fmt: skip

    def _hone(self, cylinder: int) -> None:
        """Do what the card says until it says that the cylinder is done, or to stop."""
        went, step, warm = self.work.hones.setdefault(cylinder, Hone()), -1, self.warm_c
        hone = self._true_hone(0, False)
        for _ in range(MOST_TURNS):
            at = self.state.honing.step_of(cylinder)
            if at != step:
                step, new = at, cylinder == 1 and self.chance.random() < 0.25  # the same stones go from hole to hole
                hone = self._true_hone(step, new)
                self._set_hone(step, new)
            found = hone_call(self.state, cylinder)
            self.tell(
                f"{cylinder}, step {step}: {hone_words.say(found, SHOW).sentence}   [true mean {self._true_mean(cylinder):.4f}]"
            )
            if found.call not in GO_ON and not (found.call is HoneCall.PLATEAU_SHORT and found.bite > 0):
                went.ended = found.call
                break
            self._obey(cylinder, hone, found, step, warm)
            if found.call is HoneCall.PLATEAU_SHORT:
                went.ended = found.call
                break
            if went.checks > MOST_CHECKS:
                self.work.endless = f"cylinder {cylinder} is checked without end: {found.call.name}"
                break
            self.warm_c = min(self.warm_c, warm + 14.0)
        self.warm_c = warm + (self.warm_c - warm) * 0.3

    def _obey(self, cylinder: int, hone: TrueHone, found: HoneFinding, step: int, cool_c: float) -> None:
        c = HoneCall
        if found.call is c.CHECK_FIRST:
            self._check(cylinder, 0)
        elif found.call is c.STEP_DONE:
            self.book(HoneStepBegan(cylinder=cylinder, step=step + 1))
        elif found.call is c.COOL:
            self.warm_c = cool_c
            self.work.requests += 1
            self._check(cylinder, self._strokes(cylinder))
        elif found.call is c.TRUE_UP:
            assert found.shape is not None and found.shape.set_to is not None
            self.work.minutes += RESET_MIN
            self.work.requests += 1
            self.book(found.shape.set_to)
        elif found.call is c.NO_METAL:
            self.work.requests += 1
            hone.glaze, hone.life = 0.0, max(hone.life, -0.2)
            self.book(StonesDressed())
        else:
            self._bite(cylinder, hone, found)

    def _true_mean(self, cylinder: int) -> float:
        travel = self.state.travel
        hole = self.hole(cylinder)
        rows = hole.rows_between(travel.top_mm, travel.bottom_mm)
        return 2.0 * float(hole.radius_mm[rows].mean())

    def _strokes(self, cylinder: int) -> int:
        checks = self.state.honing.checks_of(cylinder, self.state.honing.step_of(cylinder))
        return int(checks[-1].strokes) if checks else 0

    def _check(self, cylinder: int, strokes: int) -> None:
        if creeping(self.state, progress_of(self.state, cylinder)) and cylinder not in self._zeroed:
            self._zeroed.add(cylinder)
            self._set_gauge()  # as the page asks near size, once a cylinder
        self.work.minutes += CHECK_MIN
        at = check_places(self.state)
        clocks = at.clocks_deg[:1] if one_way_does(self.state, cylinder) else at.clocks_deg
        rows = [tuple(self.read(cylinder, d, a, True) for d in at.depths_mm) for a in clocks]
        down, across = rows[0], rows[1] if len(rows) > 1 else ()
        self.book(BlockTemperature(block_c=round(self.warm_c + self.therm_off, 1)))
        self.book(CheckLogged(cylinder=cylinder, strokes=float(strokes), sizes_mm=down, across_mm=across))
        self.work.hones[cylinder].checks += 1

    def _bite(self, cylinder: int, hone: TrueHone, found: HoneFinding) -> None:
        run, before, done, bite = (
            self.state.honing.run,
            self._true_mean(cylinder),
            self._strokes(cylinder),
            max(found.bite, 1),
        )
        assert run is not None
        aim = None if (tracked := tracked_of(self.state, cylinder)) is None else tracked.aim.mean_mm
        over, dwell = (run.over_top_mm or 0.0, run.over_bottom_mm or 0.0), (run.dwell_top_s, run.dwell_bottom_s)
        hone.cut(self.hole(cylinder), bite, stone_mm(self.state), over, dwell, run.strokes_per_min or 50.0)
        self.warm_c += 0.012 * bite
        after = self._true_mean(cylinder)
        if found.call is HoneCall.STROKES and aim is not None and after > before:
            rate = (after - before) / bite
            self.work.hones[cylinder].told.append(Told(found.least, found.most, (aim - before) / rate))
        self._check(cylinder, done + bite)

    def _finals(self) -> None:
        self.warm_c = self.block.block_c
        self._set_gauge()
        at = check_places(self.state)
        for cylinder in self.state.cylinders:
            self.work.minutes += CHECK_MIN
            down, across = (tuple(self.read(cylinder, d, a, True) for d in at.depths_mm) for a in at.clocks_deg)
            self.book(FinalGauged(cylinder=cylinder, sizes_mm=down, across_mm=across, plate_on=True))
