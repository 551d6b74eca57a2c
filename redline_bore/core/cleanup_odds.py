"""How likely a hole comes out clean at a size, from what was read of it: decided by what it costs to be wrong (methods 5).

A bound says what is surely so; most blocks are decided long before that. Diameters in mm at 20 C, depths of flaws on radius. The side
that wore more has a share of the wear that two points read: about the same in every hole of a block, which is what ties them together.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from redline_bore.core.frozen import frozen

# Gauss and Hermite's three points of a normal spread (Abramowitz & Stegun 25.4.46): places in sd, and weights
_THREE = ((-math.sqrt(3.0), 1.0 / 6.0), (0.0, 2.0 / 3.0), (math.sqrt(3.0), 1.0 / 6.0))
_FIVE = tuple(
    (z, 0.2) for z in (-1.2816, -0.5244, 0.0, 0.5244, 1.2816)
)  # middles of five equal parts of a normal spread
_UNDER = (0.1, 0.3, 0.5, 0.7, 0.9)  # middles of five equal parts of how far pistons may lie under their name
LEAST_WEIGHT = 1e-5  # what is less likely changes no figure that is told
_SHARES = tuple(0.5 + 0.025 * i for i in range(21))  # half of the wear on either side, to all of it on one


@frozen
class OddsTerms:
    """What is believed of the share of the wear on the worse side, and of what readings leave out.

    share, share_sd: between blocks; share_within: between the holes of one. more_mm, sd_mm: what the cut asks for over the wear that was
    read, on diameter (centring, between levels, lobes), and its spread; unseen: sd of the wear itself that lies between places, as a share
    of it. patch_mm: sd of what a patch that was gauged says of the hole, on diameter.
    """

    share: float
    share_sd: float
    share_within: float
    more_mm: float
    sd_mm: float
    unseen: float
    patch_mm: float


@frozen(often=True)
class FlawOdds:
    """A flaw: the two-point wear of the wall it lies in, mm on diameter, its likely depth on radius, and the log sd of that."""

    worn_mm: float
    deep_mm: float
    log_sd: float


@frozen(often=True)
class HoleOdds:
    """A hole as its readings show it. worn_mm: the most wear that was read, on diameter; unseen_sd: of that wear; swept_mm: the size that sweeps
    ask for, None where it was not swept, then share_seen is the share that they show (None: too little wear to tell).

    stand_mm, stand_sd_mm: how far it may stand off the cut's axis, on diameter. clean_mm: the smallest size at which somebody looked and
    saw it clean. shadow_mm: the largest at which a patch was seen that nobody gauged. patch_mm: the size that a gauged patch asks for.
    """

    unworn_mm: float
    worn_mm: float
    flaws: tuple[FlawOdds, ...] = ()
    swept_mm: float | None = None
    share_seen: float | None = None
    stand_mm: float = 0.0
    stand_sd_mm: float = 0.0
    unseen: float = 0.0
    clean_mm: float | None = None
    shadow_mm: float | None = None
    patch_mm: float | None = None


@frozen
class Share:
    """What is believed of a block's share of wear on the worse side, after all that was seen: weights over ``_SHARES``, its mean and its sd."""

    weights: tuple[float, ...]
    mean: float
    sd: float


def _under(z: float) -> float:
    """The normal distribution function."""
    return 0.5 * math.erfc(-z / math.sqrt(2.0))


def _as_read(hole: HoleOdds, size_mm: float, share: float, terms: OddsTerms) -> float:
    """The chance that a size cleans a hole up by its readings alone, were the block's share so much."""
    if hole.swept_mm is not None:
        within: Sequence[tuple[float, float]] = ((0.0, 1.0),)
    else:
        within = _THREE
    found = 0.0
    for z, weight in within:
        s = min(max(share + z * terms.share_within, 0.5), 1.0)
        worn = hole.unworn_mm + 2.0 * s * hole.worn_mm if hole.swept_mm is None else hole.swept_mm
        unseen = 2.0 * s * hole.worn_mm * math.hypot(terms.unseen, hole.unseen) if hole.swept_mm is None else 0.0
        more, sd = terms.more_mm + hole.stand_mm, math.sqrt(terms.sd_mm**2 + hole.stand_sd_mm**2 + unseen**2)
        p = _under((size_mm - worn - more) / sd)
        for flaw in hole.flaws:
            p *= _reaches(flaw, size_mm - hole.unworn_mm - hole.stand_mm, s, terms, hole.stand_sd_mm)
        found += weight * p
    return found


