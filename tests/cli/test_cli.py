"""The same files without a window, run as a person would."""

import json
from importlib import import_module

import pytest

from redline_bore.cli import main

CARD = ["--owner", "Tarn mill", "--engine", "upright four", "--bore", "92", "--stroke", "90", "--length", "150"]


@pytest.fixture
def run(demo_path, capsys):
    def ran(*words):
        code = main([*words[:1], "--logbook", str(demo_path), *words[1:]])
        said = capsys.readouterr()
        return code, said.out, said.err

    return ran


def test_jobs_are_listed_and_found(run):
    code, out, _ = run("jobs", "--json")
    assert code == 0 and [j["number"] for j in json.loads(out)] == ["2041", "2047", "2044", "2036", "2029"]
    assert "Marigold" in run("jobs", "launch")[1] and "No job found" in run("jobs", "zeppelin")[1]


def test_a_job_is_booked_gauged_from_a_file_and_called(run, tmp_path):
    assert run("new", "--number", "2050", *CARD, "--layout", "inline", "--cylinders", "2")[0] == 0
    rows = [
        f"{c},{d},{a},{92.006 + (0.09 if d < 100 else 0):.3f}"
        for c in (1, 2)
        for d in (20, 60, 140)
        for a in (0, 45, 90, 135)
    ]
    (tmp_path / "r.csv").write_text("cylinder,depth_mm,clock_deg,diameter_mm\n" + "\n".join(rows))
    assert "24 readings" in run("import", str(tmp_path / "r.csv"), "--job", "2050")[1]
    code, out, _ = run("call", "--job", "2050", "--json")
    assert code == 0 and json.loads(out)["sentence"].startswith(
        "Bore both 0.25 over: it will clean up, by all that was read. The walls were not read: unknown."
    )
    assert "will not clean up" in run("call", "--job", "2050", "--over", "0.05")[1]


def test_sheets_and_jobs_are_written(run, tmp_path):
    for name, mark in (("s.pdf", b"%PDF"), ("s.html", b"<!DOCTYPE html>"), ("j.json", b"{"), ("r.csv", b"cylinder,")):
        command = "sheet" if name.startswith("s") else "export"
        code, _, err = run(command, "--job", "2036", "--to", str(tmp_path / name))
        assert code == 0, err
        assert (tmp_path / name).read_bytes().startswith(mark)
    html = (tmp_path / "s.html").read_text()
    assert html.count("<svg") == 2 and "3.2703" in html and "The walls as traced" in html
    assert run("sheet", "--for", "shop", "--job", "2036", "--to", str(tmp_path / "shop.html"))[0] == 0
    assert (tmp_path / "shop.html").read_text().count("<svg") == 4  # the walls unrolled as well
    assert (
        "83.06"
        in (
            run("sheet", "--job", "2036", "--units", "metric", "--to", str(tmp_path / "mm.html")),
            (tmp_path / "mm.html").read_text(),
        )[1]
    )


def test_a_call_lists_every_way_there_is(run):
    said = run("call", "--job", "2047")[1]
    assert "Not gauged yet" in said and "Deglaze only: may do (taper by ring gaps 0.041" in said
    ways = json.loads(run("call", "--job", "2041", "--json")[1])["options"]
    assert ways[0]["key"] == "rung:0.5000" and ways[0]["standing"] == "may do" and len(ways) == 15


def test_a_reader_who_has_seen_enough_is_no_fault(demo_path):
    import subprocess
    import sys

    words = f"{sys.executable} -m redline_bore call --logbook {demo_path} --job 2041 | head -1"
    done = subprocess.run(["bash", "-c", words], capture_output=True, text=True)
    assert done.stdout.startswith("0.50 over may leave a shadow in 1, 4 and 5.") and done.stderr == ""


def test_quotes_are_written_for_the_call_or_any_size(run, tmp_path):
    for name, mark in (("q.pdf", b"%PDF"), ("q.html", b"<!DOCTYPE html>"), ("q.csv", b"what,count")):
        assert run("quote", "--job", "2041", "--to", str(tmp_path / name))[0] == 0
        assert (tmp_path / name).read_bytes().startswith(mark)
    assert "Bore all five 0.50 over: it may do, the cut decides." in (tmp_path / "q.html").read_text()
    assert run("quote", "--job", "2041", "--over", "+0.75", "--to", str(tmp_path / "half.html"))[0] == 0
    assert "Bore all five 0.75 over: will clean up." in (tmp_path / "half.html").read_text()
    assert run("quote", "--job", "9999", "--to", str(tmp_path / "x.pdf"))[0] == 2


