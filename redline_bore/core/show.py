"""Figures as they are said: lengths in the units being looked at, temperatures, small counts, cylinders in a row."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from redline_bore.core.frozen import frozen
from redline_bore.core.lengths import Units, format_length, parse_length
from redline_bore.core.thermal import REFERENCE_C


@frozen
class Show:
    """Writes figures in the units being looked at."""

    units: Units

    @property
    def words(self) -> str:
        """The units as a word."""
        return "inches" if self.units is Units.INCH else "millimetres"

    def size(self, mm: float) -> str:
        """A size or distance to the last digit of the units: 0.001 mm or 0.0001 in, without the unit."""
        return format_length(mm, self.units)

    def is_nought(self, mm: float) -> bool:
        """Whether a size is written as nought: then it is said in words, or to more digits."""
        return not self.size(mm).strip("−0.")

    def target(self, mm: float) -> str:
        """What was set as a target, to the last digit that it was set with: 0.00015 in stays that."""
        return self.size(mm) if abs(mm - parse_length(self.size(mm), self.units).mm) < 1e-6 else self.fine(mm)

    def between(self, low_mm: float, high_mm: float) -> str:
        """Two ends of a size, or one where both show alike."""
        low, high = self.size(low_mm), self.size(high_mm)
        return low if low == high else _ends(low, high)

    def away(self, mm: float) -> str:
        """A signed distance."""
        return format_length(mm, self.units, signed=True)

    def rough(self, mm: float) -> str:
        """To a hundredth of a millimetre or a thou."""
        return format_length(mm, self.units, Fraction(1, 100) if self.units is Units.METRIC else Fraction(1, 1000))

    def step(self, mm: float) -> str:
        """A signed oversize step as it is spoken: +0.50 or +0.020."""
        return format_length(
            mm, self.units, Fraction(1, 100) if self.units is Units.METRIC else Fraction(1, 1000), signed=True
        )

    def depth(self, mm: float) -> str:
        """A depth or length of a part: whole tenths of a mm, or thou."""
        return format_length(mm, self.units, Fraction(1, 10) if self.units is Units.METRIC else Fraction(1, 100))

    def down(self, mm: float) -> str:
        """A place in the hole: 24 mm down, or to a tenth where it is not a whole one."""
        whole = self.units is Units.METRIC and mm % 1 == 0
        figure = format_length(mm, self.units, Fraction(1)) if whole else self.depth(mm)
        return f"{figure} {self.units.mark} down"

    def downs(self, depths_mm: Sequence[float]) -> str:
        """Places in the hole in a row: 21, 84 and 182.5 mm down."""
        if len(depths_mm) < 2:
            return self.down(depths_mm[0]) if depths_mm else ""
        said = [self.down(d).split()[0] for d in depths_mm]
        return f"{', '.join(said[:-1])} and {said[-1]} {self.units.mark} down"

    def along(self, mm: float) -> str:
        """A length along a trace, as its standard has it: 0.8 mm, or in inches to a thou."""
        return f"{mm:g} mm" if self.units is Units.METRIC else self.unit(self.rough(mm))

    def fine(self, mm: float) -> str:
        """A digit more than size: for rates and gauge spread."""
        return format_length(mm, self.units, Fraction(1, 10000) if self.units is Units.METRIC else Fraction(1, 100000))

    def slight(self, mm: float) -> str:
        """A signed distance, to a digit more where it would be nought."""
        if not self.is_nought(mm):
            return self.away(mm)
        told = self.fine(abs(mm))
        return told if not told.strip("0.") else f"{'−' if mm < 0 else '+'}{told}"

    def doubt(self, mm: float) -> str:
        """An uncertainty as a size is written, and to a digit more, rounded up, where it would be nought: nothing is known for certain."""
        if not self.is_nought(mm):
            return self.size(mm)
        return self.fine(max(mm, 0.0001 if self.units is Units.METRIC else 0.000254))

    def rate(self, mm: float) -> str:
        """Metal a stroke: 0.00001 mm or 0.000001 in."""
        return format_length(
            mm, self.units, Fraction(1, 100000) if self.units is Units.METRIC else Fraction(1, 1000000)
        )

    def unit(self, text: str) -> str:
        """A figure with its unit."""
        return f"{text} {self.units.mark}"

    def speed(self, *m_per_min: float) -> str:
        """A surface speed, or its two ends: m/min or ft/min."""
        return self._as(m_per_min, (1.0, 0, "m/min"), (1.0 / 0.3048, 0, "ft/min"))

    def stress(self, *mpa: float, digits: int = 0) -> str:
        """A pressure or pull, or its two ends: MPa or psi, to ten psi."""
        return self._as(mpa, (1.0, digits, "MPa"), (145.0377, -1, "psi"))

    def force(self, *newton: float, digits: int = 0) -> str:
        """A force, or its two ends: kN or lbf, to ten lbf."""
        return self._as(newton, (0.001, digits, "kN"), (0.2248089, -1, "lbf"))

    def torque(self, *nm: float) -> str:
        """A torque: N m or lbf ft."""
        return self._as(nm, (1.0, 0, "N m"), (0.7375621, 0, "lbf ft"))

    def volume(self, *cm3: float) -> str:
        """A volume, or two: cm3 or in3."""
        return self._as(cm3, (1.0, 0, "cm³"), (1.0 / 16.387064, 1, "in³"))

    def heat(self, joule: float) -> str:
        """Work or heat: kJ or BTU."""
        return self._as((joule,), (0.001, 1, "kJ"), (1.0 / 1055.056, 2, "BTU"))

    def warm(self, *celsius: float, digits: int = 1) -> str:
        """A temperature, or its two ends where they show apart, to a tenth of a degree: °C or °F. celsius: C."""
        figures = dict.fromkeys(f"{round(self.in_degrees(c), digits) + 0.0:g}".replace("-", "−") for c in celsius)
        return f"{_ends(*figures)} {self.degrees}"

    def warmer(self, by_c: float) -> str:
        """A difference between two temperatures."""
        return self._as((by_c,), (1.0, 1, "°C"), (1.8, 1, "°F"))

    def growth(self, millionths: float) -> str:
        """How much a metal grows, by a degree; millionths: a degree C."""
        return f"{millionths if self.units is Units.METRIC else millionths / 1.8:.3g} millionths a degree"

    def warm_typed(self, celsius: float) -> str:
        """A temperature as it is typed, for an example: 20.4 C or 69 F."""
        return f"{celsius:g} C" if self.units is Units.METRIC else f"{self.in_degrees(celsius):.0f} F"

    def in_degrees(self, celsius: float) -> float:
        """A temperature in the degrees that are looked at."""
        return celsius if self.units is Units.METRIC else 1.8 * celsius + 32.0

    def in_celsius(self, degrees: float) -> float:
        """The other way: C."""
        return degrees if self.units is Units.METRIC else (degrees - 32.0) / 1.8

    @property
    def degrees(self) -> str:
        """The degrees that are looked at."""
        return "°C" if self.units is Units.METRIC else "°F"

    @property
    def reference(self) -> str:
        """The temperature at which sizes count (ISO 1)."""
        return self.warm(REFERENCE_C)

    def height(self, *um: float, digits: int = 1) -> str:
        """A height of texture, or its two ends: um or uin."""
        return self._as(um, (1.0, digits, "µm"), (1.0 / 0.0254, max(digits - 1, 0), "µin"))

    def _as(self, values: Sequence[float], metric: tuple[float, int, str], inch: tuple[float, int, str]) -> str:
        """Values times a factor, to so many digits, with a unit."""
        factor, digits, unit = inch if self.units is Units.INCH else metric
        told = [f"{round(v * factor, digits):.{max(digits, 0)}f}".replace("-", "−") for v in values]
        return f"{_ends(*told)} {unit}"


def _ends(*ends: str) -> str:
    """Two ends with a dash between them; where one is under nought, in a word: a dash before a minus is read as neither."""
    return (" to " if any(e.startswith("−") for e in ends[1:]) else "–").join(ends)


def capital(text: str) -> str:
    """A text as a sentence begins."""
    return f"{text[:1].upper()}{text[1:]}"


def count_word(count: int) -> str:
    """Small counts as words, as they are said."""
    words = ("none", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve")
    return words[count] if count < len(words) else str(count)


def cylinders(numbers: list[int]) -> str:
    """cylinder 4, or cylinders 1, 2 and 5."""
    return f"cylinder{'s' if len(numbers) > 1 else ''} {listed(numbers)}"


def every(count: int) -> str:
    """it, both, all five."""
    return "it" if count == 1 else "both" if count == 2 else f"all {count_word(count)}"


def listed(numbers: list[int]) -> str:
    """1, 2 and 5."""
    texts = [str(n) for n in numbers]
    return texts[0] if len(texts) == 1 else f"{', '.join(texts[:-1])} and {texts[-1]}" if texts else ""
