"""Why two shops disagree: reference cases, and what must hold whatever the figures."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.second_opinion import TERM_NAMES, ShopReading, explain
from tests.vectors import IN, cases, check, mm


def shop(case, name):
    table = case["inputs"][name]
    scale = IN if case["inputs"]["units"] == "inch" else 1.0

    def length(key):
        return next((table[f"{key}_{u}"] * scale for u in ("mm", "in") if f"{key}_{u}" in table), 0.0)

    return ShopReading(
        length("bore_reading"), length("piston_reading"), length("aim_clearance"), table["block_c"], table["piston_c"],
        table["plate_on"], table["bore_corrected_to_20"], table["piston_corrected_to_20"],
        length("bore_gauge_reads_over"), length("piston_micrometer_reads_over"), length("spot_axis_over_mean"),
        length("spot_depth_over_mean"),
    )  # fmt: skip


@pytest.mark.parametrize("case", cases("17", "second_opinion"))
def test_second_opinion_vectors(case):
    i = case["inputs"]
    opinion = explain(
        shop(case, "shop_a"), shop(case, "shop_b"), i["bore_1e6_per_c"], i["piston_1e6_per_c"],
        mm(case, "plate_on_minus_off_at_spot"), mm(case, "expanded_u"),
    )  # fmt: skip
    terms = {f"term_{name.replace(' ', '_')}": opinion.term(name) for name in TERM_NAMES}
    check(case, gap=opinion.gap_mm, left_over=opinion.left_over_mm, explained_within_u=opinion.explained, **terms)


shops = st.builds(
    ShopReading, st.floats(91.9, 92.1), st.floats(91.8, 92.0), st.floats(0.02, 0.1), st.floats(5, 40), st.floats(5, 40),
    st.booleans(), st.booleans(), st.booleans(), *[st.floats(-0.01, 0.01)] * 4,
)  # fmt: skip


@given(shops, shops, st.floats(-0.02, 0.02))
def test_the_terms_add_up_and_changing_places_turns_every_sign(a, b, plate):
    there, back = explain(a, b, 11.0, 20.5, plate, 0.004), explain(b, a, 11.0, 20.5, plate, 0.004)
    assert sum(v for _, v in there.terms) + there.left_over_mm == pytest.approx(there.gap_mm, abs=1e-9)
    assert back.gap_mm == pytest.approx(-there.gap_mm, abs=1e-9)
    for (_, one), (_, other) in zip(there.terms, back.terms, strict=True):
        assert one == pytest.approx(-other, abs=1e-9)
    assert there.explained == back.explained


def test_a_shop_agrees_with_itself():
    a = ShopReading(92.05, 91.99, 0.06, 30.0, 25.0, True)
    opinion = explain(a, a, 11.0, 20.5, 0.01, 0.004)
    assert opinion.gap_mm == 0.0 and opinion.explained and all(v == 0.0 for _, v in opinion.terms)
