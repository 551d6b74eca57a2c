"""One input held against what is planned: a BenchError or nothing, in a second of CPU and 200 MB. And mutations without a fuzzer."""

from __future__ import annotations

import random
import resource
import time
import traceback
from collections.abc import Sequence
from dataclasses import dataclass, field

from redline_bore.core.errors import BenchError
from tools.fuzz.targets import TARGETS, seeds_of

MOST_CPU_S, MOST_MB = 1.0, 200


@dataclass
class Count:
    """What came of a target's inputs."""

    inputs: int = 0
    refused: int = 0
    seconds: float = 0.0
    faults: list[str] = field(default_factory=list)


def held(name: str, data: bytes, count: Count) -> None:
    """Run one input and count it."""
    began, memory = time.process_time(), resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    try:
        TARGETS[name](data)
    except BenchError:
        count.refused += 1
    except Exception:
        count.faults.append(f"{name} {data[:80]!r}: {traceback.format_exc(limit=-3)}")
    took = time.process_time() - began
    grown = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - memory) / 1024
    count.inputs += 1
    count.seconds += took
    if took > MOST_CPU_S and count.inputs > 1:  # the first one imports
        count.faults.append(f"{name} {data[:80]!r}: {took:.1f} s of CPU")
    if grown > MOST_MB and count.inputs > 1:
        count.faults.append(f"{name} {data[:80]!r}: {grown:.0f} MB")


def mutated(name: str, inputs: int, seed: int, corpus: Sequence[bytes] = ()) -> Count:
    """So many random mutations of a target's seeds, and of a corpus: reproducible, no fuzzer needed."""
    chance, count, seeds = random.Random(f"{name} {seed}"), Count(), [*seeds_of(name), *corpus]
    for data in seeds:
        held(name, data, count)
    for _ in range(max(inputs - len(seeds), 0)):
        held(name, _mutation(chance, chance.choice(seeds), chance.choice(seeds)), count)
    return count


SPICE = (b"\x00", b"\n", b" ", b",", b";", b"-", b"\xe2\x88\x92", b"\xc2\xb2", b"1e999", b"nan", b"9" * 400, b"'", b'"', b"{", b"=", b"/", b"~nosuchuser", b"..", b"\xff")  # fmt: skip


def _mutation(chance: random.Random, data: bytes, other: bytes) -> bytes:
    made = bytearray(data)
    for _ in range(chance.randint(1, 4)):
        at = chance.randrange(len(made) + 1)
        kind = chance.randrange(6)
        if kind == 0 and made:
            made[min(at, len(made) - 1)] ^= 1 << chance.randrange(8)
        elif kind == 1:
            made[at:at] = chance.choice(SPICE)
        elif kind == 2:
            del made[at : at + chance.randint(1, 30)]
        elif kind == 3 and other:
            cut = chance.randrange(len(other))
            made[at:at] = other[cut : cut + chance.randint(1, 60)]
        elif kind == 4:
            made[at:at] = made[at : at + chance.randint(1, 20)] * chance.randint(1, 5)
        else:
            made[at : at + 1] = bytes([chance.randrange(256)])
    return bytes(made)
