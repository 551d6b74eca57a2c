"""Size and rate followed together: what a bite may be, and how often it goes past when the truth drifts."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.stroke_track import (
    Between,
    Room,
    Seen,
    Track,
    TrackRules,
    advanced,
    begun,
    bite,
    followed,
    measured,
    over_at,
    scatter_seen,
    strokes_between,
)

RULES = TrackRules(0.06, 0.13, 0.18, 3.3, 1.5)
VAR = 0.0015**2 / 6.0


def steady(rate, counts, var=VAR):
    return [Seen(float(n), 92.0 + rate * n, var) for n in counts]


@given(st.floats(0.0003, 0.004), st.floats(0.4, 2.5))
def test_a_steady_rate_is_found_whatever_was_expected(rate, wrong):
    track = followed(steady(rate, range(0, 60, 10)), rate * wrong, 0.65, RULES)
    assert track.rate_mm == pytest.approx(rate, rel=0.12)
    assert track.mean_mm == pytest.approx(92.0 + 50 * rate, abs=0.001)


def test_predict_and_update_are_those_of_the_filter():
    track = advanced(Track(92.0, 0.002, 1e-6, 1e-8, 1e-7), 10.0, RULES)
    rr = 1e-7 + (0.06 * 0.002) ** 2
    assert track.var_rate == pytest.approx(rr) and track.cov == pytest.approx(1e-8 + 10 * rr)
    assert track.var_mean == pytest.approx(1e-6 + 20 * 1e-8 + 100 * rr + (0.13 * 0.002 * 10) ** 2)
    after = measured(track, track.mean_mm + 0.004, 1e-6)
    gain = track.var_mean / (track.var_mean + 1e-6)
    assert after.mean_mm == pytest.approx(track.mean_mm + gain * 0.004)
    assert after.var_mean == pytest.approx(track.var_mean * (1 - gain))
    assert after.rate_mm == pytest.approx(0.002 + track.cov / (track.var_mean + 1e-6) * 0.004)


def test_nothing_passes_without_strokes_and_two_looks_sharpen():
    once = followed(steady(0.002, [0, 10]), 0.002, 0.3, RULES)
    twice = followed([*steady(0.002, [0, 10]), Seen(10.0, 92.02, VAR)], 0.002, 0.3, RULES)
    assert twice.var_mean < once.var_mean and twice.rate_mm == pytest.approx(once.rate_mm, rel=0.02)


def test_short_strokes_at_one_count_are_taken_as_they_are_read():
    seen = [*steady(0.002, [0, 10]), Seen(10.0, 92.03, VAR)]
    assert followed(seen, 0.002, 0.3, RULES).mean_mm == pytest.approx(92.03)


@pytest.mark.parametrize("sd, wanted", [(0.65, 5), (0.30, 16), (0.10, 25)])
def test_a_bite_is_short_while_the_rate_is_not_known(sd, wanted):
    assert bite(begun(92.0, 1e-6, 0.002, sd), Room(0.1, 0.104, 0.004), RULES) == wanted


@given(
    st.floats(0.001, 0.2), st.floats(-0.01, 0.2), st.floats(0.0002, 0.004), st.floats(0.05, 0.7), st.floats(0.001, 0.01)
)
def test_a_bite_is_the_largest_that_is_safe(to_aim, to_ceiling, rate, sd, u):
    track, room = begun(92.0, VAR, rate, sd), Room(to_aim, to_ceiling, u)
    s = bite(track, room, RULES)
    assert s == 0 or (rate * s <= to_aim + 1e-12 and over_at(track, s, room, RULES) <= 1e-12)
    assert rate * (s + 1) > to_aim - 1e-12 or over_at(track, s + 1, room, RULES) > -1e-12


@pytest.mark.parametrize("to_aim, to_ceiling", [(0.0, 0.1), (-0.01, 0.1), (0.1, 0.0), (0.1, 0.006)])
def test_no_bite_at_the_aim_or_under_the_ceiling_by_less_than_its_doubt(to_aim, to_ceiling):
    assert bite(begun(92.0, VAR, 0.001, 0.2), Room(to_aim, to_ceiling, 0.004), RULES) == 0


def test_the_interval_holds_the_likely_count_and_opens_with_doubt():
    sharp = strokes_between(begun(92.0, VAR, 0.002, 0.1), 0.05, 0.05, 0.004, RULES)
    dull = strokes_between(begun(92.0, VAR, 0.002, 0.6), 0.05, 0.05, 0.004, RULES)
    assert sharp.least <= 25 <= sharp.most and dull.least < sharp.least and dull.most > sharp.most
    assert strokes_between(begun(92.0, VAR, 0.002, 0.1), 0.06, 0.05, 0.004, RULES).most > sharp.most


def test_nothing_left_is_no_strokes_at_least():
    found = strokes_between(begun(92.0, VAR, 0.002, 0.2), -0.002, -0.002, 0.004, RULES)
    assert isinstance(found, Between) and found.least == 0 and found.likely == 0.0


def test_scatter_is_learned_from_eight_bites():
    chance = np.random.default_rng(3)
    takes = 0.02 * np.exp(chance.normal(0.0, 0.35, 30))
    sizes = 92.0 + np.concatenate([[0.0], np.cumsum(takes)])
    seen = [Seen(10.0 * i, float(s), 1e-10) for i, s in enumerate(sizes)]
    assert scatter_seen(seen[:9], 0.002, 0.3, RULES) is None
    assert scatter_seen(seen[:10], 0.002, 0.3, RULES) is not None
    assert (
        0.3 < scatter_seen(seen, 0.002, 0.3, RULES) < 0.8
    )  # a rate that runs after scattered bites adds to it: the safe side


def test_other_stones_in_mid_step_open_the_rate_again():
    seen = steady(0.002, [0, 10, 20, 30])
    changed = [*seen[:-1], Seen(30.0, 92.06, VAR, changed=0.3)]
    assert followed(changed, 0.002, 0.2, RULES).var_rate > followed(seen, 0.002, 0.2, RULES).var_rate
    half = [*seen[:-1], Seen(30.0, 92.05, VAR, changed=0.3, factor=0.5)]
    assert followed(half, 0.002, 0.2, RULES).rate_mm == pytest.approx(0.001, rel=0.15)


def honed(chance, rising):
    """One cylinder honed by bites to its aim, against a truth that drifts, scatters, beds in and is read with a biased gauge.
    Returns how far its mean ended past the aim and its checks."""
    aim, u, own, places = 0.10, 0.005, 0.0015, 6
    rate, bias = 0.002 * math.exp(chance.normal(0.0, 0.5)), chance.normal(0.0, 0.0015)
    mean, strokes, drift, seen = 0.0, 0.0, 0.0, []
    while len(seen) < 40:
        seen.append(Seen(strokes, mean + bias + chance.normal(0.0, own / math.sqrt(places)), own**2 / places))
        track = followed(seen, 0.002, 0.65, RULES)
        room = Room(aim - track.mean_mm, aim + u - track.mean_mm, u)
        s = bite(track, room, RULES)
        if s < 1 or room.to_aim_mm < 0.002:
            break
        drift += chance.normal(0.0, 0.06) + math.log(rising) / 6.0
        mean += rate * math.exp(drift) * s * math.exp(chance.normal(0.0, 0.13))
        strokes += s
    return mean - aim, len(seen)


@pytest.mark.parametrize("rising", [1.0, 1.5, 0.6])
def test_bites_never_go_past_by_more_than_u_and_need_few_checks(rising):
    found = [honed(np.random.default_rng(seed), rising) for seed in range(250)]
    assert max(past for past, _ in found) < 0.005
    assert np.median([past for past, _ in found]) > -0.010
    assert np.median([n for _, n in found]) <= 8
