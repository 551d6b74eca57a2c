"""An obedient machinist: books through the desk only what a person would, and does literally what the program says, step by step.

Every time the advice leaves open what to do, ``guessed`` says where: each is a gap to close.
"""

from __future__ import annotations

import traceback
from collections.abc import Callable

import numpy as np

from redline_bore.core.errors import BenchError
from redline_bore.core.thermal import size_at
from redline_bore.desk.calls import call_at
from redline_bore.job.bore.finding import BoreCall
from redline_bore.job.bore.finding import judge as bore_call
from redline_bore.job.bore.plan import still_to_bore
from redline_bore.job.call.asks import Ask, AskFor, first_rung
from redline_bore.job.call.finding import CallVerdict
from redline_bore.job.call.finding import judge as judged_at
from redline_bore.job.call.odds import worth_taking
from redline_bore.job.gauge.places import check_places
from redline_bore.job.kinds.bore import BarSet, HoleBored, HoleLooked
from redline_bore.job.kinds.call import PistonMeasured
from redline_bore.job.kinds.defects import WallRead
from redline_bore.job.kinds.gauge import (
    ReadingBooked,
    RingStopRead,
    SpindleSet,
    SweepBooked,
)
from redline_bore.job.kinds.plate import PlateChanged
from redline_bore.job.words import call as call_words
from redline_bore.loop.at_hone import AtHone
from redline_bore.loop.gauger import (
    BORE_MIN,
    CHECK_MIN,
    CHORDS_MIN,
    LOOK_MIN,
    MOST_TURNS,
    PLACE_MIN,
    RECUT_MIN,
    SHOW,
    SWEEP_MIN,
    Work,
)
from redline_bore.truth.tools import TrueBar, sweep_of

SEEN_MM = 0.002  # a patch shallower than that no lamp shows


