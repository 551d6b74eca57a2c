"""What the stones of a hone's head do to roundness: which lobes they even out and which they follow.

``n`` stones stand evenly round a head that floats (its middle goes where it is pushed) and opens them together. On a wall of ``k`` lobes of height a, stone
``i`` meets ``a cos k(t + 2 pi i / n)``. A head that opens by e and shifts by (x, y) gives way to ``e + x cos(2 pi i / n) + y sin(2 pi i / n)``; what it
cannot give way to presses unevenly and is cut off. Sampled at n places, k lobes look like ``k mod n``: as 0 the head opens and closes, as 1 or n - 1 it
shifts, and in both cases every stone stays pressed alike and the lobes stay. All others are evened out.

Source: discrete Fourier series over n even places; methods 10.
"""

from __future__ import annotations

from redline_bore.core.errors import InputError

FEWEST_LOBES = 2  # one lobe is a hole that stands to the side


def follows(stones: int, lobes: int) -> bool:
    """True where a floating head of so many stones runs along with so many lobes and leaves them.

    stones: 1 or more. lobes: 2 or more a turn. Raises InputError for fewer.

    >>> [k for k in range(2, 9) if follows(4, k)], [k for k in range(2, 9) if follows(6, k)]
    ([3, 4, 5, 7, 8], [5, 6, 7])
    """
    if stones < 1 or lobes < FEWEST_LOBES:
        raise InputError("A head has a stone at least, and a lobed hole two lobes at least")
    return lobes % stones in (0, 1 % stones, stones - 1)


def first_followed(stones: int) -> tuple[int, ...]:
    """The lobes nearest to the count of stones that they follow: the coarsest that such a head leaves. Raises InputError.

    >>> first_followed(2), first_followed(4)
    ((2, 3), (3, 4, 5))
    """
    return tuple(k for k in range(FEWEST_LOBES, stones + 2) if follows(stones, k))
