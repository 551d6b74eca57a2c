"""Every figure of a trace of 5.6 mm at half a micrometre, and its floor: the passes of the filter as a straightforward
convolution with the same kernel, nothing read from what they leave."""

import math

import numpy as np

from redline_bore.core.texture.parameters import PARAMETERS, texture_of
from redline_bore.core.texture.profile import even_trace
from redline_bore.instruments.simulated.true_texture import STEP_UM, TrueTexture

TRACE = even_trace(STEP_UM, TrueTexture(0.6, 2.0, 60.0, strokes=12.0).trace(1))
_X = np.arange(-800, 801) * STEP_UM / (math.sqrt(math.log(2.0) / math.pi) * 800.0)
_KERNEL = np.exp(-math.pi * _X * _X) / np.exp(-math.pi * _X * _X).sum()


def whole() -> None:
    """All figures, levelling and filtering included."""
    texture = texture_of(TRACE)
    assert [texture.value(name) for name in PARAMETERS][0]


def plain() -> None:
    """The filter alone: the first pass, and the second over what has its valleys suppressed."""
    z = TRACE.heights_um
    first = np.convolve(z, _KERNEL, mode="valid")
    inner = np.maximum(z[800:-800], first)
    np.convolve(inner, _KERNEL, mode="valid")
