"""Papers and figures from the command line: the call, the sheets, exports, traces."""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict
from pathlib import Path
from typing import TYPE_CHECKING

from redline_bore.cli.jobs import desk_of
from redline_bore.core.errors import InputError
from redline_bore.core.lengths import Units, parse_length
from redline_bore.core.show import Show
from redline_bore.job.call.asks import first_rung
from redline_bore.job.call.options import options_of
from redline_bore.job.card import Advice
from redline_bore.job.kinds.entry import Record
from redline_bore.job.sign_off import sheet as sign_off
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.call import advise
from redline_bore.job.words.options import told_of

if TYPE_CHECKING:
    from argparse import _SubParsersAction


def add_commands(commands: _SubParsersAction[argparse.ArgumentParser], keep: argparse.ArgumentParser) -> None:
    """The commands that print or write something of a job."""
    call = commands.add_parser("call", parents=[keep], help="print the call of a job")
    call.add_argument("--job", required=True)
    call.add_argument("--over", metavar="SIZE", help="with the redline at this oversize, such as 0.75 or 30 thou")
    call.add_argument("--json", action="store_true")
    call.set_defaults(run=_call)
    for name, words in (
        ("sheet", "write the sheet: .pdf or .html"),
        ("export", "write a job: .json, or its readings: .csv"),
    ):
        command = commands.add_parser(name, parents=[keep], help=words)
        command.add_argument("--job", required=True)
        command.add_argument("--to", type=Path, required=True)
        command.add_argument("--units", choices=[str(u) for u in Units], help="other than the job's own")
        if name == "sheet":
            command.add_argument(
                "--for", dest="audience", choices=(sign_off.CUSTOMER, sign_off.SHOP), default=sign_off.CUSTOMER,
                help="whose: two pages for the customer (as is), or the shop's with everything",
            )  # fmt: skip
        command.set_defaults(run=_write)
    finish = commands.add_parser(
        "finish", parents=[keep], help="write every trace's figures: .csv; or --trace N as .csv, .x3p, .sdf"
    )
    finish.add_argument("--job", required=True)
    finish.add_argument("--trace", type=int, metavar="ENTRY", help="one trace by its entry in the ledger")
    finish.add_argument("--to", type=Path, required=True)
    finish.set_defaults(run=_finish)
    trace = commands.add_parser(
        "trace", parents=[keep], help="print the figures of a trace file: .csv, .txt, .x3p, .sdf"
    )
    trace.add_argument("file", type=Path)
    trace.add_argument(
        "--units", nargs=2, metavar=("PLACES", "HEIGHTS"), help="where the file does not state them: mm um"
    )
    trace.add_argument("--json", action="store_true")
    trace.set_defaults(run=_trace)
    stock = commands.add_parser("stock", parents=[keep], help="write the stock ledger: .csv")
    stock.add_argument("--job", required=True)
    stock.add_argument("--to", type=Path, required=True)
    stock.set_defaults(run=_stock)
    opinion = commands.add_parser(
        "opinion", parents=[keep], help="write the second opinion: half a page, .pdf or .html"
    )
    opinion.add_argument("--job", required=True)
    opinion.add_argument("--to", type=Path, required=True)
    opinion.set_defaults(run=_opinion)
    quote = commands.add_parser("quote", parents=[keep], help="write the quote (.pdf, .html) or the order list (.csv)")
    quote.add_argument("--job", required=True)
    quote.add_argument(
        "--over", metavar="SIZE", help="at this oversize, such as 0.75 or 30 thou; else as the call stands"
    )
    quote.add_argument("--to", type=Path, required=True)
    quote.set_defaults(run=_quote)


def _state(given: argparse.Namespace) -> tuple[JobState, tuple[Record, ...]]:
    job = desk_of(given).open(given.job)
    return job.state, tuple(job.records)


def _said(advice: Advice) -> dict[str, object]:
    """Advice as it is written out; where its button goes is the window's own business."""
    return {k: v for k, v in asdict(advice).items() if k != "leads_on"}


def _call(given: argparse.Namespace) -> int:
    state, _ledger = _state(given)
    rung = _rung(given, state)
    advice = advise(state, 1, rung, Show(state.units))
    if given.json:
        told = [told_of(o, Show(state.units)) for o in options_of(state)]
        ways = [asdict(w.option) | {"title": w.title, "reasons": w.reasons, "needs": w.needs} for w in told]
        print(json.dumps({"job": state.number, "oversize_mm": rung, **_said(advice), "options": ways}, indent=1))
        return 0
    print(advice.spoken)
    for line in advice.figures:
        print(f"  {line.label}: {line.value}" + (f" ({line.mark})" if line.mark else ""))
    for told_line in (*advice.would_change, *advice.notes):
        print(f"  – {told_line}")
    print("Every way there is, the best first:")
    for way in (told_of(o, Show(state.units)) for o in options_of(state)):
        why = "; ".join((*way.reasons, *(f"to be sure: {need}" for need in way.needs)))
        print(f"  {way.title}: {way.standing} ({why})")
    return 0


