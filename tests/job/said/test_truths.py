"""A truth table of what is said: every sentence beside what must be so of the readings, looked up in the state and not in the code that
says it. Tried on every sample job along its ledger, and once every line was typed: said where it is so, and nowhere else."""

import re
from collections import Counter
from dataclasses import replace

import pytest

from redline_bore.core.errors import BenchError
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call.asks import first_rung
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.bore import BarSet, CutNoted, HoleBored
from redline_bore.job.kinds.call import ChamberStated, DecisionTaken, PistonMeasured
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.job.kinds.plate import PlateChanged
from redline_bore.job.kinds.sleeve import ParentRead, SleeveMeasured
from redline_bore.job.words import bore, call, finish, hone, pistons, readings, sleeve
from tests.job.benches import longer
from tests.job.said.everything import DAY, JOBS, widened

STOPS = 10


# -- what is so, read off the state ---------------------------------------------------------------------------------


def readings_at(s, c):
    return s.gauging.readings_of(c, s.clamped.plate_on)


def spots_at(s, c):
    """Clock angles read at each depth, half a millimetre one depth."""
    found = {}
    for r in readings_at(s, c):
        depth = next((d for d in found if abs(d - r.depth_mm) < 0.5), r.depth_mm)
        found.setdefault(depth, set()).add(r.clock_deg % 180.0)
    return found


def warm(s, c):
    return s.clamped.block_c


def checks(s, c):
    return s.honing.checks_of(c)


def piston(s, c):
    return s.calling.piston(c)


def traces_now(s, c):
    """Traces of a wall that nobody struck out, the newest plateau state alone."""
    return [t for t in s.finishing.traces if t.cylinder == c]


def swept_levels(s, c):
    return {round(x.depth_mm, 1) for x in s.gauging.sweeps_of(c)}


def swept_so(s, c):
    """With the plate as it stands."""
    return {round(x.depth_mm, 1) for x in s.gauging.sweeps_of(c, s.clamped.plate_on)}


def felt_only(s, c):
    return any(not d.measured for d in s.gauging.defects_of(c))


def heard(what):
    return lambda s, c: any(n.what == what and n.cylinder == c for n in s.boring.cut_notes)


def one_angle_last(s, c):
    return bool(checks(s, c)) and not checks(s, c)[-1].across_mm


def bar_outside_its_window(s, c):
    from redline_bore.job.bore.plan import window_now

    found = window_now(s)
    return found is not None and not found.window.rpm_low <= s.boring.bar.rpm <= found.window.rpm_high


BOTH, ONLY = True, False  # said wherever it is so; or said only where it is so, and something more may be wanted

