"""Photos and other shops' files: kept with the job, out and in again, refused when damaged; older logbooks grow."""

import json
import sqlite3

import pytest

from redline_bore.core.errors import BenchError, EnvironmentTrouble, FaultyInput, InputError
from redline_bore.core.show import Show
from redline_bore.job.kinds.defects import DefectMarked, PhotoAttached
from redline_bore.job.kinds.entry import Draft
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.opinions import OtherReadingBooked, SecondOpinionOpened
from redline_bore.store import file_connection
from redline_bore.store.job_file import job_from_json, job_to_json
from redline_bore.store.logbook import Logbook
from redline_bore.store.opinion_html import opinion_html
from redline_bore.store.photos import photo_from_file, photo_of
from redline_bore.store.readings_csv import readings_from_csv, sweeps_to_csv, taken_words
from redline_bore.store.rebuild import rebuild
from tools.older import as_written_before

PNG = b"\x89PNG\r\n\x1a\n" + b"0" * 40


@pytest.fixture
def pictured(shared):
    """Job 2041 with a photo of its rust ring."""
    job = shared.job_id("2041")
    ledger = shared.ledger(job)
    rust = next(r.seq for r in ledger if isinstance(r.entry, DefectMarked))
    photo = photo_of(PNG, "rust.png")
    shared.keep_photo(photo)
    shared.keep_photo(photo)  # twice is once
    entry = PhotoAttached(seq=rust, name="rust.png", media=photo.media, sha256=photo.sha256)
    shared.append(job, ledger[-1].seq, [Draft(entry, "RM")])
    return shared.ledger(job)


def test_a_photo_comes_back_as_it_was(shared, pictured, shipped):
    state = fold(pictured, shipped)
    (photo,) = state.gauging.photos_of(state.gauging.defects_of(4)[0].seq)
    assert shared.photo(photo.sha256).data == PNG and photo.name == "rust.png"
    with pytest.raises(InputError, match="not in this logbook"):
        shared.photo("0" * 64)


@pytest.mark.parametrize("act", ["UPDATE photo SET media = 'x'", "DELETE FROM photo"])
def test_a_photo_is_neither_changed_nor_deleted(logbook, act):
    logbook.keep_photo(photo_of(PNG, "rust.png"))
    with sqlite3.connect(logbook.path) as raw, pytest.raises(sqlite3.IntegrityError, match="nothing in a logbook"):
        raw.execute(act)


def test_a_job_takes_its_photos_along(shared, pictured, shipped, tmp_path):
    file = job_from_json(job_to_json(pictured, shared.photos_of(pictured)), shipped)
    assert file.ledger == pictured and file.photos[0].data == PNG
    other = Logbook(tmp_path / "other.sqlite")
    other.take_ledger(
        [Draft(r.entry, r.person, r.instrument, r.block_c, r.typed, r.at) for r in file.ledger], file.photos
    )
    assert other.photo(file.photos[0].sha256).data == PNG
    other.close()


def test_a_damaged_or_missing_photo_is_told(shared, pictured, shipped):
    text = job_to_json(pictured, shared.photos_of(pictured))
    for change, reason in (
        (lambda t: t["photos"][0].update(sha256="0" * 64), "damaged"),
        (lambda t: t["photos"][0].update(data="!!"), "data"),
        (lambda t: t["photos"][0].update(data="AAAA"), "neither a PNG"),
    ):
        table = json.loads(text)
        change(table)
        with pytest.raises(FaultyInput, match=reason):
            job_from_json(json.dumps(table), shipped)


def test_a_missing_photo_keeps_no_job_from_going_out_or_coming_in(shared, pictured, shipped):
    table = json.loads(job_to_json(pictured, shared.photos_of(pictured)))
    table.update(photos=[])
    assert len(job_from_json(json.dumps(table), shipped).ledger) == len(pictured)
    shared.spoil("DELETE FROM photo")
    assert shared.photos_of(pictured) == ()


