"""What is had where it is first needed: the first picture of a job that was left as it is needs neither NumPy nor most of the patterns."""

from __future__ import annotations

import re
from typing import TYPE_CHECKING, cast

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


class _LatePattern:
    """Hands out the methods of a pattern, and keeps them."""

    def __init__(self, pattern: str, flags: re.RegexFlag) -> None:
        self._given = pattern, flags

    def __getattr__(self, name: str) -> object:
        found = getattr(re.compile(*self._given), name)
        setattr(self, name, found)
        return found


def late_pattern(pattern: str, flags: re.RegexFlag = re.NOFLAG) -> re.Pattern[str]:
    """``re.compile``, when it is first asked."""
    return cast("re.Pattern[str]", _LatePattern(pattern, flags))


__all__ = ["late_pattern", "np"]