def _reaches(flaw: FlawOdds, over_mm: float, share: float, terms: OddsTerms, stand_sd_mm: float) -> float:
    """The chance that a cut so much over the unworn size gets under a flaw; nobody knows on which side of the wear it lies."""
    sd = math.hypot(terms.sd_mm, stand_sd_mm)
    found = 0.0
    for z, weight in _FIVE:
        deep = 2.0 * flaw.deep_mm * math.exp(z * flaw.log_sd)
        for s in (share, 1.0 - share):
            found += 0.5 * weight * _under((over_mm - 2.0 * s * flaw.worn_mm - deep) / sd)
    return found


def chance(hole: HoleOdds, size_mm: float, share: float, terms: OddsTerms) -> float:
    """The chance, 0 to 1, that a hole is clean at a size if the block's share were ``share``, by its readings and by what was seen in it."""
    if hole.patch_mm is not None:
        return _under((size_mm - hole.patch_mm) / terms.patch_mm)
    if hole.clean_mm is not None and size_mm >= hole.clean_mm - 1e-9:
        return 1.0
    p = _as_read(hole, size_mm, share, terms)
    if hole.clean_mm is not None:
        return min(p / max(_as_read(hole, hole.clean_mm, share, terms), 1e-9), 1.0)
    if hole.shadow_mm is not None:
        at = _as_read(hole, hole.shadow_mm, share, terms)
        return max(p - at, 0.0) / max(1.0 - at, 1e-9)
    return p


def share_of(holes: Sequence[HoleOdds], terms: OddsTerms) -> Share:
    """What sweeps and looks in some holes say of the share of all: Bayes over the shares there may be. Source: methods 5."""
    sd = max(terms.share_sd, 1e-6)
    weights = [math.exp(-0.5 * ((s - terms.share) / sd) ** 2) for s in _SHARES]
    for hole in holes:
        if hole.swept_mm is not None and hole.share_seen is not None:
            seen = hole.share_seen
            weights = [
                w * math.exp(-0.5 * ((s - seen) / max(terms.share_within, 1e-6)) ** 2)
                for w, s in zip(weights, _SHARES, strict=True)
            ]
        elif hole.clean_mm is not None or hole.patch_mm is not None or hole.shadow_mm is not None:
            weights = [w * _seen(hole, s, terms) for w, s in zip(weights, _SHARES, strict=True)]
    total = sum(weights)
    if total <= 0.0:  # what was seen fits no share: the nearest end
        weights, total = [1.0] * len(_SHARES), float(len(_SHARES))
    found = tuple(w / total for w in weights)
    mean = sum(w * s for w, s in zip(found, _SHARES, strict=True))
    return Share(found, mean, math.sqrt(sum(w * (s - mean) ** 2 for w, s in zip(found, _SHARES, strict=True))))


def _seen(hole: HoleOdds, share: float, terms: OddsTerms) -> float:
    """How likely what was seen in a hole is, were the share so much."""
    if hole.patch_mm is not None:  # the density of the need there, by a small step either way
        step = terms.patch_mm
        return (
            _as_read(hole, hole.patch_mm + step, share, terms)
            - _as_read(hole, hole.patch_mm - step, share, terms)
            + 1e-9
        )
    if hole.clean_mm is not None:
        return _as_read(hole, hole.clean_mm, share, terms) + 1e-9
    assert hole.shadow_mm is not None
    return 1.0 - _as_read(hole, hole.shadow_mm, share, terms) + 1e-9


def chance_of_all(
    holes: Sequence[HoleOdds], size_mm: Callable[[int, float], float], terms: OddsTerms, share: Share | None = None
) -> float:
    """The chance that every hole is clean at its size.

    size_mm: of the hole of an index, for how far pistons lie between the most and the least they measure under their name, 0 to 1: the
    pistons of a set share it. Source: methods 5.

    >>> terms = OddsTerms(0.7, 0.11, 0.05, 0.010, 0.010, 0.04, 0.012)
    >>> worn = HoleOdds(92.0, 0.10)
    >>> [round(chance_of_all([worn], lambda i, u: size, terms), 2) for size in (92.10, 92.15, 92.20, 92.25)]
    [0.01, 0.49, 0.97, 1.0]
    """
    known, found = share_of(holes, terms) if share is None else share, 0.0
    every = range(len(holes))
    measured = all(abs(size_mm(i, 0.0) - size_mm(i, 1.0)) < 1e-9 for i in every)
    for u in (0.5,) if measured else _UNDER:
        sizes = [size_mm(i, u) for i in every]
        for weight, s in zip(known.weights, _SHARES, strict=True):
            if weight >= LEAST_WEIGHT:
                found += weight * _all_at(holes, sizes, s, terms)
    return min(found / (1 if measured else len(_UNDER)), 1.0)


def _all_at(holes: Sequence[HoleOdds], sizes_mm: Sequence[float], share: float, terms: OddsTerms) -> float:
    p = 1.0
    for hole, size in zip(holes, sizes_mm, strict=True):
        p *= chance(hole, size, share, terms)
        if p < LEAST_WEIGHT:
            break
    return p
