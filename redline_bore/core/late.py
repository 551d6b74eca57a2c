"""NumPy under its usual name, loaded where it is first needed: the first picture of a job that was left as it is needs none of it."""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    import numpy as np
else:

    class _Late:
        """Hands out what NumPy has, and keeps it, so that it is asked once for each name."""

        def __getattr__(self, name: str) -> object:
            import numpy  # the import system's own lock keeps two threads apart

            found = getattr(numpy, name)
            setattr(self, name, found)
            return found

    np = _Late()

__all__ = ["np"]
