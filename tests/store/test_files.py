"""Files in and out: nothing lost on the way, nothing half taken in, every fault told."""

import json
from pathlib import Path

import jsonschema
import pytest

from redline_bore.core.errors import EnvironmentTrouble, FaultyInput, InputError
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.sign_off.sheet import SHOP, sheet_of
from redline_bore.store.exports import read_text, write_text
from redline_bore.store.importing import import_job
from redline_bore.store.job_file import job_from_json, job_schema, job_to_json
from redline_bore.store.logbook import Logbook
from redline_bore.store.readings_csv import readings_from_csv, readings_to_csv
from redline_bore.store.sheet_html import sheet_html
from tests.job.benches import but

DOCS = Path(__file__).parent.parent.parent / "docs"


def test_readings_go_out_and_come_back_the_same(state_of):
    state = state_of("2041")
    rows = readings_from_csv(readings_to_csv(state), state)
    assert len(rows) == len(state.gauging.readings) == 300
    for row, reading in zip(rows, state.gauging.readings, strict=True):
        assert (row.entry.cylinder, row.entry.clock_deg, row.entry.plate_on) == (
            reading.cylinder,
            reading.clock_deg,
            reading.plate_on,
        )
        assert row.entry.diameter_mm == pytest.approx(reading.raw_mm, abs=5e-5)
        assert (row.block_c, row.person) == (20.4, "RM")


def test_inch_jobs_write_inches(state_of):
    text = readings_to_csv(state_of("2036"))
    assert text.startswith("cylinder,depth_in,clock_deg,diameter_in,plate,gauge,block_c,person,at\n")
    rows = readings_from_csv(text, state_of("2036"))
    assert rows[0].entry.diameter_mm == pytest.approx(state_of("2036").gauging.readings[0].raw_mm, abs=2e-4)


def test_other_hands_write_semicolons_and_decimal_commas(state_of):
    text = "\ufeffCylinder;Depth_mm;Clock_deg;Diameter_mm;Plate\r\n1;24;90;105,214;on\r\n\r\n2;60;0;105,05;\r\n"
    rows = readings_from_csv(text.replace("105,214", "105,21"), state_of("2041"))
    assert [r.entry.diameter_mm for r in rows] == [105.21, 105.05]
    assert [r.entry.plate_on for r in rows] == [True, True]  # left empty: as the plate stands in the job


def test_every_faulty_row_is_told_with_line_column_and_reason(state_of):
    text = (
        "cylinder,depth_mm,clock_deg,diameter_mm,plate,block_c\n"
        "1,24,90,105.214,on,20\n9,24,90,105.2,on,20\n1,240,90,105.2,on,20\n1,24,400,105.2,on,20\n"
        "1,24,90,4.142,on,20\n1,24,90,,maybe,hot\n1,24,90,105.2,on,20,extra\n"
    )
    with pytest.raises(FaultyInput) as caught:
        readings_from_csv(text, state_of("2041"))
    told = {f.path: f.reason for f in caught.value.faults}
    assert "1 to 5" in told["line 3, cylinder"]
    assert "not in a cylinder" in told["line 4, depth_mm"]
    assert "between 0 and 360" in told["line 5, clock_deg"]
    assert "write 4.142in" in told["line 6, diameter_mm"]
    assert {"line 7, diameter_mm", "line 7, plate", "line 7, block_c"} <= set(told)
    assert "7 cells" in told["line 8"]


@pytest.mark.parametrize(
    "text, reason",
    [
        ("", "empty"),
        ("cylinder,depth,clock_deg,diameter_mm\n", "depth_mm or depth_in"),
        ("cylinder,depth_mm,depth_in,clock_deg,diameter_mm\n", "one unit"),
        ("depth_mm,diameter_mm\n", "no column cylinder"),
        ("cylinder,depth_mm,clock_deg,diameter_mm\n", "no readings"),
        ("\x00\x01\n", "header"),
    ],
)
def test_headers_that_do_not_say_enough_are_refused(state_of, text, reason):
    with pytest.raises(FaultyInput, match=reason):
        readings_from_csv(text, state_of("2041"))


