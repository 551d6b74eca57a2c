"""A tag: one line that may be typed, as blanks to be filled in by hand. It knows no toolkit.

It begins with what stands. What is filled in makes the very line that would be typed, and that line is read as a typed one is: the two
cannot come to different entries.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from redline_bore.core.errors import BenchError, FormError
from redline_bore.core.frozen import declared, frozen, is_frozen, replace
from redline_bore.core.lengths import Units, parse_length
from redline_bore.core.show import Show, capital
from redline_bore.core.told import Of, Told, Unit, told_of
from redline_bore.job.kinds.entry import Entry, Record
from redline_bore.job.kinds.forms import Blank, Form, Lit, Maybe, Pick, blanks_of, composed, parsed, read_back
from redline_bore.job.kinds.kind import ANY_STEP, KINDS, Kind, entry_words, wrongs
from redline_bore.job.kinds.phrase import At, Phrase
from redline_bore.job.words.doubtful import asked_of

NO_END = 1e5  # a range that ends there ends nowhere
STATED = (
    "_stated",
    "_set",
    "_chosen",
    "_wanted",
    "_cold",
    "own_honing",
    "block_temperature",
)  # what stands until another is said
EVENTS = ("micrometer_set",)
LENGTHS = (Unit.LENGTH, Unit.DEPTH, Unit.SIZE)


@frozen(often=True)
class Row:
    """A line of a tag. sort: figure, words, switch, or choice. ways: of a choice, as they are said; under: the choice and the way of it
    that this row belongs to; picks: words there are for it; start: what it begins with; example: how it is written; was: what stands, and is
    struck by another; unit, room: what it is counted in, and what may be written.
    """

    key: str
    label: str
    sort: str
    optional: bool
    many: bool = False
    ways: tuple[str, ...] = ()
    under: tuple[tuple[str, int], ...] = ()
    picks: tuple[str, ...] = ()
    start: str = ""
    example: str = ""
    was: str = ""
    unit: str = ""
    room: str = ""
    ends: tuple[float | None, float | None] = (None, None)  # as it is written; None: no end
    why: str = ""  # what lies outside is refused for
    meets: bool = False  # there tool and block would meet: nobody books that by hand, whatever the reason


@frozen(often=True)
class Named:
    """A field of the entry that a blank fills: the way to it, and what is declared of it."""

    path: tuple[str, ...]
    told: Told

    def written_in(self, entry: Entry, show: Show) -> str:
        """What an entry has there, as it would be written; empty where it has nothing."""
        value: Any = entry
        for name in self.path:
            value = getattr(value, name, None)
        return "" if value is None or value == () or value == "" else _written(value, self.told, show)


@frozen(often=True)
class Said:
    """What a filled tag would book, or why nothing: the line as typed, the words, and whether it can be booked. doubt: what speaks against
    it, that is asked once. taken: by its key, what a blank that was left empty would be booked as."""

    line: str
    words: str
    can: bool
    doubt: str = ""
    entries: tuple[Entry, ...] = ()
    taken: tuple[tuple[str, str], ...] = ()


ALIKE = ("passes_stated", "cut_noted", "spindle_set", "compensation_read")  # what may be the same in every hole


@frozen(often=True)
class Tag:
    """A tag on ``phrase`` of ``kind``. was: what was booked of it last, who by and when; empty where nothing was."""

    kind: Kind
    phrase: Phrase
    step: str
    title: str
    rows: tuple[Row, ...]
    was: str
    form: Form
    named: tuple[tuple[str, Named], ...] = ()  # which field of the entry a blank fills, where that is known

    def start(self) -> dict[str, str]:
        """What it begins with."""
        return {row.key: row.start for row in self.rows if row.start}

    def line(self, filled: Mapping[str, str]) -> str:
        """The line that would be typed. Raises FormError naming a blank that is not filled."""
        return composed(self.form, filled)

    def shown(self, filled: Mapping[str, str]) -> tuple[Row, ...]:
        """The rows that are open: not those of a way that was not chosen."""
        return tuple(r for r in self.rows if all(int(filled.get(key) or 0) == way for key, way in r.under))

    def said(self, filled: Mapping[str, str], at: At) -> Said:
        """What it would book as it is filled now."""
        try:
            line = self.line(filled)
        except FormError as error:
            return Said("", f"{error}", False)
        try:
            entries = self.phrase.read(line, at)
        except BenchError as error:
            return Said(line, f"{error}", False)
        faults = [w.reason for e in entries for w in wrongs(e, at.state.block, at.show)]
        faults += [f"{row.why}: {row.room}" for row in self.rows if row.meets and _beyond(row, filled.get(row.key, ""))]
        if faults:
            return Said(line, faults[0], False)
        return Said(
            line,
            "; ".join(entry_words(e, at.show) for e in entries),
            True,
            asked_of(at.state, entries, at.show),
            tuple(entries),
            self._taken(filled, entries, at.show),
        )

    def _taken(self, filled: Mapping[str, str], entries: Sequence[Entry], show: Show) -> tuple[tuple[str, str], ...]:
        """What stands in the entry where nothing was said: the starting point, or what stood before; nought is nothing."""
        entry = next((e for e in entries if type(e) is self.kind.entry), None)
        empty = {r.key for r in self.shown(filled) if r.optional and not filled.get(r.key)}
        return tuple(
            (key, said)
            for key, named in self.named
            if key in empty and entry is not None and (said := named.written_in(entry, show)).strip("0.,")
        )

    def for_all(self, at: At) -> bool:
        """Whether it may be booked for every cylinder at once."""
        return self.kind.name in ALIKE and at.state.block.cylinders > 1


def _beyond(row: Row, text: str) -> bool:
    """Whether a figure lies over the end of its row."""
    try:
        return row.ends[1] is not None and float(text.replace(",", ".")) > row.ends[1] + 1e-6
    except ValueError:
        return False


def phrases_of(step: str) -> Iterator[tuple[Kind, Phrase]]:
    """Every line that a step takes, with its kind: its own first, then those of every step."""
    found = [(k, p) for k in KINDS.values() for p in k.phrases if step in p.steps]
    yield from sorted(found, key=lambda f: f[0].step == ANY_STEP)


def tag_for(kind: Kind, phrase: Phrase, step: str, at: At, records: Sequence[Record], struck: frozenset[int]) -> Tag:
    """The tag of a line, begun with what was booked of it last (of this cylinder, where it is of one)."""
    form, example = parsed(phrase.form), _example(phrase, at)
    last = _last(kind, at, records, struck)
    entry = next((e for e in example[1] if type(e) is kind.entry), None)
    told = _told_by_key(form, example[0], entry, at.where.units)
    told |= _told_by_trying(phrase, form, example[0], entry, at, told)
    same_way = last is not None and entry is not None
    was = _was(form, told, last.entry if same_way and last is not None else None, at.show)
    picks = phrase.picks(at)
    stands = kind.name.endswith(STATED) and kind.name not in EVENTS
    rows = tuple(
        _held(kind, r if stands else replace(r, start=""), told, at)
        for r in _rows(form, (), False, example[0], told, was, picks, at)
    )
    by = (
        ""
        if last is None
        else f"{entry_words(last.entry, at.show)} · {last.person or 'nobody named'}, entry {last.seq}"
    )
    return Tag(kind, phrase, step, _title(phrase), rows, by, form, tuple(told.items()))


def _held(kind: Kind, row: Row, told: Mapping[str, Named], at: At) -> Row:
    """A row with the end that this block and tool give it, where they would meet."""
    named = told.get(row.key)
    meets = None if named is None else MEETS.get((kind.name, named.path[-1]))
    if meets is None:
        return row
    most, why = meets(at)
    if most is None:
        return row
    return replace(
        row, meets=True, ends=(0.0, most / float(at.show.units.mm)), why=why, room=f"0 to {at.show.rough(most)}"
    )


def _title(phrase: Phrase) -> str:
    """What a line is for, as the head of its tag."""
    told = phrase.help.split(";")[0].split(":")[0].strip()
    return capital(told)


def _example(phrase: Phrase, at: At) -> tuple[dict[str, str], tuple[Entry, ...]]:
    text = phrase.example(at)
    filled = read_back(parsed(phrase.form), text) or {}
    try:
        return filled, phrase.read(text, at)
    except BenchError:  # nothing to say of it here yet: the form stands alone
        return filled, ()


def _last(kind: Kind, at: At, records: Sequence[Record], struck: frozenset[int]) -> Record | None:
    here = at.where.cylinder
    counts = (r for r in reversed(records) if type(r.entry) is kind.entry and r.seq not in struck)
    return next((r for r in counts if getattr(r.entry, "cylinder", here) == here), None)


def _leaves(value: Any, path: tuple[str, ...] = ()) -> Iterator[tuple[Named, Any]]:
    """The fields of an entry, and of what it holds in parts, with their values."""
    for name, (default, _hint, _kw) in declared(type(value)).items():
        told, inner = told_of(default), getattr(value, name)
        if told is None:
            continue
        if told.unit is Unit.PARTS and is_frozen(inner) and not isinstance(inner, type):
            yield from _leaves(inner, (*path, name))
        else:
            yield Named((*path, name), told), inner


def _told_by_key(form: Form, filled: Mapping[str, str], entry: Entry | None, units: Units) -> dict[str, Named]:
    """Which field each blank fills, found by the figures of the example: where just one field holds what the blank says."""
    if entry is None:
        return {}
    leaves, found = list(_leaves(entry)), dict[str, Named]()
    for key, text in ((b.key, filled[b.key]) for b in blanks_of(form) if b.key in filled):
        fits = [named for named, value in leaves if _says(text, value, named.told, units)]
        if len(fits) == 1:
            found[key] = fits[0]
    taken = [n.path for n in found.values()]
    return {k: n for k, n in found.items() if taken.count(n.path) == 1}


TRIED = (1.01, 0.99, 1.1, 0.9)  # of a figure, to see which field of the entry follows it


def _told_by_trying(
    phrase: Phrase, form: Form, filled: Mapping[str, str], entry: Entry | None, at: At, known: Mapping[str, Named]
) -> dict[str, Named]:  # fmt: skip
    """Which field follows a blank where two of the example say the same: the blank is written a little otherwise, and what changed is it."""
    if entry is None:
        return {}
    before, found = list(_leaves(entry)), dict[str, Named]()
    for key in (b.key for b in blanks_of(form) if b.key in filled and b.key not in known):
        for share in TRIED:
            try:
                other = phrase.read(composed(form, {**filled, key: _otherwise(filled[key], share)}), at)
            except (BenchError, ValueError):
                continue
            after = next((list(_leaves(e)) for e in other if type(e) is type(entry)), before)
            moved = [named for (named, a), (_, b) in zip(before, after, strict=True) if a != b]
            if len(moved) == 1:
                found[key] = moved[0]
                break
    return {k: n for k, n in found.items() if n.path not in [m.path for m in known.values()]}


def _otherwise(text: str, share: float) -> str:
    """A figure written a little otherwise, to as many digits and one more. Raises ValueError where it is none."""
    digits = len(text.partition(".")[2]) + 1
    return f"{float(text) * share:.{digits}f}"


def _says(text: str, value: Any, told: Told, units: Units) -> bool:
    """Whether a text says a value."""
    if isinstance(value, bool) or value is None:
        return False
    if isinstance(value, str):
        return bool(value) and value.replace("_", " ").lower() == text.lower()
    words = text.split()
    row = value if isinstance(value, tuple) else (value,)
    if told.unit is Unit.TEMPERATURE:
        words = words[:1]
    if len(words) != len(row) or not all(isinstance(v, (int, float)) for v in row):
        return False
    return all(_is(word, float(v), told, units) for word, v in zip(words, row, strict=True))


def _is(word: str, value: float, told: Told, units: Units) -> bool:
    try:
        said = parse_length(word, units, least_mm=None).mm if told.unit in LENGTHS else float(word.replace("−", "-"))
    except (BenchError, ValueError):
        return False
    if told.unit is Unit.TEMPERATURE:
        return min(abs(said - value), abs((said - 32.0) / 1.8 - value)) < 0.006  # kept to a hundredth
    return abs(said - value) < 1e-6


def _was(form: Form, told: Mapping[str, Named], last: Entry | None, show: Show) -> dict[str, str]:
    """What stands, as it would be written, by the key of its blank."""
    if last is None:
        return {}
    found = {key: said for key, named in told.items() if (said := named.written_in(last, show))}
    return found | _was_picked(form, last)


def _was_picked(form: Form, last: Entry) -> dict[str, str]:
    """Which way a choice of plain words stands, where a field of the entry holds just one of them."""
    words = {v.replace("_", " ").lower() for _, v in _leaves(last) if isinstance(v, str)}
    found = {}
    for part in form:
        if isinstance(part, Pick):
            named = [i for i, way in enumerate(part.ways) if _plain(way).lower() in words]
            if len(named) == 1:
                found[part.key] = str(named[0])
    return found


def _written(value: Any, told: Told, show: Show) -> str:
    if isinstance(value, tuple):
        return " ".join(_written(v, told, show) for v in value)
    if isinstance(value, str):
        return value.replace("_", " ")
    if told.unit in LENGTHS:
        return show.target(value)
    if told.unit is Unit.TEMPERATURE:
        return f"{show.in_degrees(value):.1f} {show.degrees[-1]}"
    return f"{value:g}"


def _plain(way: Form) -> str:
    """A way of a choice, as it is said."""
    return " ".join(p.text if isinstance(p, Lit) else p.label for p in way if isinstance(p, (Lit, Blank)))


def _rows(
    form: Form, under: tuple[tuple[str, int], ...], optional: bool, example: Mapping[str, str], told: Mapping[str, Named],
    was: Mapping[str, str], picks: Mapping[str, tuple[str, ...]], at: At,
) -> Iterator[Row]:  # fmt: skip
    given, before = (example, told, was, picks, at), ""
    for part in form:
        if isinstance(part, Lit):
            before = part.text
        elif isinstance(part, Blank):
            yield _row(part, under, optional, *given)
        elif isinstance(part, Maybe):
            inner = tuple(_rows(part.parts, under, True, *given))
            if inner:
                yield from inner
            else:
                yield Row(part.key, _plain(part.parts).removesuffix(" yes"), "switch", True, under=under)
        elif isinstance(part, Pick):
            ways = tuple(
                _plain(way) if any(isinstance(p, (Lit, Blank)) for p in way) and not _all_maybe(way) else "as follows"
                for way in part.ways
            )
            start = was.get(part.key, "")
            yield Row(
                part.key,
                before or "which",
                "choice",
                optional,
                ways=ways,
                under=under,
                start=start,
                was=ways[int(start)] if start else "",
            )
            for i, way in enumerate(part.ways):
                yield from _rows(way, (*under, (part.key, i)), optional, *given)


def _all_maybe(way: Form) -> bool:
    return bool(way) and all(isinstance(p, Maybe) for p in way)


def _row(
    part: Blank, under: tuple[tuple[str, int], ...], optional: bool, example: Mapping[str, str], told: Mapping[str, Named],
    was: Mapping[str, str], picks: Mapping[str, tuple[str, ...]], at: At,
) -> Row:  # fmt: skip
    named = told.get(part.key)
    label = part.label if named is None else named.told.name
    return Row(
        part.key, label or part.name.lower(), "words" if part.name in picks or (named is not None and named.told.unit is Unit.WORDS) else "figure",
        optional, part.many, under=under, picks=picks.get(part.name, ()), start=was.get(part.key, ""), example=example.get(part.key, ""),
        was=was.get(part.key, ""), unit="" if named is None else _unit(named.told, at.show), room="" if named is None else _room(named.told, at),
        ends=(None, None) if named is None else _written_ends(named.told, at), why="" if named is None else named.told.why,
    )  # fmt: skip


def _unit(told: Told, show: Show) -> str:
    if told.unit in LENGTHS:
        return show.units.mark
    plain = (Unit.CHOICE, Unit.WORDS, Unit.YES, Unit.COUNT, Unit.TEMPERATURE, Unit.PACKED, Unit.PARTS, Unit.TORQUE)
    return {Unit.CLOCK: "°", Unit.ANGLE: "°", Unit.CYLINDER: ""}.get(
        told.unit, "" if told.unit in plain else str(told.unit)
    )


def _written_ends(told: Told, at: At) -> tuple[float | None, float | None]:
    """The least and the most that may be written, as it is written there."""
    if told.unit is Unit.TEMPERATURE:
        low, high = (None if e is None else at.show.in_degrees(e) for e in _ends(told, at))
        return low, high
    scale = float(at.show.units.mm) if told.unit in LENGTHS else 1.0
    low, high = (None if e is None else e / scale for e in _ends(told, at))
    return low, high


def _ends(told: Told, at: At) -> list[float | None]:
    """The range that is declared, in the field's own unit; None: no end."""
    scale = {Of.ITSELF: 1.0, Of.BORE: at.state.block.bore_mm, Of.HOLE: at.state.block.length_mm}[told.of]
    least = told.above if told.least is None else told.least
    ends = [None if e is None else e * scale for e in (least, told.most)]
    if told.unit is Unit.DEPTH and ends[1] is None:
        ends[1] = at.state.block.length_mm
    return [None if e is None or abs(e) >= NO_END else e for e in ends]


