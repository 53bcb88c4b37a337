"""Cooling of what was pressed, by Newton's law of cooling: when it may be touched and peeled."""

import math

from zinnet.pressing.heat_values import press_numbers


def cooling_constant(*, cold_plate: bool) -> float:
    """Return the time constant of a pressed garment in s: on a table, or under a cold metal plate or stone."""
    cooling = press_numbers().cooling
    return cooling.plate_s if cold_plate else cooling.table_s


def temperature_after(start_c: float, seconds: float, *, cold_plate: bool = False, air_c: float | None = None) -> float:
    """Return the temperature in degC of what was at ``start_c`` and cooled for so long.

    Newton's law of cooling: T = T_air + (T_start - T_air) e^(-t / tau).

    Parameters
    ----------
    start_c : float, degC
        At the beginning.
    seconds : float, s
        How long it cools.
    cold_plate : bool
        Whether it lies under a cold metal plate or stone.
    air_c : float, degC
        The room's; None for the usual one.

    Returns
    -------
    float, degC
        Between the two.
    """
    air = press_numbers().room.air_c if air_c is None else air_c
    return air + (start_c - air) * math.exp(-max(seconds, 0.0) / cooling_constant(cold_plate=cold_plate))


def seconds_to(target_c: float, start_c: float, *, cold_plate: bool = False, air_c: float | None = None) -> float:
    """Return how many seconds it takes to cool to ``target_c``; infinity where the air is warmer than that.

    Parameters
    ----------
    target_c : float, degC
        To cool to.
    start_c : float, degC
        At the beginning.
    cold_plate : bool
        Whether it lies under a cold metal plate or stone.
    air_c : float, degC
        The room's; None for the usual one.

    Returns
    -------
    float, s
        0 where it is as cool already, infinite where the room is warmer.
    """
    air = press_numbers().room.air_c if air_c is None else air_c
    if start_c <= target_c:
        return 0.0
    if target_c <= air:
        return math.inf
    return cooling_constant(cold_plate=cold_plate) * math.log((start_c - air) / (target_c - air))


def cool_to_touch_s(start_c: float, *, cold_plate: bool = False) -> float:
    """Return after how many seconds a thing may be touched for a minute (ISO 13732-1), rounded up."""
    numbers = press_numbers()
    exact = seconds_to(numbers.touch.minute_c, start_c, cold_plate=cold_plate)
    step = numbers.cooling.round_up_s
    return math.ceil(exact / step) * step
