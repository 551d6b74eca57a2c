"""Backups, putting one back, moving a logbook to another place, and what is cut off in the middle of it."""

import sqlite3
from datetime import UTC, datetime, timedelta

import pytest

from redline_bore.core.errors import EnvironmentTrouble, InputError
from redline_bore.job.kinds.entry import Draft
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.store.backup import Backup, back_up, backups_in, put_back, thin, too_many
from redline_bore.store.backup_folder import backup_folder, backup_of_the_day, name_backup_folder
from redline_bore.store.logbook import Logbook
from redline_bore.store.move import move
from redline_bore.store.rebuild import rebuild
from redline_bore.store.verify import verified

NOW = datetime(2026, 11, 29, 12, 0, tzinfo=UTC)
NUMBERS = ["2041", "2047", "2044", "2036", "2029"]


def reading(n=0):
    return Draft(ReadingBooked(cylinder=1, depth_mm=24.0, clock_deg=0.0, diameter_mm=105.0 + n / 1e4, plate_on=True), "RM")  # fmt: skip


def everything(book):
    return {x.number: (x.owner, x.engine, x.done, x.people, x.machines, x.aside, book.ledger(x.job_id)) for x in book.jobs()}  # fmt: skip


# -- backup ------------------------------------------------------------------------------------------------------------


def test_a_backup_is_the_whole_logbook_in_one_file(shared, tmp_path):
    job = shared.job_id("2041")
    shared.append(job, 0, [reading()])
    shared.set_figure("cleanup.skin", 0.02, "RM")
    shared.set_aside("2029", "RM")
    ticks = []
    path = back_up(shared, tmp_path, lambda done, of: ticks.append((done, of)))
    assert [p.name for p in tmp_path.iterdir() if "-20" in p.name] == [
        path.name
    ] and path.stat().st_mode & 0o777 == 0o600
    assert ticks[-1][0] == ticks[-1][1]
    copy = Logbook(path)
    assert everything(copy) == everything(shared) and copy.figures() == shared.figures()
    assert not verified(copy).faults and rebuild(copy).other == ()
    copy.append(job, 0, [reading(1)])  # a logbook like any other: it can be gone on with
    copy.close()


def test_what_is_booked_while_a_backup_is_made_waits_for_nobody(logbook, tmp_path, monkeypatch):
    monkeypatch.setattr("redline_bore.store.backup.PAGES", 20)
    job, other = logbook.job_id("2041"), Logbook(logbook.path)

    def book(done, _of):
        if done < 100:
            other.append(job, 0, [reading(done)])

    copy = Logbook(back_up(logbook, tmp_path, book))
    assert not verified(copy).faults and [x.number for x in copy.jobs()] == NUMBERS
    copy.close()
    other.close()


def test_a_folder_that_is_not_there_or_full_is_told_and_nothing_is_left(logbook, tmp_path, monkeypatch):
    with pytest.raises(EnvironmentTrouble, match="no folder"):
        back_up(logbook, tmp_path / "none")

    def full(*_given):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("redline_bore.store.backup._in_one_file", full)
    (tmp_path / "to").mkdir()
    with pytest.raises(EnvironmentTrouble, match="No space left"):
        back_up(logbook, tmp_path / "to")
    assert list((tmp_path / "to").iterdir()) == []


def test_a_copy_that_is_not_whole_is_no_backup(logbook, tmp_path, monkeypatch):
    from redline_bore.store import backup

    real = backup._in_one_file

    def spoilt(path):
        real(path)
        with path.open("rb+") as file:
            whole = file.read()
            file.seek(whole.rindex(b"reading_booked") - 4)
            file.write(b"7")

    monkeypatch.setattr(backup, "_in_one_file", spoilt)
    (tmp_path / "to").mkdir()
    with pytest.raises(EnvironmentTrouble, match="damaged"):
        back_up(logbook, tmp_path / "to")
    assert list((tmp_path / "to").iterdir()) == []


