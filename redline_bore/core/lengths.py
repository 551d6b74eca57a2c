"""Lengths as people write them (methods 1): thou, tenths, fractions, millimetres, microns, sums and oversizes.

Internally everything is millimetres. 1 in = 25.4 mm exactly; values are kept as exact fractions until they
are shown, and rounded half to even once, at display.
"""

from __future__ import annotations

import math
import re
from decimal import ROUND_HALF_EVEN, Decimal
from enum import StrEnum
from fractions import Fraction
from functools import lru_cache

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import late_pattern

MM_PER_INCH = Fraction("25.4")
_RANGES = {
    "bore": (Fraction(1, 2), Fraction(2)),  # a bore lies within these times the nominal
    "reading": (Fraction(4, 5), Fraction(5, 4)),  # a reading or a piston of this very job lies nearer
}
_LARGEST_MM = 10**6  # a kilometre: nothing typed here is longer, and a float holds it
_LONGEST_TEXT = 200
_GUESS_RANGE = Fraction(1, 4)  # the other unit system is guessed when it lands this near the nominal


class Units(StrEnum):
    """The unit system a job is worked in. Both are first class."""

    INCH = "inch"
    METRIC = "metric"

    @property
    def other(self) -> Units:
        """The other system."""
        return Units.METRIC if self is Units.INCH else Units.INCH

    @property
    def mark(self) -> str:
        """The unit as written behind a figure."""
        return "in" if self is Units.INCH else "mm"

    @property
    def mm(self) -> Fraction:
        """One unit of this system in millimetres."""
        return MM_PER_INCH if self is Units.INCH else Fraction(1)


_UNIT_MM: dict[str, Fraction] = {
    "mm": Fraction(1),
    "cm": Fraction(10),
    "um": Fraction(1, 1000),
    "micron": Fraction(1, 1000),
    "microns": Fraction(1, 1000),
    "in": MM_PER_INCH,
    "inch": MM_PER_INCH,
    "inches": MM_PER_INCH,
    '"': MM_PER_INCH,
    "thou": MM_PER_INCH / 1000,
    "thous": MM_PER_INCH / 1000,
    "tenth": MM_PER_INCH / 10000,
    "tenths": MM_PER_INCH / 10000,
}
_TERM = late_pattern(
    r"""\s*(?P<sign>[+-]?)\s*
    (?:(?P<whole>\d+)\s+(?P<num>\d+)/(?P<den>\d+) | (?P<num1>\d+)/(?P<den1>\d+)
       | (?P<number>\d+[.,]\d*|[.,]\d+|\d+))
    \s*(?P<unit>[a-z]+|")?\s*""",
    re.VERBOSE,
)
_AMBIGUOUS = late_pattern(r"(?<![\d.,])[1-9]\d{0,2},\d{3}(?![\d])")
_MIXED = late_pattern(r"(?<![\d.,/])(\d+)-(\d+/\d+)")  # 4-1/8 is four and an eighth, as it is written on cards
_OVERSIZE = late_pattern(r"\s*\+\s*(\d+)\s*")


class LengthError(InputError):
    """A length that was refused. ``guess`` names the unit system that was probably meant, or is None."""

    def __init__(self, message: str, guess: Units | None = None) -> None:
        super().__init__(message)
        self.guess = guess


@frozen
class Length:
    """A length with what was typed beside it. ``exact`` is in millimetres, without rounding."""

    exact: Fraction
    typed: str
    signed: bool = False  # written with a leading + or -: a distance from something, not a size

    @property
    def mm(self) -> float:
        """The length in millimetres as a float."""
        return float(self.exact)