def test_the_demo_command_writes_them_once(tmp_path, capsys):
    path = tmp_path / "new.sqlite"
    assert main(["--logbook", str(path), "demo"]) == 0 and main(["demo", "--logbook", str(path)]) == 0
    assert "already" in capsys.readouterr().out


@pytest.mark.parametrize(
    "words, reason",
    [
        (["call", "--job", "77"], "jobs: 2029, 2036, 2041, 2044, 2047"),
        (["call", "--job", "2041", "--over", "big"], "not a length"),
        (["sheet", "--job", "2036", "--to", "/nowhere/s.pdf"], "cannot be written"),
        (["sheet", "--job", "2036", "--to", "s.doc"], "does not say what to write"),
        (["finish", "--job", "2036", "--to", "f.pdf"], "does not say what to write"),
        (["finish", "--job", "2036", "--trace", "3", "--to", "f.csv"], "is no trace; traces: "),
        (["new", "--number", "2051", "--bore", "x"], "stroke_mm: stroke is needed"),
        (["new", "--number", "2041", *CARD], "already"),
        (["import", "/nowhere/r.csv", "--job", "2041"], "cannot be read"),
        (["import", "/nowhere/r.csv"], "--job NUMBER"),
        (["import", "/nowhere/j.json"], "cannot be read"),
    ],
)
def test_refusals_are_sentences_and_exit_2(run, words, reason):
    code, _, err = run(*words)
    assert code == 2 and reason in err and "Traceback" not in err


def test_a_logbook_that_is_none_is_refused(tmp_path, capsys):
    (tmp_path / "x").write_text("no logbook " * 100)
    assert main(["jobs", "--logbook", str(tmp_path / "x")]) == 2
    assert "not a logbook" in capsys.readouterr().err


def test_nothing_of_a_faulty_file_is_taken_in(run, tmp_path):
    (tmp_path / "r.csv").write_text("cylinder,depth_mm,clock_deg,diameter_mm\n1,24,0,105.1\n8,24,0,105.1\n")
    code, _, err = run("import", str(tmp_path / "r.csv"), "--job", "2041")
    assert code == 2 and "line 3, cylinder" in err
    assert (
        "300" in run("export", "--job", "2041", "--to", str(tmp_path / "o.csv"))[1]
        or len((tmp_path / "o.csv").read_text().splitlines()) == 301
    )


def test_the_stock_ledger_goes_to_a_csv(run, tmp_path):
    code, out, _ = run("stock", "--job", "2044", "--to", str(tmp_path / "s.csv"))
    rows = (tmp_path / "s.csv").read_text().splitlines()
    assert code == 0 and "Written" in out and rows[0].startswith("cylinder,step,removed_mm")
    assert [r.split(",")[:2] for r in rows[1:]] == [["1", "bored"], ["1", "coarse"], ["2", "bored"], ["2", "coarse"]]
    code, _, err = run("stock", "--job", "2044", "--to", str(tmp_path / "s.pdf"))
    assert code == 2 and "ends in .csv" in err and not (tmp_path / "s.pdf").exists()


def test_a_family_that_was_signed_off_is_offered_at_the_command_line_too(run, logbook):
    card = [*CARD]
    card[card.index("--engine") + 1] = "upright twin"
    code, out, _ = run("new", "--number", "3036", *card)
    assert code == 0 and "This family taught 9 figures, in job 2036" in out
    kinds = [r.entry.kind for r in logbook.ledger(logbook.job_id("3036"))]
    assert kinds[0] == "job_opened" and kinds[-1] == "family_offered" and "practice_chosen" in kinds[1:-1]
    assert "taught" not in run("new", "--number", "3037", *CARD)[1]


def test_the_finish_and_its_traces_go_out_and_are_read_again(run, tmp_path):
    assert run("finish", "--job", "2036", "--to", str(tmp_path / "f.csv"))[0] == 0
    rows = [line.split(",") for line in (tmp_path / "f.csv").read_text().splitlines()]
    seq, head = rows[1][0], rows[0]
    for name in ("t.x3p", "t.sdf", "t.csv"):
        assert run("finish", "--job", "2036", "--trace", seq, "--to", str(tmp_path / name))[0] == 0
        code, out, _ = run_trace(run, str(tmp_path / name), "--json")
        values = json.loads(out)["values"]
        assert code == 0 and values["Rk"] == pytest.approx(float(rows[1][head.index("Rk_um")]), rel=1e-3)
    code, out, _ = run_trace(run, str(tmp_path / "t.x3p"))
    assert "Rvk" in out and "um" in out
    bare = tmp_path / "bare.txt"
    bare.write_text("\n".join((tmp_path / "t.csv").read_text().splitlines()[1:]))
    code, _, err = run_trace(run, str(bare))
    assert code == 2 and "does not state its units" in err
    assert run_trace(run, str(bare), "--units", "mm", "um")[0] == 0


