"""A ledger taken further by some entries, and lines as they are typed, for the tests of the steps."""

from dataclasses import replace

from redline_bore.job.kinds.defects import WallRead
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import SpindleSet, SweepBooked
from redline_bore.job.kinds.strikes import EntryStruck
from redline_bore.job.proposals import entries_from_typed


def one_typed(step, text, state, where, day=""):
    """The one entry that a typed line means."""
    (entry,) = entries_from_typed(step, text, state, where, day)
    return entry


def but(state, **slices):
    """A state with figures of its slices changed: ``but(state, honing={"checks": ()})``."""
    changed = {name: replace(getattr(state, name), **figures) for name, figures in slices.items()}
    return replace(state, **changed, memo={})


def after(ledger, shipped, *entries, block_c=20.0):
    """The state once some entries more are booked."""
    return fold(longer(ledger, *entries, block_c=block_c), shipped)


def longer(ledger, *entries, block_c=20.0):
    """The ledger with some entries more."""
    book = list(ledger)
    for entry in entries:
        book.append(Record(len(book) + 1, "2026-11-24T08:00:00.000+00:00", "RM", entry, block_c=block_c))
    return book


def swept(cylinder, depth_mm, across_mm, off_x_mm=0.0, wear_mm=0.0):
    """A sweep (after a spindle was set up) of a round hole off the spindle by ``off_x_mm`` towards 0 degrees, worn towards 90 only."""
    from math import cos, radians

    clocks = tuple(float(c) for c in range(0, 360, 10))
    radius = tuple(
        across_mm / 2.0 + off_x_mm * cos(radians(c)) + wear_mm * max(cos(radians(c - 90.0)), 0.0) ** 4 for c in clocks
    )
    return SweepBooked(cylinder=cylinder, depth_mm=depth_mm, clock_deg=clocks, radius_mm=radius, plate_on=False)


def spindle(cylinder, based_on="deck"):
    """The spindle stands over a cylinder; the sweeps that follow share its axis."""
    return SpindleSet(cylinder=cylinder, zero_radius_mm=52.5, based_on=based_on)


def unread(ledger):
    """The ledger with every wall reading struck out: nobody put an ultrasonic probe on this block."""
    return longer(ledger, *(EntryStruck(seq=r.seq) for r in ledger if isinstance(r.entry, WallRead)))


PISTON_UNDER_MM = 0.060  # by which the pistons of 2041's shelf measure under the size in their name


def settled(ledger, shipped):
    """Job 2041 with all read that would prove its call, from the wall it was made of: what is then called is sure."""
    from redline_bore.job.call.asks import first_rung
    from redline_bore.job.call.finding import judge

    book = list(ledger)
    for _ in range(40):
        state = fold(book, shipped)
        found = judge(state, first_rung(state))
        wanted = found.asks or found.proofs
        if not wanted:
            return book
        book = longer(book, *answers(state, wanted[0], found.oversize_mm))
    raise AssertionError("the call asks without end")


def answers(state, ask, over_mm):
    """What a person would book when asked for that, of job 2041."""
    from redline_bore.demo.walls import wall_2041
    from redline_bore.job.call.asks import AskFor
    from redline_bore.job.kinds.call import PistonMeasured

    c = ask.cylinder
    if ask.what is AskFor.SWEEP:
        clocks = tuple(float(t) for t in range(0, 360, 10))
        yield SpindleSet(cylinder=c, zero_radius_mm=52.5, based_on="mains")
        held = [s.depth_mm for s in state.gauging.sweeps_of(c)]
        for depth in sorted({*ask.depths_mm, *held}):
            radii = tuple(round(wall_2041().radius_from_spindle(c, depth, t, True, 20.0), 4) for t in clocks)
            yield SweepBooked(cylinder=c, depth_mm=depth, clock_deg=clocks, radius_mm=radii, plate_on=True)
    elif ask.what in (AskFor.WALL, AskFor.WALL_AGAIN):
        for place in ask.places:
            read = [w for w in state.gauging.wall_readings if w.cylinder == c]
            near = min(read, key=lambda w: abs(w.depth_mm - place.depth_mm) + abs(w.clock_deg - place.clock_deg))
            for _ in range(2):
                yield WallRead(
                    cylinder=c, clock_deg=place.clock_deg, depth_mm=place.depth_mm, wall_mm=near.wall_mm, zone=near.zone
                )
    elif ask.what is AskFor.PISTON:
        yield PistonMeasured(cylinder=c, size_mm=state.block.bore_mm + over_mm - PISTON_UNDER_MM, piston_c=20.0)
    else:
        raise AssertionError(ask)