def parse_length(
    text: str, units: Units, nominal_mm: float | None = None, kind: str = "length", least_mm: float | None = None
) -> Length:
    """Read a length as a person writes it.

    text: what was typed. units: the job's system, used for figures without a unit. nominal_mm: nominal bore in
    mm, needed for ``+30`` and for the check of ``kind="bore"``. kind: ``"bore"`` refuses sizes outside half to
    twice the nominal, ``"reading"`` outside 0.8 to 1.25 of it; ``"length"`` takes any. least_mm: refuse lengths that are not above this, in mm.
    Raises LengthError with the reason, and the guess where one can be made. Source: methods 1.

    >>> parse_length("4.060+.0015", Units.INCH).mm
    103.1621
    >>> parse_length("+30", Units.INCH, nominal_mm=101.6).mm
    102.362
    """
    if len(text) > _LONGEST_TEXT:
        raise LengthError(f"“{text.strip()[:24]}…” is too long to be one length")
    cleaned = _clean(text)
    if not cleaned:
        raise LengthError(
            "Nothing is typed; a length is wanted, such as " + ("4.0625" if units is Units.INCH else "92.25")
        )
    oversize = _OVERSIZE.fullmatch(cleaned)
    if oversize and nominal_mm is not None:
        step = MM_PER_INCH / 1000 if units is Units.INCH else Fraction(1, 100)
        return _bounded(Length(exact_mm(nominal_mm) + int(oversize[1]) * step, text, True), least_mm, units)
    value, bare = _sum_of_terms(cleaned, text, units)
    if kind in _RANGES and nominal_mm is not None:
        _check_bore(value, bare, text, units, exact_mm(nominal_mm), _RANGES[kind])
    return _bounded(Length(value, text, cleaned.lstrip()[0] in "+-"), least_mm, units)


def _clean(text: str) -> str:
    swaps = {"−": "-", "–": "-", "″": '"', "”": '"', "“": '"', "µ": "u", "μ": "u", "''": '"', "\u00a0": " "}
    for old, new in swaps.items():
        text = text.replace(old, new)
    return _MIXED.sub(r"\1 \2", text.strip().lower())


def _bounded(length: Length, least_mm: float | None, units: Units) -> Length:
    if abs(length.exact) > _LARGEST_MM:
        raise LengthError(
            f"“{length.typed.strip()[:24]}” is longer than anything in the shop: look at the point and at the unit"
        )
    if least_mm is not None and length.exact <= exact_mm(least_mm):
        raise LengthError(
            f"“{length.typed.strip()}” is {format_length(length.mm, units)} {units.mark}; it must be more than {format_length(least_mm, units)}"
        )
    return length


def _sum_of_terms(cleaned: str, typed: str, units: Units) -> tuple[Fraction, bool]:
    """The value in mm, and whether no unit was written at all."""
    if found := _AMBIGUOUS.search(cleaned):
        whole, part = found[0].split(",")
        raise LengthError(f"“{found[0]}” can be read two ways; write {whole}.{part} or {whole}{part}")
    total, at, bare = Fraction(0), 0, True
    while at < len(cleaned):
        term = _TERM.match(cleaned, at)
        if term is None or term.end() == at or (at > 0 and not term["sign"]):
            raise LengthError(
                f"“{typed.strip()}” is not a length; write it like 4.0625, 3 7/8, 92.25mm, 12 thou or +30"
            )
        value, unit_mm, named = _term_value(term, typed, units)
        bare = bare and not named
        total += -value * unit_mm if term["sign"] == "-" else value * unit_mm
        at = term.end()
    return total, bare


def _term_value(term: re.Match[str], typed: str, units: Units) -> tuple[Fraction, Fraction, bool]:
    """Number, its unit in mm, and whether the unit was stated (a fraction is inches in any job)."""
    name = term["unit"]
    if name is not None and name not in _UNIT_MM:
        raise LengthError(f"“{name}” in “{typed.strip()}” is not a unit known here; use mm, um, in, thou or tenths")
    if term["number"] is not None:
        number = Fraction(term["number"].replace(",", ".").strip(".") or "0")
        if term["number"].startswith((".", ",")):
            number = Fraction("0." + term["number"][1:])
        return number, _UNIT_MM[name] if name else units.mm, name is not None
    den = int(term["den"] or term["den1"])
    if den == 0:
        raise LengthError(f"“{typed.strip()}” divides by nought")
    number = int(term["whole"] or 0) + Fraction(int(term["num"] or term["num1"]), den)
    return number, _UNIT_MM[name] if name else MM_PER_INCH, True


