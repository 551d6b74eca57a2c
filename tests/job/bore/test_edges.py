"""Edges that random faults went unseen at, each worked by hand: the bar and its shelf."""

from types import SimpleNamespace as Some

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.bore.tools import shelf_of, shelf_of_job
from redline_bore.job.kinds.bore import BarSet, EdgeTurned, InsertShelved, MachineStated
from tests.job.benches import after, one_typed

METRIC = Show(Units.METRIC)


def test_the_insert_in_the_bar_is_the_one_that_is_marked():
    def record(seq, entry):
        return Some(seq=seq, entry=entry)

    told = {"nose_radius_mm": 0.4, "rake": "positive", "grade": "plain"}
    ledger = [
        record(1, InsertShelved(insert="a", edges=3, count=2, **told)),
        record(2, BarSet(insert="b", nose_radius_mm=0.4, rake="positive", feed_mm=0.1, rpm=300.0)),
        record(3, EdgeTurned(insert="a")),
    ]
    found = {line.insert: line for line in shelf_of([shelf_of_job(ledger, frozenset())], "b")}
    assert not found["a"].in_bar and found["b"].in_bar
    assert (found["a"].edges, found["a"].used, found["a"].left) == (6, 1, 5) and found["b"].left == 0


def test_two_speeds_stand_beside_the_one_that_is_set(state_of, ledger_of, shipped):
    from redline_bore.job.bore.plan import cuts_beside

    bar = BarSet(insert="TPG 321", nose_radius_mm=0.4, rake="positive", feed_mm=0.08, rpm=850.0)
    north = MachineStated(name="north", thick_mm=60.0, reach_mm=300.0, speeds_rpm=(750.0, 800.0, 850.0, 900.0, 950.0))
    own = [c for c in cuts_beside(after(ledger_of("2041"), shipped, north, bar)) if c.what == "TPG 321"]
    assert [c.rpm for c in own] == [850.0, 800.0, 900.0]


@pytest.mark.parametrize(
    "text, ok",
    [
        ("insert TPG 321 coated 1", True),
        ("insert TPG 321 coated 0", False),
        ("insert TPG 321 edges 1 coated 2", True),
        ("insert TPG 321 edges 17 coated 2", False),
    ],
)
def test_how_many_inserts_and_edges_there_can_be(state_of, text, ok):
    from redline_bore.core.gauging import Place
    from redline_bore.job.kinds.phrase import Where

    where = Where(1, Place(0, 0), Units.METRIC)
    if ok:
        assert one_typed("bore", text, state_of("2041"), where).count == int(text.split("coated ")[1].split()[0])
    else:
        with pytest.raises(InputError):
            one_typed("bore", text, state_of("2041"), where)
