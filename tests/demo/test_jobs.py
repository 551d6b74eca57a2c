"""The sample jobs are the same every time, and nobody's."""

import pytest

from redline_bore.core.errors import InputError
from redline_bore.demo.jobs import write_demo
from redline_bore.demo.walls import true_wall
from redline_bore.store.logbook import Logbook


def test_the_seed_gives_the_same_jobs_again(ledger_of, tmp_path, shipped):
    again = Logbook(tmp_path / "again.sqlite")
    write_demo(again, shipped)
    for number in ("2041", "2036", "2044", "2047"):
        assert again.ledger(again.job_id(number)) == ledger_of(number)
    with pytest.raises(InputError, match="already"):
        write_demo(again, shipped)
    again.close()


def test_they_stand_where_the_scenario_says(state_of):
    gauged, done, new = state_of("2041"), state_of("2036"), state_of("2047")
    assert {r.plate_on for r in gauged.readings} == {True, False} and gauged.decision is None and gauged.wall_readings
    assert [d.what for d in gauged.defects_of(4)] == ["rust ring"] and gauged.defects_of(4)[0].deep_high_mm == 0.18
    assert done.stamp("sign_off") and done.decision.oversize_mm == 0.508 and done.units == "inch"
    assert new.readings == () and len(new.ring_gaps) == 2
    railcar = state_of("2044")
    assert railcar.block_c == 34.0 and {a.way for a in railcar.decision.apart} == {"sleeve"}
    assert len(railcar.checks_of(1)) > len(railcar.checks_of(2)) > 0 and railcar.stamp("hone") is None


def test_a_stand_in_has_a_wall_for_any_block(state_of):
    state = state_of("2036")
    wall = true_wall("9999", state.block, state.travel, 11.0)
    assert wall == true_wall("9999", state.block, state.travel, 11.0) and len(wall.cylinders) == 2
    assert 82.5 < wall.diameter_at(1, 20.0, 90.0, False, 20.0) < 82.9
