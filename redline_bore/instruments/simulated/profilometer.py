"""A profilometer that traces a made-up wall where it stands."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass, replace

from redline_bore.instruments.simulated.true_texture import STEP_UM, TrueTexture
from redline_bore.instruments.trace_lines import format_trace


@dataclass
class ProfilometerStandIn:
    """The walls it can be put on, by cylinder from 1; where it stands; the plateau strokes the wall has had."""

    walls: tuple[TrueTexture, ...]
    seed: int
    cylinder: int = 1
    depth_mm: float = 10.0
    strokes: float = 0.0

    @classmethod
    def from_json(cls, text: str) -> ProfilometerStandIn:
        """Raises ValueError, KeyError or TypeError when the text is none."""
        table = json.loads(text)
        return cls(tuple(TrueTexture(**w) for w in table["walls"]), int(table["seed"]))

    def to_json(self) -> str:
        return json.dumps({"walls": [asdict(w) for w in self.walls], "seed": self.seed})

    def answer(self, line: str) -> list[str]:
        """The lines it answers to a line from the program."""
        words = line.split()
        if words == ["hello"]:
            return ["hello profilometer um"]
        if words == ["read"]:
            return self.sweep()
        try:
            if len(words) == 5 and words[0] == "at":
                self.cylinder, self.depth_mm = int(words[1]), float(words[2])
            elif len(words) == 2 and words[0] == "had":
                self.strokes = float(words[1])
        except ValueError:
            return ["trouble place not understood"]
        return []

    def sweep(self) -> list[str]:
        """A whole trace, as its lines; the same place gives the same wall."""
        if not 1 <= self.cylinder <= len(self.walls):
            return [f"trouble no cylinder {self.cylinder} here"]
        wall = replace(self.walls[self.cylinder - 1], strokes=self.strokes)
        heights = wall.trace(self.seed + 1000 * self.cylinder + round(10.0 * self.depth_mm))
        return list(format_trace(STEP_UM, heights.tolist()))
