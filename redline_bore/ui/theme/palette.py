"""The colour roles, light and night. Redline is used for the finish size and its limit, and for nothing else."""

from __future__ import annotations

from redline_bore.core.frozen import frozen


@frozen
class Palette:
    """A colour for each role, as #rrggbb."""

    paper: str
    sheet: str
    ink: str
    graphite: str
    rule: str
    redline: str
    on_redline: str
    tight: str
    open: str
    map_middle: str
    sound: str
    look: str
    look_ground: str
    iron: str
    bar: str  # ground of the gauge line and of main buttons
    on_bar: str
    on_bar_soft: str


LIGHT = Palette(
    paper="#F2EFE8", sheet="#FBFAF6", ink="#1C2024", graphite="#5A6068", rule="#CFC9BC", redline="#C4122F",
    on_redline="#FFFFFF", tight="#1F4E79", open="#B4641A", map_middle="#F4EFE4", sound="#2E6A4E", look="#8A5A00",
    look_ground="#FFF3D6", iron="#E6E2D6", bar="#1C2024", on_bar="#FBFAF6", on_bar_soft="#B9BDC2",
)  # fmt: skip

NIGHT = Palette(
    paper="#15181B", sheet="#1D2125", ink="#ECE8DE", graphite="#A6ACB3", rule="#3D4349", redline="#FF6075",
    on_redline="#15181B", tight="#7FB2E2", open="#E39A4E", map_middle="#2A2D2F", sound="#7FC9A5", look="#F0C46C",
    look_ground="#3B3018", iron="#31363B", bar="#0B0D0F", on_bar="#F4F0E6", on_bar_soft="#A6ACB3",
)  # fmt: skip

CLEAR = Palette(
    paper="#FFFFFF", sheet="#FFFFFF", ink="#000000", graphite="#2B2F33", rule="#6B7076", redline="#B00020",
    on_redline="#FFFFFF", tight="#003B73", open="#7A3E00", map_middle="#FFFFFF", sound="#00502B", look="#5C3B00",
    look_ground="#FFEFB8", iron="#E8E8E8", bar="#000000", on_bar="#FFFFFF", on_bar_soft="#E2E2E2",
)  # fmt: skip

CLEAR_NIGHT = Palette(
    paper="#000000", sheet="#000000", ink="#FFFFFF", graphite="#DADDE0", rule="#8A9097", redline="#FF8C9A",
    on_redline="#000000", tight="#9CCBFF", open="#FFB871", map_middle="#101214", sound="#9BEBC2", look="#FFD777",
    look_ground="#2E2400", iron="#24282C", bar="#000000", on_bar="#FFFFFF", on_bar_soft="#DADDE0",
)  # fmt: skip

PALETTES = {
    (False, False): LIGHT,
    (True, False): NIGHT,
    (False, True): CLEAR,
    (True, True): CLEAR_NIGHT,
}  # night, clear


def luminance(colour: str) -> float:
    """Relative luminance of #rrggbb, 0 to 1 (WCAG 2)."""
    channels = [int(colour[i : i + 2], 16) / 255.0 for i in (1, 3, 5)]
    linear = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in channels]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def contrast(one: str, other: str) -> float:
    """Contrast ratio of two colours, 1 to 21 (WCAG 2)."""
    a, b = sorted((luminance(one), luminance(other)))
    return (b + 0.05) / (a + 0.05)
