"""The stock ledger: what every cylinder gave up by step, on diameter, with temperature, stones, strokes, person; how the
cylinders compare, and earlier jobs in the same metal (methods 12)."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.stock import LEAST_CHECKS, theil_sen
from redline_bore.job.gauge.analysis import start_of
from redline_bore.job.hone.progress import Progress, out_of_family, progress_of
from redline_bore.job.hone.steps import practice_of
from redline_bore.job.profiles.stones import stones_said
from redline_bore.job.state.hole import hole_of
from redline_bore.job.state.honing import Check
from redline_bore.job.state.job_state import JobState


@frozen(often=True)
class StepStock:
    """Metal the bar or a honing step took from a cylinder, mm on diameter; ``strokes`` None: it was the bar."""

    name: str
    strokes: float | None
    removed_mm: float


@frozen(often=True)
class LedgerCell:
    """A step of a cylinder: removed on diameter, mm; strokes None: it was the bar. block_c: lowest and highest."""

    step: str
    removed_mm: float
    strokes: float | None
    stones: str
    block_c: tuple[float, float] | None
    persons: tuple[str, ...]
    checks: int


@frozen(often=True)
class LedgerRow:
    cylinder: int
    cells: tuple[LedgerCell, ...]

    @property
    def honed(self) -> bool:
        """Strokes were counted on it."""
        return any(c.strokes for c in self.cells)

    @property
    def total_mm(self) -> float:
        return sum(c.removed_mm for c in self.cells)


@frozen
class StepRate:
    """What the stones of a honing step took: a rate on diameter a stroke, mm."""

    step: str
    stones: str
    rate_mm: float


@frozen
class HonedOnJob:
    """The rates that a job's stones cut at. bore_mm: in name."""

    number: str
    engine: str
    bore_mm: float
    rates: tuple[StepRate, ...]


@frozen(often=True)
class FamilyRate:
    """What another job in this metal taught: a rate on diameter a stroke, mm."""

    number: str
    engine: str
    step: str
    stones: str
    rate_mm: float


@frozen(often=True)
class Ledger:
    """odd: a cylinder that cuts unlike the others; None where none does."""

    rows: tuple[LedgerRow, ...]
    odd: int | None
    family: tuple[FamilyRate, ...]


def step_stock(state: JobState, cylinder: int, progress: Progress) -> tuple[StepStock, ...]:
    """Metal taken by the bar and by each honing step, from the last size before it to the last size in it."""
    found: list[StepStock] = []
    before: float | None = None
    hole, worn = hole_of(state, cylinder), start_of(state, cylinder)
    if hole is not None and worn is not None:
        before = hole.mean_mm  # the hone begins where the bar left it, so that the steps add up
        found.append(StepStock("bored", None, before - worn))
    for step, name in enumerate(progress.practice.steps):
        checks = state.honing.checks_of(cylinder, step)
        if not checks:
            continue
        start = checks[0].mean_mm if before is None else before
        found.append(StepStock(name, checks[-1].strokes, checks[-1].mean_mm - start))
        before = checks[-1].mean_mm
    return tuple(found)


def ledger_of(state: JobState, others: Sequence[HonedOnJob] = ()) -> Ledger:
    """The ledger of a job; ``others``: jobs in this metal to compare with, the newest first."""
    rows = tuple(row for c in state.cylinders if (row := _row(state, c)).cells)
    return Ledger(rows, _odd(state), _family(state, others))


def _row(state: JobState, cylinder: int) -> LedgerRow:
    steps = practice_of(state).steps
    cells = []
    for stock in step_stock(state, cylinder, progress_of(state, cylinder)):
        if stock.strokes is None:
            hole = next((b for b in reversed(state.boring.holes) if b.cylinder == cylinder), None)
            warm = None if hole is None or hole.block_c is None else (hole.block_c, hole.block_c)
            cells.append(LedgerCell("bored", stock.removed_mm, None, "" if hole is None else hole.tool[1], warm, (), 0))
            continue
        checks = state.honing.checks_of(cylinder, steps.index(stock.name)) if stock.name in steps else ()
        cells.append(_cell(stock.name, stock.removed_mm, stock.strokes, checks))
    return LedgerRow(cylinder, tuple(cells))


def _cell(name: str, removed_mm: float, strokes: float, checks: Sequence[Check]) -> LedgerCell:
    warm = [c.block_c for c in checks if c.block_c is not None]
    stones = dict.fromkeys(stones_said(c.stones) for c in checks if c.stones)
    return LedgerCell(
        name, removed_mm, strokes, ", ".join(stones), (min(warm), max(warm)) if warm else None,
        tuple(dict.fromkeys(c.person for c in checks)), len(checks),
    )  # fmt: skip


def _odd(state: JobState) -> int | None:
    return next((c for c in state.cylinders if out_of_family(state, c)), None)


def rates_of(state: JobState) -> tuple[StepRate, ...]:
    """The middle rate of every honing step of a job, where checks enough were taken."""
    found = []
    for step, name in enumerate(practice_of(state).steps):
        rates = [r for c in state.cylinders if (r := _rate(state.honing.checks_of(c, step))) is not None]
        stones = next((k.stones for c in state.cylinders for k in state.honing.checks_of(c, step) if k.stones), "")
        if rates:
            middle = sorted(rates)[len(rates) // 2]
            found.append(StepRate(name, stones_said(stones) or "stones not booked", middle))
    return tuple(found)


def honed_on_job(state: JobState) -> HonedOnJob | None:
    """The rates of a job; None where too few checks were taken to tell."""
    rates = rates_of(state)
    return HonedOnJob(state.number, state.book_in.engine, state.block.bore_mm, rates) if rates else None


def _family(state: JobState, others: Sequence[HonedOnJob]) -> tuple[FamilyRate, ...]:
    """Rates of other jobs in this metal, those of the same engine first, then those nearest in bore; the newest of each engine."""
    newest: dict[str, HonedOnJob] = {}
    for other in others:
        if other.number != state.number:
            newest.setdefault(other.engine or other.number, other)
    ranked = sorted(
        newest.values(), key=lambda o: (o.engine != state.book_in.engine, abs(o.bore_mm - state.block.bore_mm))
    )
    return tuple(FamilyRate(o.number, o.engine, r.step, r.stones, r.rate_mm) for o in ranked for r in o.rates)[:4]


def _rate(checks: Sequence[Check]) -> float | None:
    if len(checks) < LEAST_CHECKS:
        return None
    try:
        return theil_sen([c.strokes for c in checks], [c.mean_mm for c in checks]).mm
    except FitError:
        return None


def ledger_csv(found: Ledger) -> str:
    """The ledger as CSV: mm on diameter, temperatures in C."""
    lines = ["cylinder,step,removed_mm,double_strokes,stones,block_low_c,block_high_c,persons,checks"]
    for row in found.rows:
        for c in row.cells:
            warm = ("", "") if c.block_c is None else (f"{c.block_c[0]:.1f}", f"{c.block_c[1]:.1f}")
            strokes = "" if c.strokes is None else f"{c.strokes:g}"
            persons, stones = " ".join(c.persons), c.stones.replace(",", ";")
            lines.append(
                f"{row.cylinder},{c.step},{c.removed_mm:.4f},{strokes},{stones},{warm[0]},{warm[1]},{persons},{c.checks}"
            )
    return "\n".join(lines) + "\n"
