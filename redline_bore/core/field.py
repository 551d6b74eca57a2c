"""What stands behind the name of a field of a frozen record: its default, and what is said of it.

The standard library's own would do, but with it come ``inspect``, ``ast`` and ``tokenize``: a fiftieth of the start.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from types import MappingProxyType
from typing import Any

MISSING: Any = object()  # no default at all; None is one
_NOTHING_SAID: Mapping[str, Any] = MappingProxyType({})


class Field:
    """One field. default_factory: makes the default anew for each record. compare: it counts in ``==`` and the hash; repr: it is shown."""

    __slots__ = ("compare", "default", "default_factory", "metadata", "repr")

    def __init__(
        self, default: Any, default_factory: Any, compare: bool, repr: bool, metadata: Mapping[str, Any]
    ) -> None:
        self.default, self.default_factory, self.compare, self.repr = default, default_factory, compare, repr
        self.metadata = metadata


def field(
    *,
    default: Any = MISSING,
    default_factory: Callable[[], Any] = MISSING,
    compare: bool = True,
    repr: bool = True,
    metadata: Mapping[str, Any] = _NOTHING_SAID,
) -> Any:
    """Declare a field that is more than its default. Raises TypeError for a default and a way to make one at once."""
    if default is not MISSING and default_factory is not MISSING:
        raise TypeError("A field has a default or a way to make one, not both")
    return Field(default, default_factory, compare, repr, metadata)
