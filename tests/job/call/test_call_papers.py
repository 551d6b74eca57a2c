"""What goes on paper from a call: the order list, the quote, two calls side by side, and where a shadow stays."""

import numpy as np
import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call.finish_sizes import finish_size_at
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.call.shadow import is_swept, shadow_of
from redline_bore.job.card import Mark
from redline_bore.job.kinds.fold import fold
from redline_bore.job.state.calling import Apart
from redline_bore.job.words import shadow
from redline_bore.job.words.calls_beside import side_of
from redline_bore.job.words.quote import order_lines, quote_of
from redline_bore.store.quote_html import orders_csv, quote_html
from tests.job.benches import after, settled, spindle, swept
from tests.job.call.test_stand_by import LIGHT

MM = Show(Units.METRIC)
SLEEVE_4 = (Apart(cylinder=4, way="sleeve"),)
OWN_4 = (Apart(cylinder=4, way="own", oversize_mm=0.75),)


def told(lines):
    return [(line.count, line.what, line.size.split(", ")[-1]) for line in lines]


def test_one_size_is_one_set(state_of):
    assert told(order_lines(state_of("2041"), 0.75, (), MM)) == [
        (5, "pistons", "+0.75"), (5, "ring sets", "+0.75"), (1, "head gaskets", "bore 106.75 mm or more"),
    ]  # fmt: skip


def test_a_cylinder_at_its_own_size_is_ordered_apart(state_of):
    lines = order_lines(state_of("2041"), 0.5, OWN_4, MM)
    assert [(n, s) for n, w, s in told(lines) if w == "pistons"] == [(4, "+0.50"), (1, "+0.75")]
    assert "for 1, 2, 3 and 5" in lines[0].remark
    assert told(lines)[-1][2] == "bore 106.75 mm or more"  # the largest bore decides the gasket


def test_a_sleeved_cylinder_takes_the_common_piston_and_a_sleeve(state_of):
    lines = order_lines(state_of("2041"), 0.5, SLEEVE_4, MM)
    assert (5, "pistons", "+0.50") in told(lines)
    assert next(x for x in lines if x.what == "sleeves").count == 1


def test_a_quote_gives_the_reasons_and_what_else_was_weighed(ledger_of, shipped):
    quote = quote_of(fold(settled(ledger_of("2041"), shipped), shipped), 0.5, (), MM)
    page = quote_html(quote, MM)
    assert quote.sentence.startswith("Bore all five 0.50 over") and quote.way.standing in ("sure", "may do")
    assert "what we propose" in page and "What else was weighed" in page
    assert "5 pistons" in page and "one size, one set of pistons" in page
    assert page.count("<tr>") == page.count("</tr>") and "None" not in page


def test_a_call_that_is_no_listed_option_can_be_quoted(state_of):
    quote = quote_of(state_of("2041"), 1.0, SLEEVE_4, MM)
    assert quote.way is None and "sleeve 4" in quote.sentence and "None" not in quote_html(quote, MM)


def test_deglazing_is_quoted_without_sizes(ledger_of, shipped):
    state = after(ledger_of("2047"), shipped, LIGHT)
    quote = quote_of(state, None, (), MM)
    assert quote.sentence == "Deglaze only." and quote.fates == ()
    assert [x.what for x in quote.orders] == ["ring sets", "head gaskets"]
    assert "ring's gap" in quote_html(quote, MM).replace("&#39;", "'")


def test_the_order_list_is_plain_csv(state_of):
    rows = orders_csv(quote_of(state_of("2041"), 0.75, (), MM)).splitlines()
    assert rows[0] == "what,count,size,remark" and rows[1].startswith('pistons,5,"105.750 mm, +0.75"')


def test_two_calls_stand_in_the_same_lines(state_of):
    one, other = side_of(state_of("2041"), 0.75, (), MM), side_of(state_of("2041"), 0.5, SLEEVE_4, MM)
    assert [a.label for a in one.lines] == [b.label for b in other.lines]
    assert other.title == "+0.50, sleeve 4" and other.lines[3].value == "sleeve, sleeved"
    assert {x.label: x.value for x in one.lines}["stock on diameter, most"] == "0.76 mm"
    assert {x.label: x.value for x in side_of(state_of("2047"), 0.25, (), MM).lines}[
        "stock on diameter, most"
    ] == "not known"


# -- shadow --------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("over", [0.25, 0.5, 0.75, 1.0])
@pytest.mark.parametrize("cylinder", [1, 3, 4])
def test_the_shadow_says_what_the_ladder_says(state_of, cylinder, over):
    state = state_of("2041")
    found = shadow_of(state, cylinder, 105.0 + over)
    fate = ladder_of(state).fates(over)[cylinder - 1]
    word, bound = str(fate.fares), fate.column.cleanup.is_bound
    if word == "cleans up":
        assert found.may_share == 0.0
    elif word == "will not clean up":
        assert found.sure_share > 0.0
    else:
        assert found.sure_share == 0.0 and (found.may_share > 0.0 or not bound)


def test_a_bigger_cut_never_leaves_more_shadow(state_of):
    state = state_of("2041")
    found = [shadow_of(state, 4, 105.0 + over) for over in (0.1, 0.25, 0.4, 0.55, 0.7)]
    assert all(
        a.may_share >= b.may_share and a.sure_share >= b.sure_share for a, b in zip(found, found[1:], strict=False)
    )
    assert all((f.sure_mm <= f.may_mm + 1e-9)[~np.isnan(f.sure_mm)].all() for f in found)


def test_a_swept_wall_has_one_shadow(ledger_of, shipped):
    rows = [spindle(3), swept(3, 21.0, 105.02, 0.0, 0.2), swept(3, 84.0, 105.02, 0.0, 0.05), swept(3, 182.5, 105.02)]
    state = after(ledger_of("2041"), shipped, *rows)
    found = shadow_of(state, 3, 105.25)
    assert is_swept(state, 3) and found.swept
    known = ~np.isnan(found.sure_mm)
    apart = (found.may_mm - found.sure_mm)[known]
    assert apart.max() == pytest.approx(apart.min())  # one wall, seen at both ends of the clean-up
    clock = np.nanargmax(np.nanmax(found.may_mm, axis=0)) * 2.0
    assert clock == pytest.approx(90.0, abs=6.0)  # on the side that wore


def test_nothing_is_told_of_a_wall_nobody_read(state_of):
    assert shadow_of(state_of("2047"), 1, 78.25) is None
    assert shadow.advise(state_of("2047"), 1, 78.25, MM).mark is Mark.LOOK


@pytest.mark.parametrize(
    ("over", "mark", "words"),
    [
        (0.25, Mark.STOP, "a shadow stays"),
        (0.5, Mark.LOOK, "may stay"),
        (0.75, Mark.LOOK, "may stay"),
        (1.0, Mark.SOUND, "no shadow stays"),
    ],
)
def test_the_shadow_in_a_sentence(state_of, over, mark, words):
    advice = shadow.advise(state_of("2041"), 4, 105.0 + over, MM)
    assert advice.mark is mark and words in advice.sentence
    end = finish_size_at(state_of("2041"), 4, over)
    told = next(f for f in advice.figures if f.label == "ends at").value
    assert told == f"{MM.size(end.least_mm)}–{MM.size(end.most_mm)}" and end.most_mm - end.least_mm == pytest.approx(
        0.066
    )