class Machinist(AtHone):
    """Works one block from book-in to the final gauging."""

    def run(self) -> Work:
        """Book in, gauge, call, bore, hone, gauge again."""
        try:
            self._book_in()
            self._gauge()
            if self._call():
                self._bore_all()
                if not self.work.given_up:
                    self._hone_all()
                    self._finals()
        except Exception as error:  # a program that fails is told with its seed, and the campaign goes on
            self.work.endless = f"{type(error).__name__}: {error}"
            if not isinstance(error, BenchError):
                self.tell(traceback.format_exc())
        return self.work

    def _call(self) -> bool:
        """Follow the ladder's card until it can be taken; False where nothing is bored."""
        over = first_rung(self.state)
        for _ in range(MOST_TURNS):
            found = judged_at(self.state, over)
            self.tell(f"Call at +{over:g}: {call_words.say(found, SHOW).sentence}")
            if found.verdict.name.startswith("LEAVE"):  # its pistons are not of this story
                self.work.left = True
                return False
            if found.asks:
                self.work.requests += 1  # all of it at once
                for ask in found.asks:
                    self._answer(ask)
                over = first_rung(self.state)
                continue
            if found.verdict in (CallVerdict.TOO_THIN, CallVerdict.WILL_NOT, CallVerdict.NO_RUNGS):
                self.work.given_up = found.verdict.name
                return False
            if not found.settled and found.ways and found.ways[0].oversize_mm is not None:
                over = found.ways[0].oversize_mm  # the next size is the cheaper way
                continue
            self.work.said = found.chance if found.odds_told and not found.sure else None
            self.work.chance, self.work.first_mm, self.work.first_sure = (
                found.chance,
                over,
                found.verdict is CallVerdict.BORE,
            )
            return self._take(over, found.sure and all(f.sound for f in found.fates))
        self.work.endless = "the call asks without end"
        return False

    def _take(self, over: float, sure: bool) -> bool:
        self.work.called_mm, self.work.sure = over, sure
        self.book(call_at(self.state, 1, over, (), SHOW))
        if self.state.booking.practice("pistons") == "in hand first" or self.work.pistons:
            self._pistons()
        return True

    def _pistons(self) -> None:
        taken = self.state.calling.decision
        assert taken is not None
        self.work.requests += 1
        for cylinder in self.state.cylinders:
            self._piston(cylinder, taken.oversize_mm)

    def _answer(self, ask: Ask) -> None:
        """Read what is asked for."""
        do: dict[AskFor, Callable[[Ask], None]] = {
            AskFor.GAUGE: lambda a: self._read_plan(a.cylinder), AskFor.MARK: self._measure_mark, AskFor.RING_STOP: self._ring_stop,
            AskFor.SWEEP: self._sweep, AskFor.CHORDS: self._chords, AskFor.WALL: self._wall, AskFor.WALL_AGAIN: self._wall,
            AskFor.WALL_THROUGH: self._no_guess, AskFor.PISTON: lambda a: self._piston(a.cylinder, a.over_mm),
        }  # fmt: skip
        do[ask.what](ask)

    def _no_guess(self, ask: Ask) -> None:
        self.work.guessed.append(ask.what.name)

    def _measure_mark(self, ask: Ask) -> None:
        assert ask.mark is not None
        mark = ask.mark
        flaw = min(
            self.hole(ask.cylinder).flaws, key=lambda f: abs(f.top_mm - mark.top_mm) + abs(f.clock_deg - mark.clock_deg)
        )
        deep = round(max(flaw.deep_mm + self.chance.gauss(0.0, 0.004), 0.001), 3)
        self.job.strike(mark.seq, "measured")
        self.book(self._flaw(ask.cylinder, flaw, deep, deep, ""))

    def _ring_stop(self, _ask: Ask) -> None:
        self.book(RingStopRead(depth_mm=round(self.block.stop_mm + self.chance.uniform(-0.5, 0.5), 1)))
        for cylinder in self.state.cylinders:
            self._read_plan(cylinder)  # the plan has its level under the stop now

    def _sweep(self, ask: Ask) -> None:
        self.book(SpindleSet(cylinder=ask.cylinder, zero_radius_mm=self.block.spec.bore_mm / 2.0, based_on="mains"))
        held = [s.depth_mm for s in self.state.gauging.sweeps_of(ask.cylinder)]
        depths = sorted({*ask.depths_mm, *held})  # one set-up carries them all
        for depth in depths:
            clocks, radii = sweep_of(self.hole(ask.cylinder), depth, self.plate_on, 72, 0.001, self.chance)
            warm = tuple(round(size_at(r, self.block.coefficient_1e6, self.warm_c), 4) for r in radii)
            self.book(
                SweepBooked(
                    cylinder=ask.cylinder, depth_mm=depth, clock_deg=clocks, radius_mm=warm, plate_on=self.plate_on
                )
            )
            self.work.sweeps += 1
            self.work.readings += 1
        self.work.minutes += SWEEP_MIN

    def _chords(self, ask: Ask) -> None:
        entries = []
        for depth in ask.depths_mm:
            for clock in (0.0, 45.0, 90.0, 135.0):
                size = self.read(ask.cylinder, depth, clock, self.plate_on)
                entries.append(
                    ReadingBooked(
                        cylinder=ask.cylinder, depth_mm=depth, clock_deg=clock, diameter_mm=size, plate_on=self.plate_on
                    )
                )
        self.work.minutes += CHORDS_MIN
        self.work.readings += len(entries)
        self.book(*entries)

    def _wall(self, ask: Ask) -> None:
        times = 2 if ask.what is AskFor.WALL_AGAIN else 1
        entries = []
        for place in ask.places:
            for _ in range(times):
                wall = self.hole(ask.cylinder).wall_at(place.depth_mm, place.clock_deg) + self.chance.gauss(0.0, 0.04)
                across = min(abs(place.clock_deg - 90.0), abs(place.clock_deg - 270.0)) <= 45.0
                entries.append(
                    WallRead(
                        cylinder=ask.cylinder, clock_deg=place.clock_deg, depth_mm=place.depth_mm, wall_mm=round(wall, 2),
                        zone="thrust" if across else "elsewhere", through="liner" if self.block.wall_is_liner else "",
                    )
                )  # fmt: skip
        self.work.minutes += PLACE_MIN * len(entries)
        self.work.readings += len(entries)
        self.book(*entries)

    def _piston(self, cylinder: int, over: float) -> None:
        """Measure the piston meant for a cylinder, of those that are sold for a size."""
        true = self.work.pistons.get(cylinder, (0.0, 0.0))[0]
        name = self.block.spec.bore_mm + over
        if abs(true + self.block.pistons_under_mm - name) > 0.05:
            true = name - self.block.pistons_under_mm + self.chance.gauss(0.0, 0.003)
        read = round(true + self.mic_off + self.chance.gauss(0.0, 0.0008), 3)
        self.work.pistons[cylinder] = (true, read)
        self.book(PistonMeasured(cylinder=cylinder, size_mm=read, piston_c=20.0))

    # -- the bar ---------------------------------------------------------------------------------------------------------

    def _bore_all(self) -> None:
        c = self.chance
        bar = TrueBar(c, c.gauss(0.004, 0.004), c.uniform(0.0, 0.013), 0.002, 0.004, c.gauss(0.0, 0.003))
        self.book(PlateChanged(on=False))
        self.book(
            BarSet(insert="TPG 321", nose_radius_mm=0.4, rake="positive", feed_mm=0.08, rpm=900.0, machine="north")
        )
        for _ in range(MOST_TURNS):
            order = [n for bank in still_to_bore(self.state) for n in bank]
            if not order:
                for cylinder in self.state.cylinders:  # what the bar still says of each: a look, then pistons
                    if not self._bore(cylinder, bar):
                        return
                if not self.work.pistons:
                    self._pistons()
                if not any(n for bank in still_to_bore(self.state) for n in bank):
                    return
                continue
            if not self._bore(order[0], bar):
                return
        self.work.endless = "the bar is told without end"

    def _bore(self, cylinder: int, bar: TrueBar) -> bool:
        for _ in range(12):
            found = bore_call(self.state, cylinder, self.began[:10])
            if found.call in (BoreCall.AGAINST_CALL, BoreCall.PATCH_STAYS):
                return self._call_again()
            if found.call in (BoreCall.DONE, BoreCall.LITTLE_LEFT, BoreCall.MUCH_LEFT, BoreCall.UNPROVED):
                return True
            if found.call in (BoreCall.LOOK, BoreCall.GAUGE_PATCH):
                self._look(cylinder, found.call is BoreCall.GAUGE_PATCH)
                continue
            if found.call is BoreCall.BUY_PISTONS:
                self._pistons()
                return True
            if found.call is BoreCall.LOOK_FIRST:
                return self._bore(found.others[0], bar)
            if found.call is BoreCall.OVER:
                self.tell(f"{cylinder}: the bar went over")
                return True
            if found.call not in (BoreCall.SET, BoreCall.PASS, BoreCall.RECUT):
                self.work.endless = f"the bar: {found.call.name} {found.plan.missing and found.plan.missing.what.name}"
                return False
            setting = found.plan.setting_mm if found.call is not BoreCall.RECUT else found.setting_mm
            assert setting is not None
            hole = self.hole(cylinder)
            self.work.minutes += RECUT_MIN if cylinder in self._cut else 0.0
            self._cut.add(cylinder)
            self.work.minutes += BORE_MIN
            bar.cut(hole, setting, (float(hole.centre_mm[-3, 0]), float(hole.centre_mm[-3, 1])))
            at = check_places(self.state)
            down, across = (tuple(self.read(cylinder, d, a, False) for d in at.depths_mm) for a in at.clocks_deg)
            self.book(HoleBored(cylinder=cylinder, set_mm=setting, sizes_mm=down, across_mm=across))
        return True

    def _look(self, cylinder: int, gauged: bool) -> None:
        """Look into a hole with a lamp, which shows nothing shallower than a few um; or gauge the patch that was seen."""
        hole = self.hole(cylinder)
        dark = hole.shadow()
        beside = float(np.median(hole.radius_mm[~dark])) if not dark.all() else float(hole.radius_mm.min())
        under = np.where(dark, hole.found_mm - beside, 0.0)
        row, turn = (int(i) for i in np.unravel_index(int(under.argmax()), under.shape))
        deepest = float(under[row, turn])
        if gauged:
            self.work.minutes += CHECK_MIN
            deep = max(round(deepest + self.chance.gauss(0.0, 0.004), 3), 0.001)
            where = (float(round(hole.depths_mm[row])), float(turn * 5.0))
            self.book(
                HoleLooked(cylinder=cylinder, found="shadow", depth_mm=where[0], clock_deg=where[1], deep_mm=deep)
            )
            self.tell(f"{cylinder}: the patch gauged {deep:.3f} deep, truly {deepest:.3f}")
            return
        self.work.minutes += LOOK_MIN
        self.work.requests += 1
        self.work.looks += 1
        self.tell(f"{cylinder}: looked at, {'a dark patch' if deepest > SEEN_MM else 'clean'}")
        self.book(HoleLooked(cylinder=cylinder, found="shadow" if deepest > SEEN_MM else "clean"))

    def _call_again(self) -> bool:
        """The call does not stand: what the call page says of it now; then on, or given up."""
        taken = self.state.calling.decision
        assert taken is not None
        over = taken.oversize_mm
        for _ in range(MOST_TURNS):
            self.work.again += 1
            found = judged_at(self.state, over)
            self.tell(f"Call again at +{over:g}: {call_words.say(found, SHOW).sentence}")
            if found.asks:
                self.work.requests += 1
                for ask in found.asks:
                    self._answer(ask)
                continue
            larger = [r for r in found.ladder.rungs_mm if r > over + 1e-9 and found.ladder.possible(r)]
            if larger and (not found.settled or found.verdict in (CallVerdict.TOO_THIN, CallVerdict.WILL_NOT)):
                worth = [r for r in larger if worth_taking(self.state, found.ladder, r) or found.ladder.sure(r)]
                over = worth[0] if worth else larger[-1]
                continue
            if found.verdict in (CallVerdict.TOO_THIN, CallVerdict.WILL_NOT):
                self.work.given_up = found.verdict.name
                return False
            return self._take(over, found.sure and all(f.sound for f in found.fates))
        self.work.endless = "the call asks again without end"
        return False