@pytest.mark.parametrize("number", ["2029", "2041", "2036", "2044", "2047"])
def test_a_job_goes_to_another_logbook_whole(logbook, ledger_of, tmp_path, shipped, number):
    path = tmp_path / "job.json"
    write_text(path, job_to_json(ledger_of(number), logbook.photos_of(ledger_of(number))))
    other = Logbook(tmp_path / "other.sqlite")
    assert import_job(other, path, shipped) == number
    assert other.ledger(other.job_id(number)) == ledger_of(number)
    with pytest.raises(InputError, match="already"):
        import_job(other, path, shipped)
    other.close()


def test_the_published_schema_is_the_one_in_force(ledger_of):
    published = json.loads((DOCS / "job.schema.json").read_text())
    assert published == job_schema(), "make schema writes docs/job.schema.json anew"
    jsonschema.validate(json.loads(job_to_json(ledger_of("2041"))), published)


def damaged(ledger_of, change):
    table = json.loads(job_to_json(ledger_of("2047")))
    change(table)
    return json.dumps(table)


@pytest.mark.parametrize(
    "change, path, reason",
    [
        (lambda t: t.update(format="something"), "format", "redline-bore-job"),
        (lambda t: t["ledger"][1].update(seq=7), "ledger[1].seq", "without a gap"),
        (lambda t: t["ledger"][2]["entry"].update(gap_mm="wide"), "ledger[2].entry.gap_mm", "number"),
        (lambda t: t["ledger"][2]["entry"].update(cylinder=3), "ledger[2].entry.cylinder", "1 to 1"),
        (lambda t: t["ledger"][2]["entry"].update(colour="red"), "ledger[2].entry.colour", "unexpected"),
        (lambda t: t["ledger"].pop(0), "ledger[0].entry", "begins with the opening"),
        (
            lambda t: t["ledger"][0]["entry"]["book_in"]["block"].update(bore_mm=0),
            "ledger[0].entry.book_in.block.bore_mm",
            "is no cylinder",
        ),
        (lambda t: t["ledger"][0]["entry"]["figures"].update({"cleanup.skin": "thin"}), "ledger", "cleanup.skin"),
        (lambda t: t.update(ledger=[]), "ledger", "at least 1"),
    ],
)
def test_a_damaged_job_file_is_refused_with_its_paths(ledger_of, shipped, change, path, reason):
    with pytest.raises(FaultyInput) as caught:
        job_from_json(damaged(ledger_of, change), shipped)
    assert any(f.path == path and reason in f.reason for f in caught.value.faults), caught.value.faults


@pytest.mark.parametrize(
    "kind, change, field, reason",
    [
        ("deck_read", {"rows_mm": [[0.0, 0.1], [0.2]]}, "rows_mm", "as many heights"),
        ("deck_read", {"rows_mm": []}, "rows_mm", "holds no figure"),
        ("deck_read", {"bank": 5}, "bank", "banks 0 and 1"),
        ("parent_read", {"sizes_mm": []}, "sizes_mm", "holds no figure"),
        ("hole_bored", {"sizes_mm": []}, "sizes_mm", "holds no figure"),
        ("hole_bored", {"cylinder": 0}, "cylinder", "not a cylinder"),
        ("hole_bored", {"cylinder": 3}, "cylinder", "1 to 2"),
        ("machine_stated", {"speeds_rpm": []}, "speeds_rpm", "holds no figure"),
    ],
)
def test_bar_and_sleeve_entries_without_figures_are_refused(ledger_of, shipped, kind, change, field, reason):
    table = json.loads(job_to_json(ledger_of("2044")))
    at = next(i for i, r in enumerate(table["ledger"]) if r["entry"]["kind"] == kind)
    table["ledger"][at]["entry"].update(change)
    with pytest.raises(FaultyInput) as caught:
        job_from_json(json.dumps(table), shipped)
    assert any(f.path == f"ledger[{at}].entry.{field}" and reason in f.reason for f in caught.value.faults)


@pytest.mark.parametrize("text", ["", "{", "[1, 2]", '{"format": NaN}'])
def test_what_is_no_json_is_refused(text, shipped):
    with pytest.raises(FaultyInput):
        job_from_json(text, shipped)