def _check_bore(
    value: Fraction, bare: bool, typed: str, units: Units, nominal: Fraction, within: tuple[Fraction, Fraction]
) -> None:
    if within[0] * nominal <= value <= within[1] * nominal:
        return
    other = value / units.mm * units.other.mm
    shown = format_length(nominal, units)
    if bare and abs(other - nominal) <= _GUESS_RANGE * nominal:
        raise LengthError(
            f"“{typed.strip()}” cannot be {units.mark} with a bore of {shown}; "
            f"if {units.other.mark} were meant, write {typed.strip()}{units.other.mark}",
            units.other,
        )
    raise LengthError(f"“{typed.strip()}” is too far from the bore of {shown} {units.mark} to be its size")


def exact_mm(value: float | Fraction) -> Fraction:
    """The decimal figure that a float stands for, exactly; a fraction as it is. Raises LengthError for NaN."""
    if isinstance(value, Fraction):
        return value
    if value != value or value in (float("inf"), float("-inf")):
        raise LengthError("A figure is missing where a length is needed")
    return Fraction(repr(float(value)))


def default_step(units: Units) -> Fraction:
    """The last digit shown: 0.0001 in or 0.001 mm, in the job's units."""
    return Fraction(1, 10000) if units is Units.INCH else Fraction(1, 1000)


def format_length(
    value_mm: float | Fraction, units: Units, step: str | Fraction | None = None, signed: bool = False
) -> str:
    """Show a length in mm as a figure of ``units``, rounded half to even to ``step`` (in those units).

    signed: write a plus before positive figures. Returns digits without the unit. Raises LengthError for NaN.
    Source: methods 1, display.

    >>> format_length(92.2145, Units.METRIC)
    '92.214'
    >>> format_length(92.2145, Units.INCH)
    '3.6305'
    """
    grain, places = _grain(step if step is not None else default_step(units))
    count = (_decimal(value_mm) / _DECIMAL_UNIT[units] / grain).to_integral_value(ROUND_HALF_EVEN)
    sign = "−" if count < 0 else "+" if signed and count > 0 else ""
    return f"{sign}{abs(count) * grain:.{places}f}"


ARITHMETIC_DIGITS = 9  # of a millimetre: what lies below comes from the processor's arithmetic, and no gauge
_DECIMAL_UNIT = {Units.INCH: Decimal("25.4"), Units.METRIC: Decimal(1)}


def _decimal(value_mm: float | Fraction) -> Decimal:
    """The decimal figure a value stands for: any tie that a person can type is still a tie, and one that was worked out is a tie on every
    machine, whatever its last bit came to."""
    if isinstance(value_mm, Fraction):
        return Decimal(value_mm.numerator) / Decimal(value_mm.denominator)
    if not math.isfinite(value_mm):
        raise LengthError("A figure is missing where a length is needed")
    return Decimal(repr(round(float(value_mm), ARITHMETIC_DIGITS)))


@lru_cache(maxsize=32)
def _grain(step: str | Fraction) -> tuple[Decimal, int]:
    """A step as a decimal, and how many digits behind the point it needs."""
    grain = _decimal(Fraction(step))
    return grain, max(0, -int(grain.normalize().as_tuple().exponent))


def with_unit(
    value_mm: float | Fraction, units: Units, step: str | Fraction | None = None, signed: bool = False
) -> str:
    """As format_length, with the unit behind the figure."""
    return f"{format_length(value_mm, units, step, signed)} {units.mark}"
