"""Which lobes a head evens out, against the balance of a head that opens and floats, solved for each number of stones."""

import numpy as np
import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.head import first_followed, follows


def left_pressing(stones, lobes, at):
    """What the head cannot give way to, of lobes of height 1: the largest at any stone."""
    places = 2.0 * np.pi * np.arange(stones) / stones
    gives = np.column_stack([np.ones(stones), np.cos(places), np.sin(places)])
    wall = np.cos(lobes * (at + places))
    return float(np.max(np.abs(wall - gives @ np.linalg.lstsq(gives, wall, rcond=None)[0])))


@pytest.mark.parametrize("stones", range(1, 13))
@pytest.mark.parametrize("lobes", range(2, 16))
def test_the_head_follows_what_it_can_give_way_to(stones, lobes):
    pressed = max(left_pressing(stones, lobes, at) for at in np.linspace(0.0, 2.0 * np.pi, 37))
    assert follows(stones, lobes) is (pressed < 1e-9)


@pytest.mark.parametrize(
    ("stones", "first"), [(1, (2,)), (2, (2, 3)), (3, (2, 3, 4)), (4, (3, 4, 5)), (6, (5, 6, 7)), (8, (7, 8, 9))]
)
def test_more_stones_leave_only_finer_lobes(stones, first):
    assert first_followed(stones) == first


@pytest.mark.parametrize(("stones", "lobes"), [(0, 2), (4, 1), (-1, 3)])
def test_no_head_and_no_lobes_are_refused(stones, lobes):
    with pytest.raises(InputError):
        follows(stones, lobes)
