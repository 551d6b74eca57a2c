"""A ledger taken further by some entries, as tests of the call need it."""

from redline_bore.job.ledger import entries as e
from redline_bore.job.ledger.fold import fold


def after(ledger, shipped, *entries, block_c=20.0):
    """The state once some entries more are booked."""
    return fold(longer(ledger, *entries, block_c=block_c), shipped)


def longer(ledger, *entries, block_c=20.0):
    """The ledger with some entries more."""
    book = list(ledger)
    for entry in entries:
        book.append(e.Record(len(book) + 1, "2026-11-24T08:00:00.000+00:00", "RM", entry, block_c=block_c))
    return book


def swept(cylinder, depth_mm, across_mm, off_x_mm=0.0, wear_mm=0.0):
    """A sweep (after a spindle was set up) of a round hole off the spindle by ``off_x_mm`` towards 0 degrees, worn towards 90 only."""
    from math import cos, radians

    clocks = tuple(float(c) for c in range(0, 360, 10))
    radius = tuple(
        across_mm / 2.0 + off_x_mm * cos(radians(c)) + wear_mm * max(cos(radians(c - 90.0)), 0.0) ** 4 for c in clocks
    )
    return e.SweepBooked(cylinder=cylinder, depth_mm=depth_mm, clock_deg=clocks, radius_mm=radius, plate_on=False)


def spindle(cylinder, based_on="deck"):
    """The spindle stands over a cylinder; the sweeps that follow share its axis."""
    return e.SpindleSet(cylinder=cylinder, zero_radius_mm=52.5, based_on=based_on)


def unread(ledger):
    """The ledger with every wall reading struck out: nobody put an ultrasonic probe on this block."""
    return longer(ledger, *(e.EntryStruck(seq=r.seq) for r in ledger if isinstance(r.entry, e.WallRead)))