@pytest.mark.parametrize(
    ("hours", "stay"),
    [
        ([0, 1, 2, 47, 48], [0, 1, 2, 47, 48]),  # all of two days
        ([0, 49, 50, 51], [0, 49]),  # of the third day the newest
        ([0, 72, 96, 120], [0, 72, 96, 120]),
        ([0, 24 * 59, 24 * 59 + 1], [0, 24 * 59]),
        (
            [0, 24 * 70, 24 * 71, 24 * 72, 24 * 80],
            [0, 24 * 70, 24 * 80],
        ),  # one a week: 70 to 72 days are of one
        ([24 * 900], [24 * 900]),  # the newest, whatever its age
        ([0, 24 * 731], [0]),
        ([0, 24 * 730], [0, 24 * 730]),
        ([], []),
    ],
)
def test_backups_are_kept_by_age(hours, stay, tmp_path):
    made = [Backup(tmp_path / str(h), NOW - timedelta(hours=h)) for h in hours]
    gone = {b.path.name for b in too_many(made, NOW)}
    assert [h for h in hours if str(h) not in gone] == stay


def test_files_of_somebody_else_are_left_alone(tmp_path):
    for name in (
        "logbook-notes.sqlite",
        "logbook-20200101-000000.sqlite",
        "logbook-20200101-010000.sqlite",
        "other-20200101-000000.sqlite",
    ):
        (tmp_path / name).write_text("x")
    gone = thin(tmp_path, "logbook", NOW)
    assert [p.name for p in gone] == ["logbook-20200101-000000.sqlite"]
    assert len(backups_in(tmp_path, "logbook")) == 1 and len(list(tmp_path.iterdir())) == 3


def test_the_backup_of_the_day_is_made_once_where_the_shop_named(logbook, tmp_path):
    assert backup_folder() is None and backup_of_the_day(logbook, NOW) is None
    to = tmp_path / "kept"
    to.mkdir()
    name_backup_folder(to)
    assert backup_folder() == to
    first = backup_of_the_day(logbook, NOW)
    assert first is not None and first.parent == to
    assert backup_of_the_day(logbook, NOW + timedelta(hours=19)) is None
    assert backup_of_the_day(logbook, NOW + timedelta(hours=20)) is not None
    name_backup_folder(None)
    assert backup_folder() is None


# -- putting back ------------------------------------------------------------------------------------------------------


def test_a_backup_is_put_back_and_what_stood_there_is_kept(logbook, tmp_path):
    before = everything(logbook)
    path = back_up(logbook, tmp_path)
    logbook.append(logbook.job_id("2041"), 0, [reading()])
    with pytest.raises(EnvironmentTrouble, match="open"):
        put_back(path, logbook.path)  # somebody has it open
    logbook.close()
    put_back(path, logbook.path)
    again = Logbook(logbook.path)
    assert everything(again) == before
    again.close()
    kept = list(tmp_path.glob("*-before-restore-*.sqlite"))
    assert len(kept) == 1 and len(Logbook(kept[0]).ledger(logbook.job_id("2041"))) == len(before["2041"][-1]) + 1


def test_what_is_no_backup_is_not_put_back(logbook, tmp_path):
    (tmp_path / "x.sqlite").write_bytes(b"")
    with pytest.raises(InputError, match="no logbook"):
        put_back(tmp_path / "x.sqlite", logbook.path)
    path = back_up(logbook, tmp_path)
    with path.open("rb+") as file:
        file.seek(9000)
        file.write(b"\x00" * 4000)
    with pytest.raises(EnvironmentTrouble, match="damaged"):
        put_back(path, tmp_path / "new.sqlite")
    assert not (tmp_path / "new.sqlite").exists()


# -- moving ------------------------------------------------------------------------------------------------------------


@pytest.fixture(params=["to a server", "to a file"])
def places(request, demo_path, tmp_path):
    """Two places: a logbook with the sample jobs, and an empty one to move it to."""
    if request.param == "to a server":
        server = request.getfixturevalue("server")
        return demo_path, server.url(server.database())
    return request.getfixturevalue("bench_url"), tmp_path / "new.sqlite"


