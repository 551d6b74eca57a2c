"""A kind of entry, declared once: what it holds, what it changes, how it is said and typed. A declaration that lacks something
fails when it is imported, never after a booking."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from functools import cached_property
from typing import Any, Generic, TypeVar

from redline_bore.core.block import BlockSpec
from redline_bore.core.frozen import declared, frozen
from redline_bore.core.show import Show
from redline_bore.core.told import Of, Told, Unit, told_of
from redline_bore.job.kinds.entry import Entry, Record
from redline_bore.job.kinds.folding import SLICES, Folding
from redline_bore.job.kinds.phrase import Phrase
from redline_bore.job.kinds.topics import Topic
from redline_bore.job.state.job_state import STEPS

S = TypeVar("S")
E = TypeVar("E", bound=Entry)
ANY_STEP = "any"
_CYLINDER, _DEPTH, _ITSELF = Unit.CYLINDER, Unit.DEPTH, Of.ITSELF  # asked of every figure of every booking


@frozen
class Into(Generic[S, E]):
    """A slice that a kind folds into, by its name in the state, and how: the slice before, the entry, the rest; the slice after.

    all: the same of many records of the kind that follow each other, at once; None: one by one."""

    slice: str
    fold: Callable[[S, E, Folding], S]
    all: Callable[[S, Sequence[Record], Folding], S] | None = None


@frozen
class Wrong:
    """Something in an entry that cannot be: the field, and the reason without its full stop."""

    field: str
    reason: str


@frozen
class Kind:
    """What is declared of a kind of entry.

    step: where it belongs; ``any`` for all. into: empty only with ``kept_only``, why the state does not change. phrases: empty only
    with ``not_typed``, how it comes about instead; by_file: the words behind which a file is named that holds it. strikes: whether it may be struck out. wrong: what cannot be between its
    figures. beside: whether what is kept beside the ledger, the job's line in the list and what others look for in it, may be another after it.
    sheet: title and words of a line on the shop's sheet, from the job as it stands; None: it has a place of its own there,
    or none.
    """

    name: str
    entry: type[Entry]
    topic: Topic
    step: str
    into: tuple[Into[Any, Any], ...]
    said: Callable[[Any, Show], str]
    phrases: tuple[Phrase, ...]
    fields: dict[str, Told]
    strikes: bool = True
    kept_only: str = ""
    not_typed: str = ""
    by_file: tuple[str, ...] = ()
    wrong: Callable[[Any], Iterable[Wrong]] = lambda _entry: ()
    sheet: tuple[str, Callable[[Any, Show], str]] | None = None
    beside: bool = True

    @cached_property
    def all_at_once(self) -> bool:
        """Whether records of it that follow each other are folded at once."""
        return bool(self.into) and all(i.all is not None for i in self.into)


KINDS: dict[str, Kind] = {}
_BY_ENTRY: dict[type, Kind] = {}


def declare(
    entry: type[E], topic: Topic, step: str, said: Callable[[E, Show], str], *, into: tuple[Into[Any, E], ...] = (),
    phrases: tuple[Phrase, ...] = (), strikes: bool = True, kept_only: str = "", not_typed: str = "", by_file: tuple[str, ...] = (),
    wrong: Callable[[E], Iterable[Wrong]] = lambda _entry: (), sheet: tuple[str, Callable[[Any, Show], str]] | None = None,
    beside: bool = True,
) -> Kind:  # fmt: skip
    """Declare a kind of entry. Raises TypeError, naming what is missing, where it is not wholly declared."""
    name = getattr(entry, "_frozen_usual", {}).get("kind", "")
    told_fields = {n: told_of(default) for n, (default, _hint, _kw) in declared(entry).items() if n != "kind"}
    lacking = [f"what “{field}” is called" for field, told in told_fields.items() if told is None]
    for missing, there in (
        ("a kind: Literal[...] = ...", bool(name)),
        ("a sentence saying what it is", bool((entry.__doc__ or "").strip()) and entry.__doc__ != entry.__name__),
        (f"its step, one of {', '.join(STEPS)} or {ANY_STEP}", step in (*STEPS, ANY_STEP)),
        ("its topic", isinstance(topic, Topic)),
        ("how it is said", callable(said)),
        ("a slice it folds into, or why none (kept_only)", bool(into) != bool(kept_only)),
        ("a line that types it, or how it comes about instead (not_typed)", bool(phrases) or bool(not_typed)),
        ("slices that the state has", all(i.slice in SLICES for i in into)),
        ("words, a form and a help of every line", all(p.form and p.help and p.steps for p in phrases)),
        ("a name of its own", name not in KINDS),
    ):
        if not there:
            lacking.append(missing)
    if lacking:
        raise TypeError(f"{entry.__name__} is not wholly declared; it lacks {'; '.join(lacking)}")
    fields = {field: told for field, told in told_fields.items() if told is not None}
    kind = Kind(
        name, entry, topic, step, into, said, phrases, fields, strikes, kept_only, not_typed, by_file, wrong, sheet, beside,
    )  # fmt: skip
    KINDS[name] = _BY_ENTRY[entry] = kind
    return kind


@frozen
class SheetLine:
    """A line on the shop's sheet that a kind declares: what it is about, and how it stands."""

    title: str
    text: str


