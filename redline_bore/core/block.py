"""The block: its layout, where bores and fasteners lie, ring travel, and the room below (job.md, book in).

Lengths in mm, angles in degrees. Positions are seen from above the deck: ``along`` grows towards the back of
the engine from the front bore of its bank, ``across`` grows to the right with the front of the engine up.
"""

from __future__ import annotations

import math
from enum import StrEnum
from functools import lru_cache

from redline_bore.core.errors import Fault, FaultyInput
from redline_bore.core.frozen import frozen
from redline_bore.core.lengths import Units, with_unit


class Layout(StrEnum):
    """How the bores stand."""

    SINGLE = "single"
    INLINE = "inline"
    VEE = "vee"
    FLAT = "flat"


class Bottom(StrEnum):
    """What the bottom of a cylinder is like."""

    OPEN = "open"
    BLIND = "blind"


class WallKind(StrEnum):
    """What the wall is: of the block, or of its own."""

    CAST = "cast in one"
    DRY_SLEEVE = "dry sleeve"
    WET_SLEEVE = "flanged wet sleeve"
    LINER = "cast-in iron liner"
    PLATED = "plated"


class Numbering(StrEnum):
    """How the cylinders of two banks are counted, from the front."""

    NOT_SAID = "not said"  # taken as down each bank
    BY_BANK = "by bank"  # the first bank front to back, then the second
    ACROSS = "across"  # in turn: the odd ones on the first bank, the even ones on the second


MATERIALS = {
    "grey_iron": "grey iron",
    "compacted_iron": "compacted iron",
    "ductile_iron": "ductile iron",
    "steel": "steel",
    "aluminium_hypo": "aluminium",
    "aluminium_hyper": "high-silicon aluminium",
    "iron_in_aluminium": "iron sleeve in aluminium",
}


@frozen
class BlockSpec:
    """What is known of a block. Lengths in mm; None means not known, never nought."""

    layout: Layout
    cylinders: int
    bore_mm: float
    stroke_mm: float
    length_mm: float
    material: str = "grey_iron"
    pitch_mm: float | None = None
    wall: WallKind = WallKind.CAST
    bottom: Bottom = Bottom.OPEN
    room_below_mm: float | None = None
    band_mm: float | None = None  # depth down to which the wall is hardened
    ring_top_mm: float | None = None  # depth of the top ring at the top of its travel
    ring_pack_mm: float | None = None  # top ring to lowest ring
    bank_angle_deg: float = 90.0  # vee only
    fasteners: int = 4  # head fasteners round each bore; four and six are shared with its neighbours
    numbering: Numbering = Numbering.NOT_SAID  # of two banks

    @property
    def two_banks(self) -> bool:
        """Whether the bores stand in two banks."""
        return self.layout in (Layout.VEE, Layout.FLAT)


@frozen
class BorePosition:
    """Cylinder ``number`` (from 1) on ``bank`` (0 or 1), centre in mm on that bank's own deck."""

    number: int
    bank: int
    along_mm: float
    across_mm: float


@frozen
class FastenerPosition:
    """A head fastener on ``bank``; mm on that bank's deck."""

    bank: int
    along_mm: float
    across_mm: float


@frozen
class RingTravel:
    """The stretch of wall that rings rub, as depths in mm from the deck."""

    top_mm: float
    bottom_mm: float
    top_stated: bool  # False where a starting point stands in for the measured stop of the top ring
    pack_stated: bool = True  # the same of how far the lowest ring is from it

    @property
    def stated(self) -> bool:
        """Neither end rests on a starting point."""
        return self.top_stated and self.pack_stated

    @property
    def length_mm(self) -> float:
        """Length of the travel, mm."""
        return self.bottom_mm - self.top_mm


CALLED = {  # as the card names them, inside a sentence
    "bore_mm": "nominal bore", "stroke_mm": "stroke", "length_mm": "cylinder length", "band_mm": "hardened down to",
    "ring_top_mm": "top ring stops at", "ring_pack_mm": "ring pack",
}  # fmt: skip


def faults_of(spec: BlockSpec, units: Units = Units.METRIC) -> list[Fault]:
    """Everything wrong with a block, each with the field's name; empty when it can be used. units: in which lengths are told."""
    found = []
    for name in ("bore_mm", "stroke_mm", "length_mm"):
        value = getattr(spec, name)
        if not 5.0 <= value <= 2000.0:
            found.append(Fault(name, f"{CALLED[name]}: {_told(value, units)} is no cylinder's; check the unit"))
    if spec.material not in MATERIALS:
        found.append(Fault("material", f"“{spec.material}” is not a material known here: {', '.join(MATERIALS)}"))
    found += _count_faults(spec, units) + _depth_faults(spec, units)
    return found


def _told(mm: float, units: Units) -> str:
    return with_unit(mm, units) if math.isfinite(mm) else "nothing"


def _count_faults(spec: BlockSpec, units: Units) -> list[Fault]:
    found = []
    if not 1 <= spec.cylinders <= 24:
        found.append(Fault("cylinders", f"{spec.cylinders} cylinders; 1 to 24 can be worked"))
    if spec.layout is Layout.SINGLE and spec.cylinders != 1:
        found.append(Fault("cylinders", "a single has one cylinder; choose inline, vee or flat for more"))
    if spec.layout in (Layout.VEE, Layout.FLAT) and spec.cylinders % 2:
        found.append(Fault("cylinders", f"a {spec.layout} block has an even count; {spec.cylinders} is odd"))
    if spec.layout is Layout.INLINE and spec.cylinders < 2:
        found.append(Fault("cylinders", "an inline block has two or more; choose single for one"))
    if spec.pitch_mm is not None and spec.pitch_mm <= spec.bore_mm:
        found.append(Fault("pitch_mm", f"bore pitch: {_told(spec.pitch_mm, units)} is not more than the bore itself"))
    if not 3 <= spec.fasteners <= 12:
        found.append(
            Fault("fasteners", f"{spec.fasteners} fasteners round a bore; 3 to 12 can be drawn and put in order")
        )
    if spec.layout is Layout.VEE and not 5.0 <= spec.bank_angle_deg <= 175.0:
        found.append(Fault("bank_angle_deg", "the bank angle of a vee lies between 5 and 175 degrees"))
    return found