TRUTHS = [
    # page, sentence, what must be so, whether it is said wherever it is so
    (readings, r"The block's temperature is not known", lambda s, c: warm(s, c) is None, BOTH),
    (readings, r"The block is at .* and reads", lambda s, c: warm(s, c) is not None and abs(warm(s, c) - 20.0) > s.figures.number("thermal.matters_from_20"), BOTH),
    (readings, r"A defect is known by feel only", felt_only, BOTH),
    (readings, r"Two axes can hide an oval at 45", lambda s, c: any(len(a) < 3 for a in spots_at(s, c).values()), BOTH),
    (readings, r"Ring gaps (give taper|alone)", lambda s, c: len({g.depth_mm for g in s.gauging.ring_gaps if g.cylinder == c}) > 1 and not readings_at(s, c), BOTH),
    (readings, r"Two points cannot show three lobes", lambda s, c: s.gauging.gauge_kind == "two-point", ONLY),
    (readings, r"Swept: the hole is crooked", lambda s, c: len(swept_so(s, c)) > 1, ONLY),
    (readings, r"^All cylinders are read", lambda s, c: all(len(spots_at(s, n)) >= len(s.gauging.plan.depths_mm) for n in s.cylinders), ONLY),
    (readings, r"^Cylinder (\d+) is read", lambda s, c: len(spots_at(s, c)) >= len(s.gauging.plan.depths_mm), ONLY),
    (call, r"^Not gauged yet", lambda s, c: not s.gauging.readings and not s.gauging.sweeps, ONLY),
    ("another size", r"The call taken is", lambda s, c: s.calling.decision is not None and s.calling.decision.bores, ONLY),
    ("another size", r"The call taken: ", lambda s, c: s.calling.decision is not None and not s.calling.decision.bores, ONLY),
    (call, r"By sweeps|: by sweeps", lambda s, c: any(swept_levels(s, n) for n in s.cylinders), ONLY),
    (call, r"not measured$", lambda s, c: piston(s, c) is None or abs(piston(s, c).size_mm - s.block.bore_mm - first_rung(s)) > 0.12, ONLY),
    (call, r"wall left in \d+ \| not read: unknown", lambda s, c: not any(w.cylinder == c for w in s.gauging.wall_readings), ONLY),
    (pistons, r"The piston's temperature was not taken", lambda s, c: piston(s, c) is not None and not piston(s, c).warm_known, BOTH),
    (pistons, r"For the compression type M", lambda s, c: s.calling.chamber is None, BOTH),
    (pistons, r"The gasket is smaller than the finished bore", lambda s, c: s.calling.chamber is not None and piston(s, c) is not None and s.calling.chamber.gasket_bore_mm < piston(s, c).size_mm + 0.5, ONLY),
    (pistons, r"piston \d+ \| not measured", lambda s, c: piston(s, c) is None or not s.calling.pistons, ONLY),
    (bore, r"^Say what is in the bar before it turns", lambda s, c: s.boring.bar is None, ONLY),
    (bore, r"^Cylinder \d+ waits for its sleeve", lambda s, c: s.sleeving.after_of(c) is None, ONLY),
    (bore, r"is bored: .* is left for the hone", lambda s, c: any(h.cylinder == c for h in s.boring.holes), ONLY),
    (bore, r"came small, .* is left", lambda s, c: any(h.cylinder == c for h in s.boring.holes), ONLY),
    (bore, r"over its redline", lambda s, c: any(h.cylinder == c for h in s.boring.holes), ONLY),
    (bore, r"Prove this first hole", lambda s, c: not s.boring.holes, ONLY),
    (bore, r"^Hit and skip", heard("hit and skip"), BOTH),
    (bore, r"^Ridge noted", heard("ridge"), BOTH),
    (bore, r"^Webs noted", heard("web"), BOTH),
    (bore, r"^Opening noted", heard("pin hole"), BOTH),
    (bore, r"This insert turns at", bar_outside_its_window, BOTH),
    (bore, r"^Squared to the mains", lambda s, c: s.boring.bar is not None and s.boring.bar.based_on == "mains", BOTH),
    (bore, r"^Squared to the deck", lambda s, c: s.boring.bar is not None and s.boring.bar.based_on == "deck", BOTH),
    (bore, r"The room below is not known", lambda s, c: s.block.room_below_mm is None, ONLY),
    (hone, r"^No redline yet", lambda s, c: piston(s, c) is None or s.calling.decision is None, ONLY),
    (hone, r"^Book a check before", lambda s, c: not checks(s, c) or s.honing.step_of(c) > 0, ONLY),
    (hone, r"^Plate off: put it on first\. ", lambda s, c: not s.clamped.plate_on, ONLY),
    (hone, r"^(Plate off: put it on first\. )?At size", lambda s, c: bool(checks(s, c)) or s.final_of(c, True) is not None or s.final_of(c, False) is not None, ONLY),
    (hone, r"The plate is off\. With the head on", lambda s, c: not s.clamped.plate_on, BOTH),
    (hone, r"The piston's temperature was not taken", lambda s, c: piston(s, c) is not None and not piston(s, c).warm_known, BOTH),
    (hone, r"Read at one angle only", one_angle_last, ONLY),
    (hone, r"This check was under the plate, the one before was not", lambda s, c: len(checks(s, c)) > 1 and checks(s, c)[-1].plate_on and not checks(s, c)[-2].plate_on, ONLY),
    (hone, r"This check was without the plate, the one before was under", lambda s, c: len(checks(s, c)) > 1 and not checks(s, c)[-1].plate_on and checks(s, c)[-2].plate_on, ONLY),
    (hone, r"block temperature \| not known", lambda s, c: (checks(s, c)[-1].block_c if checks(s, c) else warm(s, c)) is None, ONLY),
    (hone, r"cuts unlike the others", lambda s, c: len([n for n in s.cylinders if len(checks(s, n)) > 2]) > 1 and len(checks(s, c)) > 2, ONLY),
    (hone, r"Taper grew by", lambda s, c: len([k for k in checks(s, c) if len(k.sizes_mm) > 1]) > 1, ONLY),
    (finish, r"cylinder \d+ \| not traced", lambda s, c: not traces_now(s, c), ONLY),
    (finish, r"^(Trace cylinder \d+\.|Trace cylinder \d+ before)", lambda s, c: not traces_now(s, c), ONLY),
    (finish, r"Trace it again", lambda s, c: bool(traces_now(s, c)), ONLY),
    (finish, r"^1 trace: ", lambda s, c: len(traces_now(s, c)) >= 1, ONLY),
    (finish, r"^2 traces: ", lambda s, c: len(traces_now(s, c)) >= 2, ONLY),
    (finish, r"Judged by Ra and Rz alone", lambda s, c: s.booking.practice("finish") != "rk family", ONLY),
    (sleeve, r"Its length was not measured", lambda s, c: (x := s.sleeving.sleeve_of(c)) is not None and x.length_mm is None and x.flange_mm is None, ONLY),
    (sleeve, r"The sleeve's temperature was not taken", lambda s, c: (x := s.sleeving.sleeve_of(c)) is not None and not x.warm_known, ONLY),
    (sleeve, r"Aluminium grows away", lambda s, c: "alu" in s.block.material, ONLY),
    (sleeve, r"Too few angles were read to see an oval", lambda s, c: s.sleeving.parent_of(c) is not None, ONLY),
]  # fmt: skip


