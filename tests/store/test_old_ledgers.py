"""Ledgers of every released version read as they did, and say what they said then.

``<version>-<job>.json.gz``: a job as that version wrote it; ``.says.json.gz``: what 0.6.0 said of it, from 0.7.0 on what that version itself
said, written once by its own code and never anew. What was booked reads as it did; advice is today's: what 0.8 made safe is safe for old jobs too.
"""

import gzip
import json
import re
from pathlib import Path

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call.asks import first_rung
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.kind import KINDS, entry_words
from redline_bore.job.redline import redline_of
from redline_bore.job.sign_off.sheet import sheet_of
from redline_bore.job.words import bore, call, finish, hone, readings, sign_off
from redline_bore.job.words.missing import say_missing
from redline_bore.store.job_file import job_from_json, job_to_json

HERE = Path(__file__).parent.parent / "fixtures" / "ledgers"
OLD = sorted(p.name.removesuffix(".json.gz") for p in HERE.glob("*.json.gz") if ".says" not in p.name)
DAY = "2026-11-24"
NAMED = re.compile(r"(?<=levels by \d )chords|(?<=levels by \d\d )chords")  # up to 0.16
WARM = re.compile(r"(−?\d+(?:\.\d+)?) °[CF]")  # up to 0.16 in C in inch jobs too
KEPT = (
    "not gauged.",
    "piston not measured.",
    "not traced.",
    "not booked.",
    "stays white.",
    "dried and oiled.",
)  # points of fact


def kept(name):
    return gzip.decompress((HERE / f"{name}.json.gz").read_bytes()).decode()


def test_every_released_version_is_here():
    assert {name.split("-")[0] for name in OLD} == {
        "0.1.0",
        "0.3.0",
        "0.5.0",
        "0.6.0",
        "0.7.0",
        "0.8.0",
        "0.9.0",
        "0.10.0",
        "0.11.0",
        "0.12.0",
        "0.14.0",
    }  # 0.2.0 wrote what 0.1.0 did, 0.13.0 what 0.12.0 did
    met = {row["entry"]["kind"] for name in OLD for row in json.loads(kept(name))["ledger"]}
    assert len(met) >= 0.6 * len(KINDS), "the samples come to most kinds of entry"


@pytest.mark.parametrize("name", OLD)
def test_an_old_ledger_says_what_it_said(name, shipped):
    then = json.loads(kept(f"{name}.says"))
    ledger = job_from_json(kept(name), shipped).ledger
    state = fold(ledger, shipped)
    show = Show(state.units)
    told = [entry_words(r.entry, show) for r in ledger]
    was = [NAMED.sub("angles", said) for said in then["entries"]]
    if state.units is Units.INCH:
        told, was = ([WARM.sub("warm", said) for said in some] for some in (told, was))
    assert told == was
    for c in state.cylinders:
        was = then["cylinders"][str(c)]
        redline = redline_of(state, c)
        assert (redline.size_mm, say_missing(redline.missing)) == (was["redline"], was["missing"])
        assert (progress_of(state, c).left_mm is None) == (was["left"] is None)
        shape = shape_of(state, c)
        assert (shape.mean_mm, len(shape.levels)) == (was["mean"], was["levels"])
        now = {
            "gauge": readings.advise(state, c, show), "call": call.advise(state, c, first_rung(state), show), "bore": bore.advise(state, c, show, DAY),
            "hone": hone.advise(state, c, show), "finish": finish.advise(state, c, show),
        }  # fmt: skip
        assert all(a.sentence for a in now.values())
        assert now["finish"].sentence == was["finish"]
    sheet = sheet_of(state)
    said = [sign_off.point_words(p) for p in sheet.open_points]
    assert {p for p in then["open"] if p.endswith(KEPT)} <= set(said)
    assert {a.point for a in sheet.accepted} <= set(then["accepted"])
    assert sign_off.advise(state, show).sentence == then["sign_off"]


@pytest.mark.parametrize("name", OLD)
def test_an_old_ledger_is_written_and_read_again_alike(name, shipped):
    first = job_from_json(kept(name), shipped)
    again = job_from_json(job_to_json(first.ledger, first.photos), shipped)
    assert again.ledger == first.ledger
