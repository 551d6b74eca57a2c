"""A line that a card tells people to type can be typed where the card stands."""

import re

import pytest

from redline_bore.core.errors import BenchError
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call.asks import first_rung
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.call.options import options_of
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.grammar import phrases_at
from redline_bore.job.kinds.kind import KINDS
from redline_bore.job.words import (
    bore,
    call,
    finish,
    hone,
    hone_pages,
    options,
    pistons,
    readings,
    shadow,
    sign_off,
    sleeve,
)
from tests.job.said.everything import DAY, JOBS, lines_of
from tests.job.said.worked import SAID, worked

TOLD = re.compile(
    r"“([a-z][^”]*)”|: ([a-z]+ [^:;]*?) books it|[Tt]ype (?:M, )?([a-z][^.,;“]*)|\bM, (?:then )?([a-z][^.;]*)"
)
LEADS = {lead: p for k in KINDS.values() for p in k.phrases for lead in p.leads}
SHOW, READ = Show(Units.METRIC), set()  # what was read so far


def cards(state, cylinder):
    """Every card that stands in a step, with the step."""
    rungs = ladder_of(state).rungs_mm[:3]
    yield "gauge", lambda: readings.advise(state, cylinder, SHOW)
    for size in rungs:
        yield "call", lambda size=size: call.advise(state, cylinder, size, SHOW)
    yield "call", lambda: pistons.advise(state, cylinder, SHOW)
    yield "call", lambda: shadow.advise(state, cylinder, state.block.bore_mm + first_rung(state), SHOW)
    for i in range(len(options_of(state))):
        yield "call", lambda i=i: options.advise(state, i, SHOW)
    yield "bore", lambda: bore.advise(state, cylinder, SHOW, DAY)
    for page in ("fit", "heat", "deck"):
        yield "sleeve", lambda page=page: sleeve.advise(state, cylinder, SHOW, page, DAY)
    yield "hone", lambda: hone.advise(state, cylinder, SHOW)
    yield "hone", lambda: hone_pages.set_up(state, SHOW)
    yield "hone", lambda: hone_pages.steps(state, cylinder, SHOW)
    yield "finish", lambda: finish.advise(state, cylinder, SHOW)
    yield "finish", lambda: finish.windows_page(state, SHOW)
    yield "sign_off", lambda: sign_off.advise(state, SHOW)


def told_wrongly(ledger, shipped):
    """Lines that are told where they are not typed: the step, the line, the card's sentence."""
    here = {
        step: {lead for p in phrases_at(step) for lead in p.leads}
        for step in ("gauge", "call", "bore", "sleeve", "hone", "finish", "sign_off")
    }
    stops = sorted({max(1, len(ledger) * i // 9) for i in range(1, 10)})
    for stop in stops:
        state = fold(ledger[:stop], shipped)
        for cylinder in state.cylinders:
            for step, make in cards(state, cylinder):
                try:
                    lines = list(lines_of(make()))
                except BenchError:  # no such card there yet
                    continue
                for line in lines:
                    for found in TOLD.finditer(line):
                        told = next(g for g in found.groups() if g)
                        READ.add(told)
                        lead = next(
                            (
                                lead
                                for lead in sorted(LEADS, key=len, reverse=True)
                                if f"{told} ".startswith(f"{lead} ")
                            ),
                            None,
                        )
                        if lead is not None and lead not in here[step]:
                            yield step, told, line


@pytest.mark.parametrize("number", JOBS)
def test_of_a_sample_job(ledger_of, shipped, number):
    assert list(told_wrongly(ledger_of(number), shipped)) == []


@pytest.mark.parametrize("seed", SAID)
def test_of_a_block_of_the_loop(shipped, seed):
    READ.clear()
    assert list(told_wrongly(worked(seed)[1], shipped)) == []
    assert any(told.partition(" ")[0] in LEADS for told in READ), "the cards told nothing to type"