PAGES = {
    readings: lambda s, c, show: readings.advise(s, c, show),
    call: lambda s, c, show: call.advise(s, c, first_rung(s), show),
    "another size": lambda s, c, show: call.advise(s, c, first_rung(s) + 0.25, show),
    pistons: lambda s, c, show: pistons.advise(s, c, show),
    bore: lambda s, c, show: bore.advise(s, c, show, DAY),
    hone: lambda s, c, show: hone.advise(s, c, show),
    finish: lambda s, c, show: finish.advise(s, c, show),
    sleeve: lambda s, c, show: sleeve.advise(s, c, show, "fit", DAY),
}


def lines_of(advice):
    """Every line of a card but its working."""
    return [advice.sentence, *advice.changes, *(f"{f.label} | {f.value}" for f in advice.figures)]


def unlike(ledger, shipped):
    """The job as it seldom is: what is left out elsewhere, told once here."""
    number, piston_mm = ledger[0].entry.number, fold(ledger, shipped).block.bore_mm + 0.4
    bar = BarSet(insert="TPG 321", nose_radius_mm=0.4, rake="positive", feed_mm=0.1, rpm=900.0, based_on="deck")
    notes = [CutNoted(cylinder=1, what=what, depth_mm=40.0) for what in ("ridge", "web", "pin hole", "hit and skip")]
    cold = PistonMeasured(cylinder=1, size_mm=piston_mm)
    space = ChamberStated(
        chamber_cm3=60.0, dish_cm3=4.0, gasket_bore_mm=piston_mm - 2.0, gasket_thickness_mm=1.2, deck_clearance_mm=0.3
    )
    yield longer(ledger, bar, *notes, cold, space)
    yield longer(
        ledger, PistonMeasured(cylinder=1, size_mm=piston_mm), PracticeChosen(topic="finish", name="Ra and Rz")
    )
    yield [r for r in ledger if r.entry.kind != "piston_measured"]
    yield longer(ledger, DecisionTaken(way="rering", sentence="Leave it and re-ring.", oversize_mm=0.0))
    for size in (piston_mm - 0.6, piston_mm + 0.3):
        yield longer(ledger, bar, HoleBored(cylinder=1, set_mm=size, sizes_mm=(size,) * 3, across_mm=(size,) * 3))
    end = piston_mm - 0.3
    plated = [CheckLogged(cylinder=1, strokes=0.0, sizes_mm=(end,) * 3, across_mm=(end,) * 3)]
    yield longer(ledger, cold, PlateChanged(on=True), *plated, PlateChanged(on=False), replace(plated[0], strokes=9.0))
    yield longer(ledger, cold, PlateChanged(on=False), *plated, PlateChanged(on=True), replace(plated[0], strokes=9.0))
    grown = replace(plated[0], strokes=30.0, sizes_mm=(end, end + 0.02, end + 0.06), across_mm=())
    yield longer(ledger, cold, *plated, grown)
    rates = ((1, 0.001), (2, 0.003))
    apart = [
        CheckLogged(cylinder=c, strokes=n, sizes_mm=(end + r * n,) * 3, across_mm=(end + r * n,) * 3)
        for c, r in rates
        for n in (0.0, 8.0, 16.0, 24.0)
    ]
    if fold(ledger, shipped).block.cylinders > 1:
        yield longer([r for r in ledger if r.entry.kind != "check_logged"], *apart)
    if number == "2044":
        yield longer(
            ledger,
            SleeveMeasured(cylinder=1, outside_mm=95.02, bore_mm=88.9),
            ParentRead(cylinder=1, depth_mm=40.0, sizes_mm=(94.9, 94.9)),
        )


