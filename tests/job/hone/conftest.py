"""Job 2041 called, and with the hone set up."""

import pytest

from redline_bore.job.kinds.call import DecisionTaken, PistonMeasured
from tests.job.benches import longer
from tests.job.hone.the_hone import HONE, STONES


@pytest.fixture
def called(ledger_of):
    """2041 called at 0.75 over, its pistons measured: the redline is at 105.745."""
    pistons = [PistonMeasured(cylinder=c, size_mm=105.67, piston_c=20.0) for c in range(1, 6)]
    return longer(ledger_of("2041"), DecisionTaken(oversize_mm=0.75, sentence="Bore."), *pistons)


@pytest.fixture
def set_up(called):
    return longer(called, STONES, HONE)
