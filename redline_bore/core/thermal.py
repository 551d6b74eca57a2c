"""Size at 20 C (methods 2; ISO 1, ISO/TR 16015). Sizes in mm, temperatures in C, coefficients in 1e-6 per C."""

from __future__ import annotations

from redline_bore.core.frozen import frozen

COLDEST_C = -196.0  # nitrogen boils; nothing in a shop is colder

REFERENCE_C = 20.0


def growth(coefficient_1e6: float, at_c: float) -> float:
    """Length at ``at_c`` over length at 20 C, a plain ratio. coefficient_1e6: 1e-6 per C. Source: ISO 1."""
    return 1.0 + coefficient_1e6 * 1e-6 * (at_c - REFERENCE_C)


def size_at_20(size_mm: float, coefficient_1e6: float, part_c: float) -> float:
    """Size in mm at 20 C of a part that measures ``size_mm`` at ``part_c``: L20 = L / (1 + a (T - 20)). ISO 1.

    >>> round(size_at_20(92.05, 11.0, 26.0), 4)
    92.0439
    """
    return size_mm / growth(coefficient_1e6, part_c)


def size_at(size_20_mm: float, coefficient_1e6: float, part_c: float) -> float:
    """Size in mm at ``part_c`` of a part that is ``size_20_mm`` at 20 C. ISO 1."""
    return size_20_mm * growth(coefficient_1e6, part_c)


@frozen
class GaugeSetting:
    """How a comparative gauge was zeroed: the master's own size at 20 C, its coefficient, its temperature.

    gauge_c is the gauge body's own temperature at zeroing, None when it is not known.
    """

    master_20_mm: float
    master_1e6: float
    master_c: float
    gauge_1e6: float | None = None
    gauge_c: float | None = None


def gauge_size_at_part(setting: GaugeSetting, from_zero_mm: float, gauge_c: float | None = None) -> float:
    """Size in mm of the part at its own temperature, from a reading ``from_zero_mm`` (plus: bigger than the master).

    gauge_c: gauge body temperature at the reading; the gauge term is nought when either of its temperatures or
    its coefficient is unknown (never the part's temperature instead). Source: methods 2; ISO/TR 16015.
    """
    size = setting.master_20_mm * growth(setting.master_1e6, setting.master_c) + from_zero_mm
    if setting.gauge_1e6 is not None and setting.gauge_c is not None and gauge_c is not None:
        size *= 1.0 + setting.gauge_1e6 * 1e-6 * (gauge_c - setting.gauge_c)  # the whole gauge grows, not the master
    return size


def gauge_size_at_20(
    setting: GaugeSetting, from_zero_mm: float, part_1e6: float, part_c: float, gauge_c: float | None = None
) -> float:
    """Size in mm at 20 C from a gauge reading ``from_zero_mm`` off ``setting`` in a part at ``part_c``. Methods 2."""
    return size_at_20(gauge_size_at_part(setting, from_zero_mm, gauge_c), part_1e6, part_c)


def master_drift(
    setting: GaugeSetting, from_zero_mm: float, master_c: float | None = None, gauge_c: float | None = None
) -> float:
    """How far the zero has moved, mm, when the gauge reads ``from_zero_mm`` on its own master again (plus: too big).

    What the master and the gauge have grown since is taken out where their temperatures are known (never guessed).
    Source: methods 2, solved for a master of known size.
    """
    now_c = setting.master_c if master_c is None else master_c
    true_mm = setting.master_20_mm * growth(setting.master_1e6, now_c)
    return gauge_size_at_part(setting, from_zero_mm, gauge_c) - true_mm
