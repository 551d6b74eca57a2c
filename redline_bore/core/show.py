"""Figures as they are said: lengths in the units being looked at, temperatures, small counts, cylinders in a row."""

from __future__ import annotations

from fractions import Fraction

from redline_bore.core.frozen import frozen
from redline_bore.core.lengths import Units, format_length


@frozen
class Show:
    """Writes lengths in the units being looked at."""

    units: Units

    @property
    def words(self) -> str:
        """The units as a word."""
        return "inches" if self.units is Units.INCH else "millimetres"

    def size(self, mm: float) -> str:
        """A size or distance to the last digit of the units: 0.001 mm or 0.0001 in, without the unit."""
        return format_length(mm, self.units)

    def between(self, low_mm: float, high_mm: float) -> str:
        """Two ends of a size, or one where both show alike."""
        low, high = self.size(low_mm), self.size(high_mm)
        return low if low == high else f"{low}–{high}"

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

    def fine(self, mm: float) -> str:
        """A digit more than size: for rates and gauge spread."""
        return format_length(mm, self.units, Fraction(1, 10000) if self.units is Units.METRIC else Fraction(1, 100000))

    def rate(self, mm: float) -> str:
        """Metal a stroke: 0.00001 mm or 0.000001 in."""
        return format_length(
            mm, self.units, Fraction(1, 100000) if self.units is Units.METRIC else Fraction(1, 1000000)
        )

    def unit(self, text: str) -> str:
        """A figure with its unit."""
        return f"{text} {self.units.mark}"


def celsius(value: float) -> str:
    """A temperature in whole degrees, with its unit."""
    return f"{value:.0f} °C".replace("-", "−")


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
