"""What may be typed, at its limits: the last figure that is taken and the first that is refused."""

import pytest

from redline_bore.core.errors import BenchError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.kinds import bore, hone, measures, sleeve
from redline_bore.job.kinds.defects import DefectMarked
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.job.kinds.kind import entry_words, wrongs
from redline_bore.job.kinds.phrase import Where
from tests.job.benches import after, one_typed

HERE = Where(1, Place(0, 0), Units.METRIC)


def figure(value):
    return f"{value:.6f}".rstrip("0").rstrip(".")


def lines(state):
    """Step, a line with its figure left open, the last figure taken and one beyond it."""
    b, length = state.block.bore_mm, state.block.length_mm
    zero = state.gauging.zero.master_20_mm if state.gauging.zero else b
    return [
        ("hone", "hone vertical rpm 200 strokes 60 dwell {} 0.1", hone.LONGEST_DWELL_S, hone.LONGEST_DWELL_S + 0.1),
        ("hone", "hone vertical rpm 200 strokes 60 load {}", 100, 100.5), ("hone", "taken {} mm", hone.MOST_TAKEN_MM, hone.MOST_TAKEN_MM + 0.01),
        ("hone", "steps rough 0.1 vitrified 150, plateau {} brush 600", hone.SHORT_AT_THE_END_MM, hone.SHORT_AT_THE_END_MM + 0.001),
        ("hone", "steps rough {} vitrified 150, plateau 0 brush 600", 0.5, 0.51), ("hone", "angle {}", 120, 121), ("hone", "angle {}", 5, 4.9),
        ("hone", "angle {} flat", 60, 61), ("sleeve", "outside {} to 200", b + 0.01, b), ("sleeve", "outside 110 to {}", 110, 109.9),
        ("sleeve", "deck 0 {} / 0 0", sleeve.MOST_OUT_MM, sleeve.MOST_OUT_MM + 0.01), ("sleeve", "faced {}", sleeve.MOST_OUT_MM, sleeve.MOST_OUT_MM + 0.01),
        ("sleeve", "counterbore {}", sleeve.DEEPEST_COUNTERBORE_MM, sleeve.DEEPEST_COUNTERBORE_MM + 0.1),
        ("sleeve", "protrusion 0.1 {}", 1, 1.01), ("sleeve", "protrusion {} 0.1", 0.1, 0.11), ("sleeve", "cold {} C", 60, 61),
        ("gauge", "plate stages {} 100", 1, 0.9), ("gauge", "plate stages 50 {}", 100, 101), ("gauge", "{} C", 120, 121), ("gauge", "{} C", -30, -31),
        ("call", "chamber 62 gasket {} x 1.2", 1.3 * b, 1.31 * b), ("call", "chamber 62 gasket {} x 1.2", 0.9 * b, 0.89 * b),
        ("gauge", "wall 4.6 at {} clock 90", length - 0.1, length), ("gauge", "{}", 1.25 * b, 1.26 * b), ("gauge", "{}", 0.8 * b, 0.79 * b),
        ("gauge", "+{}", min(1.25 * b - zero, 0.24 * b), 0.26 * b),
    ]  # fmt: skip


@pytest.mark.parametrize("at", range(26))
def test_the_last_figure_is_taken_and_the_first_beyond_is_refused(state_of, at):
    state = state_of("2041")
    step, line, good, bad = lines(state)[at]
    entry = one_typed(step, line.format(figure(good)), state, HERE)
    assert wrongs(entry, state.block) == []
    try:
        entry = one_typed(step, line.format(figure(bad)), state, HERE)
    except BenchError as error:
        assert str(error)  # noqa: PT017  (refused as it is read, or by its declaration)
    else:
        assert wrongs(entry, state.block), line.format(figure(bad))


def test_there_is_a_case_for_every_line(state_of):
    assert len(lines(state_of("2041"))) == 26


@pytest.mark.parametrize("earlier, strokes, fine", [(20.0, "20", True), (20.0, "19", False), (20.0, "21", True)])
def test_strokes_of_a_step_never_grow_fewer(ledger_of, shipped, earlier, strokes, fine):
    state = after(ledger_of("2041"), shipped, CheckLogged(cylinder=1, strokes=earlier, sizes_mm=(105.2,)))
    if fine:
        assert one_typed("hone", f"{strokes} 105.2", state, HERE).strokes == float(strokes)
    else:
        with pytest.raises(BenchError, match="less than the 20 booked before"):
            one_typed("hone", f"{strokes} 105.2", state, HERE)


@pytest.mark.parametrize(
    "clock, zone",
    [
        (0, "elsewhere"),
        (44, "elsewhere"),
        (45, "thrust"),
        (90, "thrust"),
        (135, "thrust"),
        (136, "elsewhere"),
        (224, "elsewhere"),
        (225, "thrust"),
        (270, "thrust"),
        (315, "thrust"),
        (316, "elsewhere"),
    ],
)
def test_a_wall_read_across_the_crank_is_of_the_thrust_side(state_of, clock, zone):
    assert one_typed("gauge", f"wall 4.6 at 60 clock {clock}", state_of("2041"), HERE).zone == zone


@pytest.mark.parametrize("low, high, said", [(0.05, 0.05, "0.050 deep"), (0.013, 0.05, "0.013–0.050 deep")])
def test_a_defects_depth_is_told_as_measured_or_as_felt(low, high, said):
    entry = DefectMarked(
        cylinder=1,
        what="score",
        top_mm=20.0,
        bottom_mm=40.0,
        clock_deg=90.0,
        width_deg=10.0,
        deep_low_mm=low,
        deep_high_mm=high,
    )
    assert said in entry_words(entry, Show(Units.METRIC)) and not wrongs(entry, None)


@pytest.mark.parametrize(
    "text, celsius",
    [
        ("-30 C", -30.0),
        ("120 C", 120.0),
        ("32 F", 0.0),
        ("−4 C", -4.0),
        ("22,9 C", 22.9),
        ("22.9", None),
        ("wet", None),
    ],
)
def test_temperatures(text, celsius):
    assert measures.temperature(text) == (None if celsius is None else pytest.approx(celsius))


@pytest.mark.parametrize("feed, fine", [(bore.COARSEST_FEED_MM, True), (bore.COARSEST_FEED_MM + 0.01, False)])
def test_the_coarsest_feed(state_of, feed, fine):
    line = f"bar TPG 321 feed {figure(feed)} rpm 300"
    if fine:
        assert one_typed("bore", line, state_of("2041"), HERE).feed_mm == pytest.approx(feed)
    else:
        with pytest.raises(BenchError):
            one_typed("bore", line, state_of("2041"), HERE)