def _below(at: At) -> tuple[float | None, str]:
    """How far a stone may run out below, mm, and what is there; None where nobody measured it."""
    from redline_bore.job.hone.set_up import room_for_stone  # the hone's tag alone asks it

    return room_for_stone(at.state), "the stone would strike what is below"


def _bells(at: At) -> tuple[float | None, str]:
    """How far a stone may run out at all, mm, before it bells the end."""
    from redline_bore.job.hone.set_up import stone_mm

    cap = at.state.figures.number("honing.overstroke_cap") * stone_mm(at.state)
    return cap, "so far out a stone bells the end, and may be thrown"


MEETS = {("hone_set", "over_bottom_mm"): _below, ("hone_set", "over_top_mm"): _bells}  # where tool and block would meet


def _room(told: Told, at: At) -> str:
    """What may be written, from the range that is declared."""
    ends = _ends(told, at)
    of = (
        at.show.rough
        if told.unit in LENGTHS
        else (lambda e: f"{at.show.in_degrees(e) if told.unit is Unit.TEMPERATURE else e:g}")
    )
    said = [None if e is None else of(e) for e in ends]
    if said[0] is not None and said[1] is not None:
        return f"{said[0]} to {said[1]}"
    return f"up to {said[1]}" if said[1] is not None else f"from {said[0]}" if said[0] is not None else ""