def run_trace(run, *words):
    return run("trace", *words)


def test_a_signed_job_takes_no_readings_from_a_file(run, tmp_path):
    (tmp_path / "r.csv").write_text("cylinder,depth_mm,clock_deg,diameter_mm\n1,24,0,83.07\n")
    code, _, err = run("import", str(tmp_path / "r.csv"), "--job", "2036")
    assert code == 2 and "is closed" in err


def test_a_job_with_sleeves_goes_out_and_in_from_the_command_line(run, tmp_path):
    path = tmp_path / "2044.json"
    assert run("export", "--job", "2044", "--to", str(path))[0] == 0
    table = json.loads(path.read_text())
    kinds = {r["entry"]["kind"] for r in table["ledger"]}
    assert {"sleeve_measured", "parent_read", "deck_read", "run_checked", "stones_set", "hone_set"} <= kinds
    table["ledger"][0]["entry"]["number"] = "2144"
    path.write_text(json.dumps(table))
    assert run("import", str(path))[0] == 0 and "2144" in run("jobs")[1]
    assert run("sheet", "--for", "shop", "--job", "2144", "--to", str(tmp_path / "s.html"))[0] == 0
    assert "vitrified 150" in (tmp_path / "s.html").read_text()


def test_a_line_is_booked_as_in_the_window(run, logbook):
    assert run("new", "--number", "2050", *CARD)[0] == 0
    code, out, _ = run(
        "book",
        "--job",
        "2050",
        "--step",
        "gauge",
        "--cylinder",
        "1",
        "--level",
        "1",
        "--clock",
        "2",
        "92.214",
        "--person",
        "RM",
    )
    assert code == 0 and "92.2140" in out and "30°" in out
    (last,) = logbook.ledger(logbook.job_id("2050"))[-1:]
    assert (last.entry.kind, last.typed, last.person) == ("reading_booked", "92.214", "RM")


@pytest.mark.parametrize(
    "words, told",
    [
        (("--cylinder", "9", "92.2"), "no 9"),
        (("abc",), "is not a length"),
        (("--level", "99", "92.2"), "level"),
        (("--clock", "99", "92.2"), "clock"),
    ],
)
def test_a_line_that_cannot_be_booked_is_refused_with_the_reason(run, logbook, words, told):
    before = logbook.ledger(logbook.job_id("2041"))
    code, _, err = run("book", "--job", "2041", "--step", "gauge", *words)
    assert code == 2 and told in err and logbook.ledger(logbook.job_id("2041")) == before


def test_every_command_is_found_by_its_module_alone():
    cli = import_module("redline_bore.cli.main")

    whole = cli._parser(["--help"])
    there = next(a for a in whole._actions if getattr(a, "choices", None)).choices
    assert set(there) == set(cli.MODULES)
    for name in there:
        alone = cli._parser([name])
        assert name in next(a for a in alone._actions if getattr(a, "choices", None)).choices


@pytest.mark.parametrize("words", [["--logbook", "demo", "jobs"], ["jobs", "--logbook", "call"]])
def test_a_logbook_may_be_called_as_a_command_is(words, tmp_path, monkeypatch, demo_path, capsys):
    cli = import_module("redline_bore.cli.main")

    monkeypatch.chdir(tmp_path)
    demo_path.rename(tmp_path / ("demo" if "demo" in words else "call"))
    assert cli.main(words) == 0 and "2041" in capsys.readouterr().out


@pytest.mark.parametrize("words", ["", "marigold", "twin 2036", "36", "GOLD", '"', "%", "_04", "zeppelin", "north"])
def test_the_quick_list_finds_what_the_logbook_finds(words, demo_path):
    from redline_bore.store.logbook import Logbook
    from redline_bore.store.quick_list import listed

    book = Logbook(demo_path)
    book.set_aside("2029", "RM")
    for aside in (False, True):
        whole = book.jobs(words, aside)
        quick = listed(demo_path, words.split(), aside)
        assert [x["number"] for x in quick] == [x.number for x in whole]
        assert [tuple(x["done"]) for x in quick] == [x.done for x in whole]
    book.close()


def test_a_list_loads_nothing_of_the_trade(demo_path):
    import subprocess
    import sys

    code = (
        "import sys; from redline_bore.cli import main; main(['jobs', '--logbook', sys.argv[1]]); "
        "print([m for m in ('scipy', 'numpy', 'sqlalchemy', 'PyQt6', 'redline_bore.job') if m in sys.modules])"
    )
    out = subprocess.run(
        [sys.executable, "-c", code, str(demo_path)], capture_output=True, text=True, check=True
    ).stdout
    assert "2041" in out and out.strip().endswith("[]")
