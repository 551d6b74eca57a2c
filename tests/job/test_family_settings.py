"""What a family's earlier jobs bring back: practices that are not the shop's own, and what rests on the same measures."""

import pytest

from redline_bore.job.book_in.family_settings import set_on, settings_for
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.finish import FinishWindowStated
from tests.job.benches import after

SHOP = {"axis": "unworn bottom", "finish": "rk family", "honing": "two steps"}


@pytest.mark.parametrize(
    "chosen, brought",
    [
        ((), []),
        ((("axis", "unworn bottom"),), []),
        ((("axis", "crank line"),), [("axis", "crank line")]),
        ((("axis", "crank line"), ("finish", "ra and rz")), [("axis", "crank line"), ("finish", "ra and rz")]),
        ((("honing", "own"),), []),
    ],
)
def test_a_practice_is_brought_back_where_it_is_not_the_shops_own(ledger_of, shipped, chosen, brought):
    before = after(ledger_of("2041"), shipped, *(PracticeChosen(topic=t, name=n) for t, n in chosen))
    found = settings_for(before.book_in, dict(before.booking.practices) | SHOP, [set_on(before)])
    told = [(e.topic, e.name) for e in found if isinstance(e, PracticeChosen) and e.topic in SHOP]
    assert told == brought


def test_a_window_of_the_newest_job_wins(ledger_of, shipped):
    older = after(ledger_of("2041"), shipped, FinishWindowStated(parameter="Rk", low_um=0.4, high_um=1.4, source="x"))
    newer = after(ledger_of("2041"), shipped, FinishWindowStated(parameter="Rk", low_um=0.6, high_um=1.2, source="y"))
    found = [
        e
        for e in settings_for(newer.book_in, SHOP, [set_on(newer), set_on(older)])
        if isinstance(e, FinishWindowStated)
    ]
    assert [(e.parameter, e.low_um, e.source) for e in found if e.parameter == "Rk"] == [("Rk", 0.6, "y")]
