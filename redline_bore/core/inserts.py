"""The inch pattern of indexable inserts: letters and digits into a geometry (methods 8). Lengths in mm, angles in degrees."""

from __future__ import annotations

import re
from enum import Enum, auto

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.lengths import MM_PER_INCH as EXACT

SHAPES = {
    "T": ("triangle", 60), "S": ("square", 90), "C": ("diamond", 80), "D": ("diamond", 55), "V": ("diamond", 35),
    "W": ("trigon", 80), "R": ("round", 0), "E": ("diamond", 75), "M": ("diamond", 86), "H": ("hexagon", 120),
    "O": ("octagon", 135), "P": ("pentagon", 108),
}  # fmt: skip
RELIEFS = {"N": 0, "A": 3, "B": 5, "C": 7, "P": 11, "D": 15, "E": 20, "F": 25, "G": 30}
EDGES = {"triangle": 3, "square": 4, "diamond": 2, "trigon": 3, "hexagon": 6, "octagon": 8, "pentagon": 5, "round": 1}
MM_PER_INCH = float(EXACT)
_CODE = re.compile(
    r"(?P<shape>[A-Z])(?P<relief>[A-Z])(?P<tolerance>[A-Z])(?P<style>[A-Z])?[ -]*"
    r"(?P<circle>\d(?:\.5)?)(?P<thick>\d(?:\.5)?)(?P<radius>\d(?:\.5)?)"
)
_METRIC = re.compile(r"[A-Z]{3,4}[ -]*\d{6}[A-Z]*")


@frozen(often=True)
class Insert:
    """An insert's geometry. ``corner_deg`` 0: round. ``edges`` counts both faces of a negative one."""

    shape: str
    corner_deg: int
    relief_deg: int
    inscribed_mm: float
    thickness_mm: float
    nose_radius_mm: float

    @property
    def rake(self) -> str:
        """An insert without relief of its own is held leaning, at a negative rake, and can be turned over."""
        return "negative" if self.relief_deg == 0 else "positive"

    @property
    def edges(self) -> int:
        """Edges to turn to."""
        return EDGES[self.shape] * (2 if self.rake == "negative" else 1)


def insert_from_code(text: str) -> Insert:
    """The geometry an inch code says.

    Raises InputError; six bare digits are the metric pattern and are refused, since read as inch they would be
    another insert: its figures are typed by hand.
    """
    code = text.strip().upper()
    if _METRIC.fullmatch(code):
        raise InputError(f"{text.strip()} is a code of the metric pattern: type its nose radius and size by hand")
    found = _CODE.fullmatch(code)
    if found is None:
        raise InputError(f"“{text.strip()}” is no insert of the inch pattern, like TPG 321")
    if found["shape"] not in SHAPES:
        raise InputError(f"{found['shape']} is no shape of insert that is known here")
    if found["relief"] not in RELIEFS:
        raise InputError(f"{found['relief']} is no relief angle that is known here")
    radius = float(found["radius"]) / 64.0 * MM_PER_INCH
    if radius == 0.0:
        raise InputError("A nose radius of 0 is a sharp point: measure it and type it by hand")
    name, corner = SHAPES[found["shape"]]
    return Insert(
        name, corner, RELIEFS[found["relief"]], float(found["circle"]) / 8.0 * MM_PER_INCH,
        float(found["thick"]) / 16.0 * MM_PER_INCH, radius,
    )  # fmt: skip


class InsertUse(Enum):
    """What an insert is put to."""

    THROUGH = auto()
    BLIND = auto()
    SEAT = auto()  # a sleeve's
    OFFSET = auto()  # cutting off centre


class HowFar(Enum):
    """How far an insert suits a use."""

    YES = auto()
    CARE = auto()
    NO = auto()


class SuitsWhy(Enum):
    """Why it does, or does not."""

    MANY_EDGES = auto()
    FINE_MARKS = auto()
    STRONG_CORNER = auto()
    PUSHES_AWAY = auto()
    SMALL_CORNER = auto()
    LEAVES_ITS_RADIUS = auto()
    LIGHT_AND_SQUARE = auto()
    STANDS_ON_RADIUS = auto()
    PUSHES_ASIDE = auto()
    CHIPS = auto()
    STRONG_ON_AND_OFF = auto()


@frozen(often=True)
class Suits:
    """How far an insert suits a use, and why."""

    use: InsertUse
    how_far: HowFar
    why: SuitsWhy


def suitability(nose_radius_mm: float, rake: str, large_nose_mm: float) -> tuple[Suits, ...]:
    """What an insert is fit for: through holes, blind flat bottoms, sleeve seats, cutting off centre. Source: job.md."""
    if not nose_radius_mm > 0.0:
        raise InputError("The nose radius has to be more than nought")
    use, how_far, why = InsertUse, HowFar, SuitsWhy
    if rake != "positive":
        return (
            Suits(use.THROUGH, how_far.YES, why.MANY_EDGES),
            Suits(use.BLIND, how_far.NO, why.PUSHES_AWAY),
            Suits(use.SEAT, how_far.NO, why.PUSHES_AWAY),
            Suits(use.OFFSET, how_far.CARE, why.PUSHES_ASIDE),
        )
    if nose_radius_mm < large_nose_mm:
        return (
            Suits(use.THROUGH, how_far.YES, why.FINE_MARKS),
            Suits(use.BLIND, how_far.YES, why.SMALL_CORNER),
            Suits(use.SEAT, how_far.YES, why.LIGHT_AND_SQUARE),
            Suits(use.OFFSET, how_far.CARE, why.CHIPS),
        )
    return (
        Suits(use.THROUGH, how_far.YES, why.STRONG_CORNER),
        Suits(use.BLIND, how_far.NO, why.LEAVES_ITS_RADIUS),
        Suits(use.SEAT, how_far.NO, why.STANDS_ON_RADIUS),
        Suits(use.OFFSET, how_far.YES, why.STRONG_ON_AND_OFF),
    )