def states_of(ledger, shipped):
    """The job at places along its ledger, as it seldom is, and once every line was typed."""
    for other in unlike(ledger, shipped):
        yield fold(other, shipped)
    for end in sorted({max(1, round(len(ledger) * i / STOPS)) for i in range(1, STOPS + 1)}):
        yield fold(ledger[:end], shipped)
    yield fold(widened(ledger, shipped, Units.METRIC), shipped)


@pytest.fixture(scope="module")
def cards(demo_master, shipped):
    """Every card of every job: the state, the cylinder, the page, its lines."""
    from redline_bore.store.logbook import Logbook

    book, found = Logbook(demo_master), []
    for number in JOBS:
        for state in states_of(book.ledger(book.job_id(number)), shipped):
            show = Show(state.units)
            for cylinder in state.cylinders[:3]:
                for page, made in PAGES.items():
                    try:
                        found.append((state, cylinder, page, lines_of(made(state, cylinder, show))))
                    except BenchError:
                        continue
    book.close()
    return found


@pytest.mark.parametrize(("page", "sentence", "so", "both"), TRUTHS, ids=[t[1] for t in TRUTHS])
def test_it_is_said_where_it_is_so_and_nowhere_else(cards, page, sentence, so, both):
    pattern, seen = re.compile(sentence), Counter()
    for state, cylinder, of, lines in cards:
        if of is not page:
            continue
        is_said, is_so = any(pattern.search(line) for line in lines), bool(so(state, cylinder))
        seen[is_said, is_so] += 1
        where = f"job {state.number} at entry {state.last_seq}, cylinder {cylinder}: {[x for x in lines if pattern.search(x)]}"
        assert is_so or not is_said, f"said, and it is not so: {where}"
        assert is_said or not (both and is_so), f"so, and not said: {where}"
    assert seen[True, True], f"never said in all these cards: {dict(seen)}"
    assert seen[False, False] or seen[False, True], "always said: nothing was tried"
