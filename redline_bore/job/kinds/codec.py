"""Entries to plain tables and back, for the logbook and the exchange file. Both use the same shape."""

from __future__ import annotations

import types
from collections.abc import Callable
from enum import Enum
from functools import cache
from typing import Any, Union, get_args, get_origin, get_type_hints

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import declared, is_frozen
from redline_bore.job import kinds as _declared  # noqa: F401  (importing declares every kind)
from redline_bore.job.kinds.entry import Entry, Record
from redline_bore.job.kinds.kind import KINDS

_AS_IT_IS = frozenset((float, int, str, bool, type(None)))


def to_plain(value: Any) -> Any:
    """A value as JSON can hold it; fields that are at their default None are kept, so that nothing is guessed."""
    if type(value) in _AS_IT_IS:
        return value
    if isinstance(value, Enum):
        return value.value
    if is_frozen(value):
        known = value.__dict__
        return {name: v if type(v := known[name]) in _AS_IT_IS else to_plain(v) for name in declared(value)}
    if isinstance(value, (tuple, list)):
        return [to_plain(v) for v in value]
    if isinstance(value, dict):
        return {k: to_plain(v) for k, v in value.items()}
    return value


_PLAIN: set[type] = set()  # the frozen records that check nothing when they are made


@cache
def _hints(cls: type) -> dict[str, Any]:
    return get_type_hints(cls)


def from_plain(cls: Any, table: dict[str, Any]) -> Any:
    """A dataclass from its plain table. Unknown names are passed over: a newer program may have written them.

    Raises InputError when something needed is missing. For tables this program wrote; files from elsewhere are
    validated by store.job_file first.
    """
    try:
        readers, known = _readers(cls), declared(cls)
        values = dict(table) if table.keys() == known.keys() else {k: v for k, v in table.items() if k in known}
        for name, read in readers:
            if name in values:
                values[name] = read(values[name])
        if cls not in _PLAIN or len(values) < len(known):
            return cls(**values)
        new = object.__new__(cls)  # nothing is missing and nothing is checked: written straight into it
        new.__dict__.update(values)
        return new
    except (TypeError, ValueError, KeyError) as error:
        raise InputError(f"An entry of kind {table.get('kind', cls.__name__)} cannot be read: {error}") from error


@cache
def _readers(cls: type) -> tuple[tuple[str, Callable[[Any], Any]], ...]:
    """The fields of a dataclass whose plain value is not taken as it is, and how it is read."""
    if hasattr(cls, "_frozen_usual") and not getattr(cls, "_frozen_checks", True):
        _PLAIN.add(cls)
    found = ((name, _reader_of(cls, name, hint)) for name, (_default, hint, _kw) in declared(cls).items())
    return tuple((name, read) for name, read in found if read is not _as_it_is)


def _reader_of(cls: type, name: str, hint: str) -> Callable[[Any], Any]:
    """How a field is read. Of the usual hints that is plain from their text: working them out takes a hundredth of the start."""
    if hint.startswith("Literal["):
        return _as_it_is
    return _USUAL[hint] if hint in _USUAL else _reader(_hints(cls)[name])


def _reader(hint: Any) -> Callable[[Any], Any]:
    origin = get_origin(hint)
    if origin in (Union, types.UnionType):
        inner = [h for h in get_args(hint) if h is not type(None)]
        read = _reader(inner[0]) if len(inner) == 1 else _as_it_is
        return _as_it_is if read is _as_it_is else lambda raw: None if raw is None else read(raw)
    if origin is tuple:
        read = _reader(get_args(hint)[0])
        return lambda raw: tuple(read(v) for v in raw)
    if origin is dict:
        return dict
    if is_frozen(hint):
        return lambda raw: from_plain(hint, raw)
    if hint is float or (isinstance(hint, type) and issubclass(hint, Enum)):
        return hint
    return _as_it_is


def _as_it_is(raw: Any) -> Any:
    return raw


_USUAL: dict[str, Callable[[Any], Any]] = {
    **dict.fromkeys(("str", "int", "bool", "str | None", "int | None", "bool | None"), _as_it_is),
    **dict.fromkeys(("tuple[str, ...]", "tuple[int, ...]"), tuple),
    "float": float,
    "float | None": lambda raw: None if raw is None else float(raw),
    "tuple[float, ...]": lambda raw: tuple(map(float, raw)),
}


def entry_from_plain(table: dict[str, Any]) -> Entry:
    """An entry from its plain table. Raises InputError for a kind that is not known."""
    kind = table.get("kind")
    if kind not in KINDS:
        raise InputError(f"The ledger holds an entry of kind “{kind}”, which this version does not know")
    return from_plain(KINDS[kind].entry, table)  # type: ignore[no-any-return]


def record_to_plain(record: Record) -> dict[str, Any]:
    """A record as JSON can hold it."""
    return to_plain(record)  # type: ignore[no-any-return]


def record_from_plain(table: dict[str, Any]) -> Record:
    """A record from its plain table. Raises InputError."""
    plain = {k: v for k, v in table.items() if k != "entry"}
    return Record(entry=entry_from_plain(table["entry"]), **plain)
