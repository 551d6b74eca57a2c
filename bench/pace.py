"""The floor for figures in milliseconds: a fixed bit of Python, timed in the same run.

Limits in ms are meant for a machine on which ``spin`` takes REFERENCE_SPIN_S (2 cores, Debian 12, nobody else on it).
Times are divided by how much slower this machine runs at this moment, so that a limit is a ratio to this floor.
"""

import time

REFERENCE_SPIN_S = 1.33e-3


def spin() -> float:
    """Seconds for a fixed bit of work."""
    start = time.perf_counter()
    total = 0
    for i in range(20000):
        total += i * i
    assert total
    return time.perf_counter() - start
