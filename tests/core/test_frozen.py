"""Frozen records behave as the standard ones do."""

from dataclasses import MISSING, FrozenInstanceError, asdict, dataclass, fields, is_dataclass, replace
from functools import cached_property
from hashlib import sha256

import pytest

from redline_bore.core.field import field
from redline_bore.core.frozen import declared, frozen, is_frozen
from redline_bore.core.frozen import replace as made_anew
from redline_bore.core.sums import hex_sum


@dataclass(frozen=True)
class Standard:
    size_mm: float


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


def test_the_standard_functions_find_what_was_declared_of_a_field():
    size, points = fields(Drawn)
    assert (size.default, size.compare, size.repr) == (MISSING, True, True)
    assert (points.default, points.compare, points.repr, dict(points.metadata)) == ((), False, False, {})
    (low, parts) = fields(Checked)
    assert (low.default, parts.default, parts.default_factory) == (MISSING, MISSING, tuple)
    assert asdict(Drawn(1.0, (2.0,))) == {"size_mm": 1.0, "points": (2.0,)}
    assert fields(Told)[0].metadata["why"] == "as the shop says it" and [f.kw_only for f in fields(Reading)] == [
        True,
        True,
    ]


@frozen
class Told:
    size_mm: float = field(default=2.0, metadata={"why": "as the shop says it"})


def test_a_field_has_a_default_or_a_way_to_make_one():
    with pytest.raises(TypeError, match="not both"):
        field(default=1, default_factory=list)
    assert Told().size_mm == 2.0 == Told.size_mm
    one, other = Checked(1.0), Checked(1.0)
    assert one == other and one.parts == ()


def test_made_anew_is_checked_anew_and_keeps_nothing_that_was_worked_out():
    was = Reading(cylinder=1, size_mm=92.0)
    assert was.twice == 184.0
    new = made_anew(was, size_mm=93.0)
    assert (new, new.twice, was.size_mm) == (replace(was, size_mm=93.0), 186.0, 92.0) and type(new) is Reading
    assert made_anew(was) == was and made_anew(was) is not was
    with pytest.raises(ValueError, match="under nought"):
        made_anew(Checked(1.0), low=-1.0)
    with pytest.raises(TypeError, match="none of that name"):
        made_anew(was, colour="red")


@pytest.mark.parametrize(
    ("value", "wanted"),
    [(Reading(cylinder=1), True), (Reading, True), (Standard(1), False), (Standard, False), (3, False), (None, False)],
)
def test_a_frozen_record_and_its_kind_are_told_from_all_else(value, wanted):
    assert is_frozen(value) is wanted


@pytest.mark.parametrize("data", [b"", b"a", bytes(range(256)) * 40])
def test_the_small_sum_is_the_standard_one(data):
    assert hex_sum(data) == sha256(data).hexdigest()