def test_only_pictures_are_taken(tmp_path):
    (tmp_path / "a.png").write_bytes(b"hello")
    with pytest.raises(InputError, match="neither a PNG nor a JPEG"):
        photo_from_file(tmp_path / "a.png")
    with pytest.raises(EnvironmentTrouble, match="cannot be read"):
        photo_from_file(tmp_path / "none.png")
    assert photo_of(b"\xff\xd8\xff\xe0", "a.jpg").media == "image/jpeg"


@pytest.mark.parametrize("version", ["0001", "0002", "0003", "0004"])
def test_a_logbook_of_an_older_version_grows_and_keeps_its_jobs(demo_path, version):
    before = Logbook(demo_path)
    lines, ledger = before.jobs(), before.ledger(before.job_id("2041"))
    before.close()
    as_written_before(demo_path, version)
    assert not file_connection.is_current(demo_path)
    book = Logbook(demo_path)
    assert file_connection.is_current(demo_path) and book.ledger(book.job_id("2041")) == ledger  # linked as they stood
    assert {(x.number, x.owner, x.engine, x.done, x.people, x.machines) for x in book.jobs()} == {
        (x.number, x.owner, x.engine, x.done, x.people, x.machines) for x in lines
    }
    copies = list(demo_path.parent.glob("logbook-before-upgrade-*.sqlite"))
    assert (
        len(copies) == 1
        and file_connection.version_of(copies[0]) == version
        and copies[0].stat().st_mode & 0o777 == 0o600
    )
    assert len(book.outdated()) == 5 and rebuild(book, all_of_them=False).jobs == 5 and not book.outdated()
    if version == "0001":
        book.keep_photo(photo_of(PNG, "x"))
    book.close()


def test_a_logbook_of_a_newer_version_is_told_and_left_alone(demo_path):
    with sqlite3.connect(demo_path) as raw:
        raw.execute("UPDATE alembic_version SET version_num = '9999'")
    with pytest.raises(EnvironmentTrouble, match="newer version"):
        Logbook(demo_path)


def test_sweeps_go_out_and_come_in_again(state_of):
    state = state_of("2041")
    rows = readings_from_csv(sweeps_to_csv(state), state)
    assert taken_words(rows) == "5 sweeps" and rows[0].block_c == 20.0
    assert rows[0].entry.radius_mm == pytest.approx(state.gauging.sweeps[0].radius_mm, abs=1e-4)
    assert [r.entry.depth_mm for r in rows] == [s.depth_mm for s in state.gauging.sweeps]


def test_another_shops_file_may_leave_out_where_it_read(state_of):
    state = state_of("2041")
    rows = readings_from_csv("cylinder;diameter_mm;block_c\n1;105.02;14\n2;105.03;14\n", state, "Weir works")
    assert [type(r.entry) for r in rows] == [SecondOpinionOpened, OtherReadingBooked, OtherReadingBooked]
    assert rows[0].entry.block_c == 14.0 and rows[1].entry.depth_mm is None and taken_words(rows) == "2 readings"


def test_three_point_readings_are_told_apart_in_a_file(state_of):
    state = state_of("2041")
    text = "cylinder,depth_mm,clock_deg,diameter_mm,gauge\n1,24,0,105.1,three-point\n1,24,0,105.1,\n"
    assert [r.entry.gauge for r in readings_from_csv(text, state)] == ["three-point", "two-point"]
    with pytest.raises(FaultyInput, match="line 2, gauge"):
        readings_from_csv(text.replace("three-point", "kettle"), state)


def test_the_half_page_says_both_sides(state_of):
    state = state_of("2036")
    html = opinion_html(state, Show(state.units))
    assert "Both are right" in html and "owner" in html and html.count("<tr>") == 15
    with pytest.raises(BenchError, match="no second opinion"):
        opinion_html(state_of("2041"), Show(state.units))
