"""The sample jobs are the same every time, and nobody's."""

from importlib import resources

import pytest

from redline_bore.core.errors import InputError
from redline_bore.demo import job_2029, job_2036, pictures
from redline_bore.demo.jobs import write_demo
from redline_bore.demo.walls import true_wall
from redline_bore.store.logbook import Logbook


def test_the_seed_gives_the_same_jobs_again(ledger_of, tmp_path, shipped):
    again = Logbook(tmp_path / "again.sqlite")
    write_demo(again, shipped)
    for number in ("2029", "2041", "2036", "2044", "2047"):
        assert again.ledger(again.job_id(number)) == ledger_of(number)
    with pytest.raises(InputError, match="already"):
        write_demo(again, shipped)
    again.close()


def test_they_stand_where_the_scenario_says(state_of):
    gauged, done, new = state_of("2041"), state_of("2036"), state_of("2047")
    assert (
        {r.plate_on for r in gauged.gauging.readings} == {True, False}
        and gauged.calling.decision is None
        and gauged.gauging.wall_readings
    )
    assert [d.what for d in gauged.gauging.defects_of(4)] == ["rust ring"] and gauged.gauging.defects_of(4)[
        0
    ].deep_high_mm == 0.18
    assert done.signing.stamp("sign_off") and done.calling.decision.oversize_mm == 0.508 and done.units == "inch"
    assert new.gauging.readings == () and len(new.gauging.ring_gaps) == 2
    railcar = state_of("2044")
    assert railcar.clamped.block_c == 34.0 and {a.way for a in railcar.calling.decision.apart} == {"sleeve"}
    assert (
        len(railcar.honing.checks_of(1)) > len(railcar.honing.checks_of(2)) > 0
        and railcar.signing.stamp("hone") is None
    )


def test_a_stand_in_has_a_wall_for_any_block(state_of):
    state = state_of("2036")
    wall = true_wall("9999", state.block, state.travel, 11.0)
    assert wall == true_wall("9999", state.block, state.travel, 11.0) and len(wall.cylinders) == 2
    assert 82.5 < wall.diameter_at(1, 20.0, 90.0, False, 20.0) < 82.9


@pytest.mark.parametrize("job", [job_2029, job_2036])
def test_the_crosshatch_of_a_sample_job_is_what_its_picture_shows(job, qapp_for_pictures):
    from redline_bore.ui.hatch_picture import hatch_entry

    number = job.__name__[-4:]
    for cylinder, told in job.HATCHES.items():
        seen = hatch_entry((resources.files(pictures) / f"{number}-{cylinder}.png").read_bytes(), cylinder)
        assert (seen.up_deg, seen.down_deg, seen.u_deg, seen.confidence) == pytest.approx(told, abs=0.05)


@pytest.fixture
def qapp_for_pictures():
    from redline_bore.app import application

    return application()


def test_the_complete_jobs_show_every_step_through_to_the_end(state_of):
    for number in ("2029", "2036"):
        state = state_of(number)
        assert {s.step for s in state.signing.stamps} == {
            "book_in",
            "gauge",
            "call",
            "bore",
            "hone",
            "finish",
            "sign_off",
        }
        for cylinder in state.cylinders:
            strokes = [t.plateau_strokes for t in state.finishing.traces_of(cylinder)]
            assert strokes.count(0.0) == 1 and len(strokes) == 4
            assert (
                state.finishing.hatch_of(cylinder)
                and state.signing.rings_of(cylinder)
                and state.final_of(cylinder, True)
            )
            assert state.gauging.photos_of(state.finishing.hatch_of(cylinder).seq)
        assert [c.what for c in state.signing.cares] == ["washed", "oiled"]
