"""How likely a hole comes out clean: against draws of the same beliefs, at its ends, and by what was seen."""

import math
import random

import pytest

from redline_bore.core.cleanup_odds import FlawOdds, HoleOdds, OddsTerms, chance, chance_of_all, share_of

TERMS = OddsTerms(0.70, 0.11, 0.05, 0.012, 0.012, 0.06, 0.010)
WORN = HoleOdds(92.0, 0.10)
SIZES = [92.05 + 0.01 * i for i in range(25)]


def drawn(hole, size, terms=TERMS, n=20000):
    """The same chance by draws, that know nothing of how it is worked out."""
    r, clean = random.Random(7), 0
    for _ in range(n):
        block = min(max(r.gauss(terms.share, terms.share_sd), 0.5), 1.0)
        s = min(max(r.gauss(block, terms.share_within), 0.5), 1.0)
        unseen = 2.0 * s * hole.worn_mm * math.hypot(terms.unseen, hole.unseen)
        need = (
            hole.unworn_mm
            + 2.0 * s * hole.worn_mm
            + r.gauss(terms.more_mm + hole.stand_mm, math.sqrt(terms.sd_mm**2 + hole.stand_sd_mm**2 + unseen**2))
        )
        for flaw in hole.flaws:
            side, deep = r.choice((s, 1.0 - s)), flaw.deep_mm * math.exp(r.gauss(0.0, flaw.log_sd))
            need = max(
                need,
                hole.unworn_mm
                + hole.stand_mm
                + 2.0 * (side * flaw.worn_mm + deep)
                + r.gauss(0.0, math.hypot(terms.sd_mm, hole.stand_sd_mm)),
            )
        clean += need <= size
    return clean / n


@pytest.mark.parametrize(
    "hole",
    [
        WORN,
        HoleOdds(92.0, 0.20, unseen=0.08),
        HoleOdds(92.0, 0.10, (FlawOdds(0.05, 0.03, 0.5),)),
        HoleOdds(92.0, 0.05, stand_mm=0.03, stand_sd_mm=0.04),
    ],
)
@pytest.mark.parametrize("over", [0.12, 0.15, 0.18, 0.22, 0.30])
def test_it_is_what_draws_of_the_same_beliefs_come_to(hole, over):
    told = chance_of_all([hole], lambda i, u: 92.0 + over, TERMS)
    assert told == pytest.approx(drawn(hole, 92.0 + over), abs=0.035)


def test_a_larger_size_is_never_less_likely_and_more_holes_never_more():
    chances = [chance_of_all([WORN], lambda i, u, size=size: size, TERMS) for size in SIZES]
    assert chances == sorted(chances) and chances[0] < 0.01 and chances[-1] > 0.99
    for size in SIZES[::3]:
        one = chance_of_all([WORN], lambda i, u, size=size: size, TERMS)
        four = chance_of_all([WORN] * 4, lambda i, u, size=size: size, TERMS)
        assert one**4 - 1e-9 <= four <= one + 1e-9  # what ties them together makes it likelier than four apart


def test_pistons_that_are_not_measured_lie_between_their_ends():
    low, high = 92.14, 92.20
    between = chance_of_all([WORN], lambda i, u: low + u * (high - low), TERMS)
    ends = [chance_of_all([WORN], lambda i, u, size=size: size, TERMS) for size in (low, high)]
    assert ends[0] < between < ends[1]


@pytest.mark.parametrize("share, s", [(0.5, 92.10), (1.0, 92.20)])
def test_swept_it_is_the_size_that_the_sweeps_ask_for(share, s):
    hole = HoleOdds(92.0, 0.10, swept_mm=s, share_seen=share)
    assert chance(hole, s + TERMS.more_mm, 0.7, TERMS) == pytest.approx(0.5)
    known = share_of([hole], TERMS)
    assert abs(known.mean - share) < abs(0.70 - share) and known.sd <= 0.05


def test_what_is_seen_counts_from_then_on():
    at = 92.15
    before = chance_of_all([WORN], lambda i, u: at, TERMS)
    seen_clean, dark = HoleOdds(92.0, 0.10, clean_mm=at), HoleOdds(92.0, 0.10, shadow_mm=at)
    assert chance(seen_clean, at, 0.7, TERMS) == 1.0 and chance(dark, at, 0.7, TERMS) == 0.0
    assert chance(dark, 92.30, 0.7, TERMS) > 0.95 and chance(seen_clean, at - 0.02, 0.7, TERMS) > chance(
        WORN, at - 0.02, 0.7, TERMS
    )
    assert 0.2 < before < 0.8
    assert (
        share_of([dark], TERMS).mean > 0.70 > share_of([seen_clean], TERMS).mean
    )  # what one hole shows speaks for the others
    gauged = HoleOdds(92.0, 0.10, patch_mm=92.20)
    assert chance(gauged, 92.20, 0.7, TERMS) == pytest.approx(0.5) and chance(
        gauged, 92.21, 0.7, TERMS
    ) == pytest.approx(0.841, abs=0.002)
    assert share_of([gauged], TERMS).mean > 0.75


def test_what_fits_no_share_falls_back_on_all_of_them():
    known = share_of([HoleOdds(92.0, 0.10, swept_mm=92.2, share_seen=60.0)], TERMS)
    assert sum(known.weights) == pytest.approx(1.0) and 0.5 <= known.mean <= 1.0