def test_the_sheet_says_what_was_done_and_what_is_not_known(state_of):
    done = sheet_html(sheet_of(state_of("2036")), Show(Units.INCH), {"wall_1": "<svg></svg>"}, SHOP)
    for words in (
        "Job 2036",
        "0.020 over",
        "3.2703",
        "coarse",
        "plateau",
        "RM, 2026-10-12",
        "<svg>",
        "window 0.0024",
    ):
        assert words in done, words
    open_job = sheet_html(sheet_of(state_of("2041")), Show(Units.METRIC), {}, SHOP)
    assert "not measured" in open_job and "The call has not been taken." in open_job
    assert "No cylinder has been gauged" in open_job  # no pictures were handed in


def test_names_on_the_sheet_are_not_markup(state_of):
    from dataclasses import replace

    state = state_of("2036")
    odd = but(state, booking={"book_in": replace(state.book_in, owner="<script>alert(1)</script>")})
    assert "<script>" not in sheet_html(sheet_of(odd), Show(Units.INCH), {}, SHOP)


def test_files_are_written_whole_or_not_at_all(tmp_path):
    path = tmp_path / "sheet.html"
    write_text(path, "before")
    with pytest.raises(EnvironmentTrouble, match="cannot be written"):
        write_text(tmp_path / "nowhere" / "sheet.html", "x")
    assert path.read_text() == "before" and list(tmp_path.glob("*.part")) == []
    (tmp_path / "bytes").write_bytes(b"\xff\xfe\x00")
    with pytest.raises(EnvironmentTrouble, match="UTF-8"):
        read_text(tmp_path / "bytes")
    with pytest.raises(EnvironmentTrouble, match="cannot be read"):
        read_text(tmp_path / "none")


@pytest.mark.parametrize(
    "kind, changes, path",
    [
        ("trace_booked", {"heights": "AAAA"}, "heights"),
        ("trace_booked", {"step_um": -1.0}, "step_um"),
        ("trace_booked", {"plateau_strokes": -2.0}, "plateau_strokes"),
        ("hatch_seen", {"up_deg": 400.0}, "up_deg"),
        ("hatch_seen", {"confidence": 3.0}, "confidence"),
        ("rings_gapped", {"top_mm": -0.1}, "top_mm"),
        ("final_gauged", {"across_mm": [83.0]}, "across_mm"),
        ("final_gauged", {"sizes_mm": []}, "sizes_mm"),
    ],
)
def test_damage_to_the_finish_is_told_with_its_path(logbook, ledger_of, shipped, kind, changes, path):
    ledger = ledger_of("2036")
    table = json.loads(job_to_json(ledger, logbook.photos_of(ledger)))
    place = next(i for i, r in enumerate(table["ledger"]) if r["entry"]["kind"] == kind)
    table["ledger"][place]["entry"].update(changes)
    with pytest.raises(FaultyInput) as told:
        job_from_json(json.dumps(table), shipped)
    assert f"ledger[{place}].entry.{path}" in {f.path for f in told.value.faults}


def test_a_window_that_is_none_is_not_let_in(ledger_of, shipped):
    table = json.loads(job_to_json(ledger_of("2041")))
    last = table["ledger"][-1]
    entry = {"kind": "finish_window_stated", "parameter": "Rk", "low_um": 2.0, "high_um": 1.0}
    table["ledger"].append(last | {"seq": last["seq"] + 1, "entry": entry})
    with pytest.raises(FaultyInput, match="is none"):
        job_from_json(json.dumps(table), shipped)


def test_the_shipped_figures_are_parsed_once_for_each_time_they_change(tmp_path, monkeypatch):
    import shutil
    import tomllib

    from redline_bore.store import shop

    here = tmp_path / "defaults"
    shutil.copytree(shop.DEFAULTS, here)
    monkeypatch.setattr(shop, "DEFAULTS", here)
    parsed = []
    real = tomllib.loads
    monkeypatch.setattr(tomllib, "loads", lambda text: (parsed.append(1), real(text))[1])
    first = shop._tables()
    count = len(parsed)
    assert count > 5 and shop._tables() == first and len(parsed) == count
    file = here / "cleanup.toml"
    file.write_text(file.read_text().replace("0.013", "0.014"))
    assert shop._tables() != first and len(parsed) == 2 * count
    (shop.data_folder() / shop.KEPT).write_text("{damaged")
    assert shop._tables()["cleanup"] != first["cleanup"]
