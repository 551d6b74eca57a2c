"""Frozen records, made quickly: a ledger has some thirty kinds of entry, and the first picture waits for all of them.

``@frozen`` is ``dataclasses.dataclass(frozen=True)`` at a tenth of its cost at import: the standard decorator compiles
six methods a class, here all classes share theirs. Use it where there are many kinds and few of each; the standard one
where records are made by the ten thousand.
"""

from __future__ import annotations

from collections.abc import Callable
from operator import attrgetter
from types import SimpleNamespace
from typing import Any, TypeVar, dataclass_transform, overload

from redline_bore.core.field import MISSING, Field, field
from redline_bore.core.told import told

T = TypeVar("T")


def _fill(self: Any, *given: Any, **named: Any) -> None:
    """The ``__init__`` of all. Raises TypeError on too many, unknown, doubled or missing figures."""
    kind, values = type(self), self.__dict__
    fields = kind._frozen_fields
    if given:
        if len(given) > len(kind._frozen_order):
            raise TypeError(
                f"{kind.__name__} takes {len(kind._frozen_order)} figures by place, {len(given)} were given"
            )
        values.update(zip(kind._frozen_order, given, strict=False))
    if named:
        if not named.keys() <= fields.keys() or not values.keys().isdisjoint(named):
            wrong = next(name for name in named if name in values or name not in fields)
            raise TypeError(f"{kind.__name__} was given {wrong} twice, or has none of that name")
        values.update(named)
    if len(values) < len(fields):
        usual, made = kind._frozen_usual, kind._frozen_made
        values.update({name: value for name, value in usual.items() if name not in values})
        values.update({name: make() for name, make in made.items() if name not in values})
        missing = [name for name in fields if name not in values]
        if missing:
            raise TypeError(f"{kind.__name__} lacks {', '.join(missing)}")
    if kind._frozen_checks:
        self.__post_init__()


def _set(self: Any, name: str, value: Any) -> None:
    if name in self.__dict__:
        raise _cannot(self, name, "changed")
    self.__dict__[name] = value


def _delete(self: Any, name: str) -> None:
    raise _cannot(self, name, "taken away")


def _cannot(record: object, name: str, be_what: str) -> Exception:
    from dataclasses import FrozenInstanceError

    return FrozenInstanceError(f"{type(record).__name__}.{name} cannot be {be_what}")


def _equal(self: Any, other: object) -> bool:
    if self is other:
        return True
    compared = self._frozen_compared
    return type(self) is type(other) and compared(self) == compared(other)


def _hash(self: Any) -> int:
    return hash(self._frozen_compared(self))


def _nothing(_self: Any) -> tuple[()]:
    return ()


def _words(self: Any) -> str:
    shown = (
        n for n, (default, _hint, _kw) in self._frozen_fields.items() if not isinstance(default, Field) or default.repr
    )
    parts = ", ".join(f"{name}={getattr(self, name)!r}" for name in shown)
    return f"{type(self).__qualname__}({parts})"


_SHARED = {
    "__init__": _fill, "__setattr__": _set, "__delattr__": _delete, "__eq__": _equal, "__hash__": _hash, "__repr__": _words,
}  # fmt: skip


_PARAMS = SimpleNamespace(init=False, repr=False, eq=False, order=False, unsafe_hash=False, frozen=True)


class _Pending:
    """Stands for what is worked out of a class's fields until somebody asks for it: half of the classes are not used before the first picture."""

    def __init__(self, name: str, finish: Callable[[Any], None]) -> None:
        self.name, self.finish = name, finish

    def __get__(self, record: object, kind: type) -> Any:
        self.finish(next(k for k in kind.__mro__ if self.name in k.__dict__))
        return getattr(kind, self.name)


def _gathered(whole: Any) -> dict[str, tuple[Any, str, bool]]:
    """The fields by name, those of the classes it is made from first; a ``field`` leaves the class, its default stays."""
    found: dict[str, tuple[Any, str, bool]] = {}
    for base in whole.__mro__[-1:0:-1]:
        found |= getattr(base, "_frozen_fields", {})
    for name, hint in whole.__dict__.get("__annotations__", {}).items():
        default = whole.__dict__.get(name, MISSING)
        found[name] = default, hint, whole._frozen_kw_only
        if isinstance(default, Field):
            delattr(whole, name)
            if default.default is not MISSING:
                setattr(whole, name, default.default)
    return found


def _finish(whole: Any) -> None:
    """What the shared methods go by. ``_frozen_fields``: by name its default (a value, a ``field``, or MISSING), its hint, and whether it is
    given by name only."""
    found = _gathered(whole)
    order, usual, made, compared = list[str](), dict[str, Any](), dict[str, Any](), list[str]()
    for name, (default, _hint, kw_only) in found.items():
        if not kw_only:
            order.append(name)
        if not isinstance(default, Field):
            compared.append(name)
            if default is not MISSING:
                usual[name] = default
            continue
        if default.compare:
            compared.append(name)
        if default.default is not MISSING:
            usual[name] = default.default
        elif default.default_factory is not MISSING:
            made[name] = default.default_factory
    whole._frozen_fields, whole._frozen_order, whole._frozen_usual, whole._frozen_made = (
        found,
        tuple(order),
        usual,
        made,
    )
    whole._frozen_compared = staticmethod(attrgetter(*compared) if compared else _nothing)
    whole._frozen_checks = hasattr(whole, "__post_init__")