def _write(given: argparse.Namespace) -> int:
    from redline_bore.store.exports import write_text

    state, ledger = _state(given)
    show, kind = Show(Units(given.units) if given.units else state.units), given.to.suffix.lower()
    if kind in (".pdf", ".html"):
        _write_sheet(state, show, given.to, kind, getattr(given, "audience", sign_off.SHOP))
    elif given.units and kind in (".json", ".csv"):
        raise InputError(f"A {kind} of a job is in mm, as its columns and names say; --units is for a sheet")
    elif kind == ".json":
        from redline_bore.store.job_file import job_to_json

        write_text(given.to, job_to_json(ledger, desk_of(given).logbook.photos_of(ledger)))
    elif kind == ".csv":
        from redline_bore.store.readings_csv import readings_to_csv

        write_text(given.to, readings_to_csv(state))
    else:
        raise InputError(
            f"“{given.to.name}” does not say what to write: end it in .pdf or .html for the sheet, .json or .csv for the job"
        )
    print(f"Written: {given.to}")
    return 0


def _write_sheet(state: JobState, show: Show, path: Path, kind: str, audience: str) -> None:
    from redline_bore.store.exports import write_text
    from redline_bore.ui.paint.sheet_print import SheetPages, html_document, write_pdf

    app = _painting()
    assert app is not None
    sheet = sign_off.sheet_of(state)
    if kind == ".html":
        write_text(path, html_document(sheet, show, audience))
    else:
        write_pdf(SheetPages(sheet, show, audience), path, f"Job {state.number}")


def _stock(given: argparse.Namespace) -> int:
    from redline_bore.job.hone.stock_ledger import ledger_csv, ledger_of
    from redline_bore.store.exports import write_text

    if given.to.suffix.lower() != ".csv":
        raise InputError(f"“{given.to.name}” does not say what to write: the stock ledger ends in .csv")
    state, _ledger = _state(given)
    write_text(given.to, ledger_csv(ledger_of(state)))
    print(f"Written: {given.to}")
    return 0


def _finish(given: argparse.Namespace) -> int:
    from redline_bore.job.finish.judgement import trace_at
    from redline_bore.store.exports import write_text
    from redline_bore.store.finish_csv import finish_csv
    from redline_bore.store.traces.files import write_trace

    state, _ledger = _state(given)
    if given.trace is not None:
        found = next((t for t in state.finishing.traces if t.seq == given.trace), None)
        if found is None:
            known = ", ".join(str(t.seq) for t in state.finishing.traces) or "none"
            raise InputError(f"Entry {given.trace} of job {state.number} is no trace; traces: {known}")
        write_trace(trace_at(found), given.to, found.at)
    elif given.to.suffix.lower() == ".csv":
        write_text(given.to, finish_csv(state))
    else:
        raise InputError(
            f"“{given.to.name}” does not say what to write: the figures end in .csv; say --trace for a trace"
        )
    print(f"Written: {given.to}")
    return 0


def _trace(given: argparse.Namespace) -> int:
    from redline_bore.core.texture.parameters import PARAMETERS, texture_of, unit_of
    from redline_bore.store.traces.files import read_trace

    texture = texture_of(read_trace(given.file, None if given.units is None else tuple(given.units)))
    values = {name: texture.value(name) for name in PARAMETERS}
    if given.json:
        print(json.dumps({"file": given.file.name, "values": values, "flags": texture.flags}, indent=1))
        return 0
    for name, value in values.items():
        print(f"{name:4} " + ("not told" if value is None else f"{value:9.4f} {unit_of(name)}"))
    for flag in texture.flags:
        print(f"look here: {flag.replace('_', ' ')}")
    return 0


def _opinion(given: argparse.Namespace) -> int:
    from redline_bore.ui.exports import write_opinion

    app = _painting()
    state, _ledger = _state(given)
    write_opinion(state, Show(state.units), given.to)
    print(f"Written: {given.to}")
    return 0 if app is not None else 1


def _quote(given: argparse.Namespace) -> int:
    from redline_bore.ui.exports import write_quote

    app = _painting()
    state, _ledger = _state(given)
    apart = () if state.calling.decision is None or given.over is not None else state.calling.decision.apart
    nothing = given.over is None and state.calling.decision is not None and not state.calling.decision.bores
    write_quote(state, None if nothing else _rung(given, state), apart, Show(state.units), given.to)
    print(f"Written: {given.to}")
    return 0 if app is not None else 1


def _painting() -> object:
    """What has to be held while something is painted, with or without a display."""
    from redline_bore.app import application, offscreen_if_no_display

    offscreen_if_no_display()
    return application()


def _rung(given: argparse.Namespace, state: JobState) -> float:
    """The oversize asked for in mm, else where the call's redline stands."""
    if given.over is None:
        return first_rung(state)
    return parse_length(given.over.lstrip("+"), state.units, least_mm=0.0).mm