def sheet_lines(state: Any, show: Show) -> tuple[SheetLine, ...]:
    """The lines that kinds declare for the shop's sheet, in the order they are declared; one with nothing to say is left out."""
    declared = ((k.sheet[0], k.sheet[1](state, show)) for k in KINDS.values() if k.sheet is not None)
    return tuple(SheetLine(title, text) for title, text in declared if text)


def kind_of(entry: Entry) -> Kind:
    """The declaration of an entry's kind."""
    return _BY_ENTRY[type(entry)]


def entry_words(entry: Entry, show: Show) -> str:
    """One line for one entry, as it would stand on a traveller card; lengths in the units being looked at."""
    return kind_of(entry).said(entry, show)


def wrongs(entry: Entry, block: BlockSpec | None, show: Show | None = None) -> list[Wrong]:
    """Everything in an entry that its kind does not allow; ``block`` None: not known yet, so what is counted in it is not held
    against it. show: writes lengths as the job does; None: as the ledger has them, mm."""
    kind = kind_of(entry)
    found = []
    for name, told in kind.fields.items():
        value = getattr(entry, name)
        if value is not None and (reason := _outside(told, value, block, show)):
            found.append(Wrong(name, reason))
    return found + (list(kind.wrong(entry)) if not found else [])


def _outside(told: Told, value: Any, block: BlockSpec | None, show: Show | None = None) -> str:
    if told.choices:
        return "" if value in told.choices else f"“{value}” is none of {', '.join(c for c in told.choices if c)}"
    if not isinstance(value, tuple):
        return _why(told, value, block, show) if _is_wrong(told, value, block) else ""
    row = _flat(value)
    if len(row) < told.many:
        return "holds no figure"
    wrong = [figure for figure in row if _is_wrong(told, figure, block)]
    if not wrong:
        return ""
    return _why(told, max(wrong) if told.unit in (_CYLINDER, _DEPTH) else wrong[0], block, show)


def _is_wrong(told: Told, figure: Any, block: BlockSpec | None) -> bool:
    """Whether a figure lies outside the block itself, a cylinder it has not, a depth below its hole, or beyond what its field allows; a word or a yes
    never does."""
    if not isinstance(figure, (int, float)) or isinstance(figure, bool):
        return False
    if block is not None and (
        (told.unit is _CYLINDER and figure > block.cylinders) or (told.unit is _DEPTH and figure > block.length_mm)
    ):
        return True
    if told.of is not _ITSELF:
        scale = _scale(told, block)
        if scale is None:
            return False
        figure /= scale
    return not (
        (told.least is None or figure >= told.least - 1e-12)
        and (told.most is None or figure <= told.most + 1e-12)
        and (told.above is None or figure > told.above)
    )


def _why(told: Told, figure: Any, block: BlockSpec | None, show: Show | None) -> str:
    if block is not None and told.unit is _CYLINDER and figure > block.cylinders:
        return f"is {figure}; the block has 1 to {block.cylinders}"
    return f"{_written(figure, told, show)} is {told.why}"


def _written(figure: float, told: Told, show: Show | None) -> str:
    """A figure as the job writes it."""
    if show is None or told.unit not in (Unit.LENGTH, Unit.DEPTH, Unit.TEMPERATURE):
        return f"{figure:g}"
    if told.unit is Unit.TEMPERATURE:
        return show.warm(figure)
    return show.unit(show.rough(figure) if told.unit is Unit.DEPTH else show.size(figure))


def _flat(value: Any) -> list[Any]:
    """A value as a row of figures, rows within rows laid out."""
    return [v for part in value for v in _flat(part)] if isinstance(value, tuple) else [value]


def _scale(told: Told, block: BlockSpec | None) -> float | None:
    """What a figure that is counted in the block is a part of; None where that is not known."""
    if block is None:
        return None
    scale = block.bore_mm if told.of is Of.BORE else block.length_mm
    return scale if scale > 0.0 else None  # such a block is refused by itself
