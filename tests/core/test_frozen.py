"""Frozen records behave as the standard ones do."""

from dataclasses import FrozenInstanceError, fields, is_dataclass, replace
from functools import cached_property

import pytest

from redline_bore.core.field import field
from redline_bore.core.frozen import declared, frozen


@frozen(kw_only=True)
class Reading:
    cylinder: int
    size_mm: float = 0.0

    @cached_property
    def twice(self) -> float:
        return 2 * self.size_mm


@frozen
class Other:
    cylinder: int
    size_mm: float = 0.0

    def __hash__(self) -> int:
        return self.cylinder


def test_it_is_a_dataclass_that_compares_and_hashes_by_value():
    a, b = Reading(cylinder=1, size_mm=92.0), Reading(cylinder=1, size_mm=92.0)
    assert is_dataclass(a) and [f.name for f in fields(a)] == ["cylinder", "size_mm"]
    assert a == b and hash(a) == hash(b) and a != replace(a, cylinder=2) and a != Other(1, 92.0)
    assert repr(a) == "Reading(cylinder=1, size_mm=92.0)" and a.twice == 184.0 and hash(Other(7)) == 7


def test_nothing_is_changed_or_taken_away():
    a = Reading(cylinder=1)
    with pytest.raises(FrozenInstanceError):
        a.cylinder = 2
    with pytest.raises(FrozenInstanceError):
        a.size_mm = 5.0
    with pytest.raises(FrozenInstanceError):
        del a.cylinder
    assert a.cylinder == 1


def test_keywords_are_asked_for_where_they_should_be():
    with pytest.raises(TypeError):
        Reading(1)
    assert Other(1, 2.0).size_mm == 2.0


@frozen
class Checked:
    low: float
    parts: tuple[float, ...] = field(default_factory=tuple)

    def __post_init__(self) -> None:
        if self.low < 0.0:
            raise ValueError("under nought")


def test_a_record_checks_itself_and_makes_its_defaults():
    assert Checked(1.0).parts == () and Checked(1.0, parts=(2.0,)).parts == (2.0,)
    with pytest.raises(ValueError, match="under nought"):
        Checked(-1.0)
    with pytest.raises(ValueError, match="under nought"):
        replace(Checked(1.0), low=-1.0)


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: Other(1, 2.0, 3.0), "takes 2 figures by place, 3 were given"),
        (lambda: Other(1, cylinder=2), "cylinder twice"),
        (lambda: Other(1, colour="red"), "none of that name"),
        (lambda: Other(), "lacks cylinder"),
        (lambda: Reading(size_mm=1.0), "lacks cylinder"),
    ],
)
def test_what_does_not_fit_is_told(make, words):
    with pytest.raises(TypeError, match=words):
        make()


@frozen
class Drawn:
    size_mm: float
    points: tuple[float, ...] = field(default=(), compare=False, repr=False)


def test_a_field_that_is_not_compared_is_neither_hashed_nor_told():
    one, other = Drawn(1.0, (1.0,)), Drawn(1.0, (2.0,))
    assert one == other and hash(one) == hash(other) and repr(one) == "Drawn(size_mm=1.0)" and one != Drawn(2.0, (1.0,))


@frozen
class Wider(Drawn):
    width_mm: float = 3.0


def test_fields_of_the_classes_it_is_made_from_come_first_whichever_is_asked_first():
    assert [f.name for f in fields(Wider)] == ["size_mm", "points", "width_mm"] and list(declared(Wider)) == [
        "size_mm",
        "points",
        "width_mm",
    ]
    assert Wider(1.0).width_mm == 3.0 and replace(Wider(1.0), width_mm=4.0).width_mm == 4.0
    assert [f.default for f in fields(Wider)][1:] == [(), 3.0] and Wider.width_mm == 3.0
