"""What is fuzzed: every parser, apart from the window, with a few inputs to begin from. A planned refusal is a BenchError."""

from __future__ import annotations

import gzip
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Any

from redline_bore.core.errors import BenchError
from redline_bore.core.figures import checked_value
from redline_bore.core.gauging import Place
from redline_bore.core.inserts import insert_from_code
from redline_bore.core.lengths import Units, parse_length
from redline_bore.core.texture.parameters import texture_of
from redline_bore.core.texture.profile import even_trace
from redline_bore.instruments.line_protocol import LinePattern, LineReader
from redline_bore.job.book_in.draft import book_in_from_draft, draft_of
from redline_bore.job.book_in.family_settings import set_on
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.grammar import phrases_at
from redline_bore.job.kinds.measures import temperature
from redline_bore.job.kinds.phrase import At, Where
from redline_bore.job.proposals import StepProposals, entries_from_typed
from redline_bore.job.state.job_state import STEPS, JobState
from redline_bore.store.job_file import job_from_json
from redline_bore.store.photos import photo_of
from redline_bore.store.readings_csv import readings_from_csv, readings_to_csv, sweeps_to_csv
from redline_bore.store.shop import shipped_figures
from redline_bore.store.traces.files import trace_of_bytes
from redline_bore.store.traces.sdf import sdf_of
from redline_bore.store.traces.text import text_of
from redline_bore.store.traces.x3p import x3p_of

LEDGERS = Path(__file__).parents[2] / "tests" / "fixtures" / "ledgers"
PATTERN = LinePattern("two-point", "in", "N{skip} {value} t{part}", "P")
Target = Callable[[bytes], None]


@cache
def _state(number: str = "0.6.0-2041") -> JobState:
    text = gzip.decompress((LEDGERS / f"{number}.json.gz").read_bytes()).decode()
    return fold(job_from_json(text, shipped_figures()).ledger, shipped_figures())


def _text(data: bytes) -> str:
    return data.decode("utf-8", "replace")


def _typed(step: str) -> Target:
    def target(data: bytes) -> None:
        units = Units.INCH if data[:1] > b"\x7f" else Units.METRIC
        entries_from_typed(step, _text(data)[:2000], _state(), Where(1, Place(0, 0), units), "2026-11-29")

    return target


def _lines(data: bytes) -> None:
    reader, own = LineReader(None), LineReader(PATTERN)
    for line in _text(data).split("\n")[:200]:
        reader.feed(line)
        own.feed(line)


def _length(data: bytes) -> None:
    text = _text(data)[:2000]
    for units in Units:
        for nominal in (None, 105.0):
            parse_length(text, units, nominal)


def _figure(data: bytes) -> None:
    figures = list(shipped_figures())
    text = _text(data)
    for figure in figures[:: max(len(figures) // 12, 1)]:
        words = text.split()
        for raw in (text, [float(w) for w in words if w.replace(".", "", 1).isdecimal() and len(w) < 20]):
            try:
                checked_value(figure, raw)
            except BenchError:
                continue


@cache
def _booked_in() -> dict[str, str]:
    return draft_of(set_on(_state()))


def _draft(data: bytes) -> None:
    draft = _booked_in()
    names, parts = list(draft), _text(data).split("\n")
    book_in_from_draft(draft | {names[i % len(names)]: part[:500] for i, part in enumerate(parts[:40])})


def _readings(data: bytes) -> None:
    readings_from_csv(_text(data), _state(), "Weir works" if data[:1] == b"c" else "")


def _job(data: bytes) -> None:
    job_from_json(_text(data), shipped_figures())


def _trace(kind: str) -> Target:
    return lambda data: (texture_of(trace_of_bytes(data, kind, ("mm", "um") if kind == ".csv" else None)), None)[1]


def _picture(data: bytes) -> None:
    from redline_bore.ui.hatch_picture import grey_of

    grey_of(data)


def _photo(data: bytes) -> None:
    photo_of(data, "x")


def _words(data: bytes) -> None:
    insert_from_code(_text(data)[:200])


def _warm(data: bytes) -> None:
    temperature(_text(data)[:2000])


TARGETS: dict[str, Target] = {
    **{f"typed_{step}": _typed(step) for step in STEPS},
    "lines": _lines, "length": _length, "figure": _figure, "draft": _draft, "readings": _readings, "job": _job,
    "trace_csv": _trace(".csv"), "trace_x3p": _trace(".x3p"), "trace_sdf": _trace(".sdf"), "picture": _picture, "photo": _photo,
    "insert": _words, "temperature": _warm,
}  # fmt: skip


def seeds_of(name: str) -> list[bytes]:
    """Inputs to begin from: good ones, and what has hurt before."""
    state = _state()
    if name.startswith("typed_"):
        at = At(state, Where(1, Place(0, 0), Units.METRIC), StepProposals(), "2026-11-29")
        found = [p.example(at).encode() for p in phrases_at(name.removeprefix("typed_"))]
        return [*found, b"1\xc2\xb2", b"9" * 1900, b"plate torque 1,,,,1", b"angle .", b"-", b"4-1/8", "−0,5".encode()]
    return [*_SEEDS.get(name, _none)(state), b"", b"\x00", b"1\xc2\xb2", b"9" * 5000, b"\xff\xfe"]


def _none(_state: JobState) -> list[Any]:
    return []


def _of_trace(write: Callable[..., bytes]) -> Callable[[JobState], list[bytes]]:
    def made(_state: JobState) -> list[bytes]:
        steps_um = (0.5, 4.0, 5.0, 5.0)  # wide ones are quick: most faults are in the first lines
        traces = [even_trace(s, [((i * 37) % 101) / 25.0 - 2.0 for i in range(int(5650 / s))]) for s in steps_um]
        return [write(trace, "2026-11-29T10:00:00+00:00") for trace in traces]

    return made


_SEEDS: dict[str, Callable[[JobState], list[Any]]] = {
    "lines": lambda _s: [b"hello two-point mm\nreading +0.0140 mm part 21.5\nsweep begin 3 mm\npoint 0 0.01\nsweep end\ntrouble none", b"N1 +0.014 t21.4"],
    "length": lambda _s: [b"4-1/8", b"3 7/8", b"92.25mm", b"12 thou", b"+30"],
    "readings": lambda _s: [readings_to_csv(_s)[:3000].encode(), sweeps_to_csv(_s)[:3000].encode(), b"cylinder,diameter_mm\n1,105.2\n", b"cylinder,diameter_mm\n\x1e1,105.2\n"],
    "job": lambda _s: [gzip.decompress((LEDGERS / "0.1.0-2047.json.gz").read_bytes())],
    "trace_csv": _of_trace(text_of), "trace_x3p": _of_trace(x3p_of), "trace_sdf": _of_trace(sdf_of),
    "photo": lambda _s: [b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff\xe0"],
    "picture": lambda _s: [next((Path(__file__).parents[2] / "redline_bore" / "demo" / "pictures").glob("*.png")).read_bytes()],
    "insert": lambda _s: [b"TPG 321", b"SNMG 433"], "temperature": lambda _s: [b"22.9 C", b"58 F"], "figure": lambda _s: [b"0.25 0.50", b"12"],
}  # fmt: skip