def _told_to_others(whole: Any) -> None:
    """The fields as ``dataclasses`` wants them, for its functions and whoever else asks."""
    import dataclasses as standard

    found = {}
    for name, (behind, hint, kw_only) in whole._frozen_fields.items():
        own = behind if isinstance(behind, Field) else field(default=behind)
        usual = {} if own.default is MISSING else {"default": own.default}
        usual |= {} if own.default_factory is MISSING else {"default_factory": own.default_factory}
        made: Any = standard.field(**usual, compare=own.compare, repr=own.repr, metadata=own.metadata)
        made.name, made.type, made.kw_only = name, hint, kw_only
        made._field_type = standard._FIELD  # type: ignore[attr-defined]
        found[name] = made
    whole.__dataclass_fields__ = found


_FINISHED = "_frozen_fields", "_frozen_compared", "_frozen_checks", "_frozen_order", "_frozen_usual", "_frozen_made"
_PENDING = {"__dataclass_fields__": _Pending("__dataclass_fields__", _told_to_others)} | {
    name: _Pending(name, _finish) for name in _FINISHED
}


@overload
def frozen(cls: type[T]) -> type[T]: ...
@overload
def frozen(*, kw_only: bool = False, often: bool = False) -> Callable[[type[T]], type[T]]: ...
@dataclass_transform(frozen_default=True, field_specifiers=(field, told))
def frozen(
    cls: type[T] | None = None, *, kw_only: bool = False, often: bool = False
) -> type[T] | Callable[[type[T]], type[T]]:
    """A frozen dataclass.

    ``often``: it is made by the hundred, so its making is compiled after all. Methods the class writes itself are
    kept. Setting a field again raises FrozenInstanceError.
    """

    def made(kind: type[T]) -> type[T]:
        whole: Any = kind
        own = whole.__init__ if "__init__" in kind.__dict__ else None
        for name, method in _SHARED.items():
            if name not in kind.__dict__:
                setattr(kind, name, method)
        kind.__doc__ = kind.__doc__ or kind.__name__  # else a signature is worked out to put there
        whole._frozen_kw_only, whole.__dataclass_params__ = kw_only, _PARAMS
        for name, pending in _PENDING.items():
            setattr(kind, name, pending)
        if often and own is None and not hasattr(kind, "__post_init__"):
            whole.__init__ = _written_at_first(whole)
        return kind

    return made if cls is None else made(cls)


def declared(kind: type) -> dict[str, tuple[Any, str, bool]]:
    """The fields of a frozen record by name: its default (a value, a ``field``, or MISSING), its hint, and whether it is by name only."""
    whole: Any = kind
    found: dict[str, tuple[Any, str, bool]] = whole._frozen_fields
    return found


def is_frozen(value: object) -> bool:
    """Whether it is a frozen record, or a kind of one."""
    return hasattr(value, "_frozen_kw_only")


def replace(record: T, **figures: Any) -> T:
    """A frozen record made anew with some figures changed, and checked as every new one is. Raises TypeError as its making does."""
    whole: Any = record
    kept = {name: getattr(whole, name) for name in whole._frozen_fields if name not in figures}
    return type(record)(**kept, **figures)


def changed(record: T, **figures: Any) -> T:
    """A frozen record with some figures changed: ``replace`` at a fraction of its cost, for folds of long ledgers.

    Raises TypeError for a figure the record has not. Nothing is checked anew: for records without ``__post_init__``.
    """
    kind: Any = type(record)
    fields = kind._frozen_fields
    if any(name not in fields for name in figures):
        raise TypeError(f"{kind.__name__} has no {', '.join(figures.keys() - fields.keys())}")
    new, was = object.__new__(kind), record.__dict__
    values = new.__dict__
    values.update(
        was if len(was) == len(fields) else {name: was[name] for name in fields}
    )  # not what was worked out and kept
    values.update(figures)
    return new  # type: ignore[no-any-return]


def _written_at_first(kind: Any) -> Callable[..., None]:
    """An ``__init__`` that is compiled when the first record is made."""

    def first(self: Any, *given: Any, **named: Any) -> None:
        kind.__init__ = _written(kind)
        kind.__init__(self, *given, **named)

    return first


def _written(kind: Any) -> Callable[..., None]:
    """An ``__init__`` that writes straight into the record: half the time of one that sets field by field."""
    places, keywords, lines, usual = list[str](), list[str](), list[str](), dict[str, Any]()
    for name, (_default, _hint, kw_only) in kind._frozen_fields.items():
        default, made = "", name
        if name in kind._frozen_usual:
            usual[f"_{name}"], default = kind._frozen_usual[name], f"=_{name}"
        elif name in kind._frozen_made:
            usual[f"_{name}"], default = kind._frozen_made[name], f"=_{name}"
            made = f"{name}() if {name} is _{name} else {name}"
        (keywords if kw_only else places).append(f"{name}{default}")
        lines.append(f"    d[{name!r}] = {made}\n")
    given = ", ".join(["self", *places, *(["*"] if keywords else []), *keywords])
    scope: dict[str, Any] = usual
    exec(f"def __init__({given}):\n    d = self.__dict__\n{''.join(lines)}", scope)
    written: Callable[..., None] = scope["__init__"]
    return written
