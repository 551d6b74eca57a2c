"""Figures that ship as data: what someone may argue about, with unit and source beside each value.

The TOML files lie in ``core/defaults``; this module only turns their tables into typed, immutable figures.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from types import MappingProxyType
from typing import Any

from redline_bore.core.errors import Fault, FaultyInput, InputError
from redline_bore.core.frozen import frozen

MOST_COUNTED = {"levels": 20.0, "chords": 36.0, "strokes": 1000.0, "checks": 50.0, "traces": 50.0}
MOST_IN_A_ROW = 40
Value = float | str | tuple[float, ...]


@frozen(often=True)
class Figure:
    """One figure: ``key`` is topic.name, ``value`` a number, a word, or a row of numbers (a range or a list)."""

    key: str
    value: Value
    unit: str
    source: str
    note: str = ""
    own: bool = False  # the shop's own, not the shipped one


def figure_name(key: str) -> str:
    """A figure as the shop reads it in its list: "crosshatch: long haul"."""
    topic, name = key.split(".", 1)
    return f"{topic}: {name.replace('_', ' ')}".replace("_", " ")


def cited(*keys: str) -> str:
    """Shop figures as the source of something."""
    return f"shop figure{'s' if len(keys) > 1 else ''} “{'”, “'.join(figure_name(k) for k in keys)}”"


@frozen
class Figures:
    """An immutable set of figures by key."""

    by_key: Mapping[str, Figure]

    def __iter__(self) -> Iterator[Figure]:
        return iter(self.by_key.values())

    def figure(self, key: str) -> Figure:
        """The figure of ``key``. Raises InputError when there is none."""
        try:
            return self.by_key[key]
        except KeyError:
            raise InputError(f"There is no figure called {key}") from None

    def number(self, key: str) -> float:
        """A single number, in the figure's own unit. Raises InputError when it is a word or a row."""
        value = self.figure(key).value
        if isinstance(value, (str, tuple)):
            raise InputError(f"{key} is not a single number")
        return value

    def row(self, key: str) -> tuple[float, ...]:
        """A row of numbers (range or list), in the figure's own unit. Raises InputError when it is none."""
        value = self.figure(key).value
        if not isinstance(value, tuple):
            raise InputError(f"{key} is not a row of numbers")
        return value

    def word(self, key: str) -> str:
        """A word. Raises InputError when it is a number."""
        value = self.figure(key).value
        if not isinstance(value, str):
            raise InputError(f"{key} is not a word")
        return value

    def names(self, topic: str) -> tuple[str, ...]:
        """The names under a topic, in the order of the file."""
        begins = f"{topic}."
        return tuple(key.removeprefix(begins) for key in self.by_key if key.startswith(begins))

    def with_own(self, own: Mapping[str, Any]) -> Figures:
        """These figures with the shop's own values laid over. Raises FaultyInput naming every bad one."""
        merged, faults = dict(self.by_key), []
        for key, raw in own.items():
            try:
                old = self.figure(key)
                merged[key] = Figure(key, checked_value(old, raw), old.unit, "the shop's own", old.note, own=True)
            except InputError as error:
                faults.append(Fault(key, str(error)))
        if faults:
            raise FaultyInput(faults)
        return Figures(MappingProxyType(merged))

    def plain(self) -> dict[str, Any]:
        """Keys and values only, for keeping with a job."""
        return {f.key: list(f.value) if isinstance(f.value, tuple) else f.value for f in self}


@frozen
class Bounds:
    """What a shop's own figure may be, and why no more."""

    least: float
    most: float
    why: str


def bounds_of(figure: Figure) -> Bounds:
    """The range of a figure's numbers: a share is one, a count is worked through place by place, a temperature is one of a shop; of
    anything else a twentieth to twenty times the shipped figure."""
    row = figure.value if isinstance(figure.value, tuple) else (figure.value,)
    numbers = [float(v) for v in row if not isinstance(v, str)]
    least, most = min(numbers, default=0.0), max(numbers, default=0.0)
    if figure.unit == "C":
        return Bounds(-273.0, 1500.0, "no temperature that iron is worked at")
    if figure.unit == "money":
        return Bounds(0.0, 1e7, "no price of an hour or a part")
    if figure.unit == "share":
        return Bounds(0.0, 1.0, "a share lies between 0 and 1")
    if figure.unit == "%":
        return Bounds(0.0, 100.0, "a share of a hundred")
    if (count := MOST_COUNTED.get(figure.unit)) is not None:
        return Bounds(1.0, count, f"more {figure.unit} than anybody reads, and each is worked through")
    if figure.unit == "deg":
        return Bounds(-360.0, 360.0, "no angle on the clock")
    why = "a twentieth to twenty times the shipped figure: beyond it is another unit, not another opinion"
    low = 0.0 if least == 0.0 else least / 20.0 if least > 0.0 else 20.0 * least
    return Bounds(low, 20.0 * most if most > 0.0 else 0.0 if most == 0.0 else most / 20.0, why)


def _in_bounds(old: Figure, value: float) -> float:
    b = bounds_of(old)
    if not b.least - 1e-12 <= value <= b.most + 1e-12:
        raise InputError(f"{value:g} is not between {b.least:g} and {b.most:g}: {b.why}")
    return value


def checked_value(old: Figure, raw: Any) -> Value:
    """``raw`` as a value of the same shape as ``old``, inside its bounds. Raises InputError with what was wanted."""
    if isinstance(old.value, str):
        if isinstance(raw, str) and 0 < len(raw.strip()) <= 200:
            return raw.strip()
        raise InputError("a word is wanted here")
    if isinstance(old.value, tuple):
        row = raw if isinstance(raw, (list, tuple)) else None
        if row is None or not row or not all(_is_number(v) for v in row):
            raise InputError("a row of numbers is wanted here, such as 0.25 0.50")
        if len(old.value) == 2 and old.note == "range" and (len(row) != 2 or row[0] > row[1]):
            raise InputError("a range is wanted here: the low end, then the high end")
        if len(row) > MOST_IN_A_ROW:
            raise InputError(f"a row of {len(row)} numbers is no row of figures; {MOST_IN_A_ROW} at most")
        return tuple(_in_bounds(old, float(v)) for v in row)
    if not _is_number(raw):
        raise InputError("a number is wanted here")
    if old.value >= 0 > float(raw):
        raise InputError("this figure cannot be below nought")
    return _in_bounds(old, float(raw))


def _is_number(value: Any) -> bool:
    return isinstance(value, (int, float)) and not isinstance(value, bool) and abs(float(value)) < 1e9


def figures_from_tables(tables: Mapping[str, Mapping[str, Any]]) -> Figures:
    """Figures from parsed TOML: topic -> {source, name -> {value, unit, source?, note?}}.

    Raises InputError when a figure has no value, no unit or no source.
    """
    found: dict[str, Figure] = {}
    for topic, table in tables.items():
        for name, item in table.items():
            if name == "source":
                continue
            key, source = f"{topic}.{name}", item.get("source", table.get("source", ""))
            if "value" not in item or "unit" not in item or not source:
                raise InputError(f"{key} lacks its value, unit or source")
            raw = item["value"]
            value = raw if isinstance(raw, str) else tuple(map(float, raw)) if isinstance(raw, list) else float(raw)
            found[key] = Figure(key, value, item["unit"], source, item.get("note", ""))
    return Figures(MappingProxyType(found))