def test_a_logbook_is_moved_as_it_stands(places):
    source, target = (Logbook(where) for where in places)
    source.append(source.job_id("2044"), 0, [reading()])
    source.set_figure("cleanup.skin", 0.02, "RM")
    source.set_aside("2029", "RM")
    ticks = []
    assert move(source, target, lambda done, of: ticks.append((done, of))) == 5 and ticks[-1] == (5, 5)
    assert everything(target) == everything(source) and target.figures() == source.figures()
    assert [x.number for x in target.jobs()] == [x.number for x in source.jobs()]
    assert not verified(target).faults and rebuild(target).other == ()
    assert move(source, target) == 5  # nothing new
    source.append(source.job_id("2041"), 0, [reading(1)])
    source.set_aside("2029", "RM", False)
    move(source, target)
    assert everything(target) == everything(source)
    new = target.append(target.job_id("2041"), 0, [reading(2)])[-1]
    assert new.seq == len(source.ledger(source.job_id("2041"))) + 1
    target.set_figure("cleanup.skin", 0.03, "RM")  # numbered behind what came
    target.set_aside("2047", "RM")
    source.close()
    target.close()


@pytest.mark.parametrize("after", range(1, 5))
def test_a_move_that_is_broken_off_goes_on_where_it_was(places, after):
    source, target = (Logbook(where) for where in places)

    def stop(done, _of):
        if done == after:
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        move(source, target, stop)
    assert len(target.jobs()) == after
    move(source, target)
    assert everything(target) == everything(source) and not verified(target).faults
    source.close()
    target.close()


def test_a_place_that_holds_something_else_is_not_moved_into(demo_path, tmp_path, ledger_of):
    target, source = Logbook(tmp_path / "other.sqlite"), Logbook(demo_path)
    target.take_ledger([Draft(ledger_of("2041")[0].entry, "RM", at="2026-11-24T10:00:00.000+00:00")])
    with pytest.raises(InputError, match="take an empty one, or merge"):
        move(source, target)
    assert len(target.jobs()) == 1
    target.close()
    source.close()


def test_bytes_flipped_on_the_way_are_told(logbook, tmp_path):
    path = back_up(logbook, tmp_path)
    with sqlite3.connect(path) as raw:
        raw.execute("DROP TRIGGER entry_no_update")
        raw.execute(
            "UPDATE entry SET body = replace(body, '105.', '106.') WHERE seq = 20 AND job_id = ?",
            (logbook.job_id("2041"),),
        )
    book = Logbook(path)
    assert any("entry 20" in fault for fault in verified(book).faults)
    book.close()


def test_a_damaged_entry_keeps_no_logbook_from_its_backup(logbook, demo_path, tmp_path):
    with sqlite3.connect(demo_path) as raw:
        raw.execute("DROP TRIGGER entry_no_update")
        raw.execute("UPDATE entry SET body = '{}' WHERE seq = 20 AND job_id = ?", (logbook.job_id("2041"),))
    copy = Logbook(back_up(logbook, tmp_path))
    assert any("entry 20" in fault for fault in verified(copy).faults)  # copied as it stands, and told
    copy.close()


def test_a_log_that_was_left_lying_is_not_played_into_what_is_put_back(logbook, tmp_path):
    path = back_up(logbook, tmp_path)
    before = everything(logbook)
    for n in range(40):
        logbook.append(logbook.job_id("2041"), 0, [reading(n)])
    log = logbook.path.with_name(f"{logbook.path.name}-wal").read_bytes()  # as after a power cut
    logbook.close()
    logbook.path.unlink()
    logbook.path.with_name(f"{logbook.path.name}-wal").write_bytes(log)
    put_back(path, logbook.path)
    again = Logbook(logbook.path)
    assert everything(again) == before and not verified(again).faults
    again.close()


def test_a_logbook_is_not_moved_onto_itself(logbook):
    with pytest.raises(InputError, match="the logbook itself"):
        move(logbook, Logbook(logbook.path))


@pytest.mark.parametrize("ahead", [True, False])
def test_a_job_that_was_worked_on_at_the_new_place_is_not_moved_over(demo_path, tmp_path, ahead):
    source, target = Logbook(demo_path), Logbook(tmp_path / "new.sqlite")
    move(source, target)
    job = source.job_id("2041")
    target.append(job, 0, [reading(1)])
    if not ahead:
        source.append(job, 0, [reading(2)])
        source.append(job, 0, [reading(3)])
    before = everything(target)
    with pytest.raises(InputError, match="merge the two"):
        move(source, target)
    assert everything(target) == before and not verified(target).faults
    source.close()
    target.close()
