"""The inch pattern of indexable inserts: letters and digits into a geometry (methods 8). Lengths in mm, angles in degrees."""

from __future__ import annotations

import re
from dataclasses import dataclass

from redline_bore.core.errors import InputError
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


@dataclass(frozen=True)
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


USES = ("through", "blind", "seat", "offset")


@dataclass(frozen=True)
class Suits:
    """How far an insert suits a use: "yes", "care" (with care) or "no", and why."""

    use: str
    word: str
    reason: str


def suitability(nose_radius_mm: float, rake: str, large_nose_mm: float) -> tuple[Suits, ...]:
    """What an insert is fit for: through holes, blind flat bottoms, sleeve seats, cutting off centre. Source: job.md."""
    if not nose_radius_mm > 0.0:
        raise InputError("The nose radius has to be more than nought")
    small, positive = nose_radius_mm < large_nose_mm, rake == "positive"
    if not positive:
        corner = "it pushes the bar away, and leaves its radius"
        return (
            Suits("through", "yes", "many edges, the fastest to run out"),
            Suits("blind", "no", corner),
            Suits("seat", "no", corner),
            Suits("offset", "care", "it pushes hard to one side"),
        )
    if small:
        return (
            Suits("through", "yes", "fine marks; slow in a deep cut"),
            Suits("blind", "yes", "its small corner nears a flat bottom"),
            Suits("seat", "yes", "light pressure, and it squares the step"),
            Suits("offset", "care", "chips where the cut comes and goes"),
        )
    return (
        Suits("through", "yes", "a strong corner that carries more feed"),
        Suits("blind", "no", "its corner leaves its radius at the bottom"),
        Suits("seat", "no", "the sleeve would stand on its radius"),
        Suits("offset", "yes", "strong where the cut comes and goes"),
    )