def _depth_faults(spec: BlockSpec, units: Units) -> list[Fault]:
    found = []
    if spec.stroke_mm >= spec.length_mm:
        found.append(Fault("stroke_mm", "the stroke is not shorter than the cylinder; have they changed places?"))
    for name in ("band_mm", "ring_top_mm", "ring_pack_mm"):
        value = getattr(spec, name)
        if value is not None and not 0.0 <= value < spec.length_mm:
            found.append(Fault(name, f"{CALLED[name]}: {_told(value, units)} does not lie in the cylinder"))
    if spec.room_below_mm is not None and spec.room_below_mm < 0:
        found.append(Fault("room_below_mm", "room below cannot be under nought"))
    return found


def checked(spec: BlockSpec) -> BlockSpec:
    """``spec`` itself when it can be used. Raises FaultyInput with every fault at once."""
    if found := faults_of(spec):
        raise FaultyInput(found)
    return spec


def length_guess(stroke_mm: float) -> float:
    """Length of a cylinder, mm, for drawing until somebody measures it: 1.6 strokes (never used for a reading or a cut)."""
    return 1.6 * stroke_mm


def pitch_of(spec: BlockSpec) -> float:
    """Bore pitch in mm for drawing: as stated, else a guess of 1.18 bores (never used for a cut)."""
    return spec.pitch_mm if spec.pitch_mm is not None else 1.18 * spec.bore_mm


@lru_cache(maxsize=64)
def bore_positions(spec: BlockSpec) -> tuple[BorePosition, ...]:
    """Where the bores lie, by number, in mm: counted front to back, the first bank before the second, or across the banks in turn.

    >>> vee = BlockSpec(Layout.VEE, 4, 80.0, 80.0, 130.0, numbering=Numbering.ACROSS)
    >>> [(b.number, b.bank, round(b.along_mm, 1)) for b in bore_positions(vee)]
    [(1, 0, 0.0), (2, 1, 0.0), (3, 0, 94.4), (4, 1, 94.4)]
    """
    banks = 2 if spec.two_banks else 1
    per_bank, pitch = spec.cylinders // banks, pitch_of(spec)
    across = banks == 2 and spec.numbering is Numbering.ACROSS
    found = [
        BorePosition(banks * i + bank + 1 if across else bank * per_bank + i + 1, bank, i * pitch, 0.0)
        for bank in range(banks)
        for i in range(per_bank)
    ]
    return tuple(sorted(found, key=lambda b: b.number))


@lru_cache(maxsize=64)
def fastener_positions(spec: BlockSpec) -> tuple[FastenerPosition, ...]:
    """Head fasteners in mm.

    Pairs at each end of a bank and between neighbours, half a pitch out; with six round each bore, a pair beside
    each bore as well; of any other count each bore has its own circle, from the front on clockwise. The usual pattern, not measured:
    numbered down each bank, left then right.
    """
    if spec.fasteners not in (4, 6):
        return _circles(spec)
    pitch, found = pitch_of(spec), []
    for bank in sorted({b.bank for b in bore_positions(spec)}):
        count = sum(b.bank == bank for b in bore_positions(spec))
        rows = [((i - 0.5) * pitch, 0.56 * spec.bore_mm) for i in range(count + 1)]
        if spec.fasteners == 6:
            rows += [(i * pitch, 0.72 * spec.bore_mm) for i in range(count)]
        found += [FastenerPosition(bank, along, side * out) for along, out in sorted(rows) for side in (-1.0, 1.0)]
    return tuple(found)


def _circles(spec: BlockSpec) -> tuple[FastenerPosition, ...]:
    """So many round each bore, evenly on a circle."""
    out, turn = 0.72 * spec.bore_mm, 2.0 * math.pi / spec.fasteners
    return tuple(
        FastenerPosition(b.bank, b.along_mm - out * math.cos(i * turn), b.across_mm + out * math.sin(i * turn))
        for b in bore_positions(spec)
        for i in range(spec.fasteners)
    )


def ring_travel(spec: BlockSpec, usual_top_mm: float, usual_pack_mm: float) -> RingTravel:
    """The rubbed stretch: from the top ring at its highest to the lowest ring a stroke further down, in mm.

    usual_*: starting points used where the block's own figures are not known (then ``top_stated``, ``pack_stated`` say so).
    """
    top = spec.ring_top_mm if spec.ring_top_mm is not None else min(usual_top_mm, 0.12 * spec.length_mm)
    pack = spec.ring_pack_mm if spec.ring_pack_mm is not None else usual_pack_mm
    bottom = min(top + spec.stroke_mm + pack, spec.length_mm)
    return RingTravel(top, bottom, spec.ring_top_mm is not None, spec.ring_pack_mm is not None)


def room_below(spec: BlockSpec) -> float | None:
    """How far a stone may run out at the bottom, mm; nought for a blind bottom unless stated; None = not known."""
    if spec.room_below_mm is not None:
        return spec.room_below_mm
    return 0.0 if spec.bottom is Bottom.BLIND else None


def bank_of(spec: BlockSpec, number: int) -> int:
    """The bank that a cylinder (from 1) stands in, 0 or 1."""
    return next(bore.bank for bore in bore_positions(spec) if bore.number == number)
