"""The heat of a press's plate: an element that lags, a plate with losses, a sensor that lags, a garment under it.

With heater on or off and plate open or shut it is a linear system of four temperatures and powers,

    q' = (u W - q) / tau_element
    C T' = q - k (T - T_air) - [shut] k_g (T - T_g)
    T_s' = (T - T_s) / tau_sensor
    C_g T_g' = [shut] k_g (T - T_g) - k_gl (T_g - T_air),

so that a step of any length is exact by the matrix exponential (Newton's law of cooling; lumped heat capacities).
"""

from functools import cache

import numpy as np
from numpy.typing import NDArray

from zinnet.pressing.heat_values import Plate, press_numbers

State = NDArray[np.float64]
"""Element's power in W, then plate, sensor and garment in degC."""
POWER, PLATE, SENSOR, GARMENT = range(4)
STEP_S = 0.1


def at_rest(air_c: float) -> State:
    """Return the state of a press that is off and as cold as the room."""
    return np.array([0.0, air_c, air_c, air_c])


def system(plate: Plate, *, heating: bool, shut: bool, air_c: float) -> tuple[NDArray[np.float64], State]:
    """Return the matrix A and the vector b of x' = A x + b.

    Parameters
    ----------
    plate : Plate
        Its heat capacities, losses and lags.
    heating : bool
        Whether the heater is on.
    shut : bool
        Whether the press is shut.
    air_c : float, degC
        The room's.

    Returns
    -------
    A : array (4, 4), 1/s
        Of the state: the element's power in W; plate, sensor and garment in degC.
    b : array (4,), a second
        The element and the room.
    """
    a = np.zeros((4, 4))
    b = np.zeros(4)
    held = plate.garment_w_c if shut else 0.0
    a[POWER, POWER] = -1 / plate.element_s
    b[POWER] = plate.watts / plate.element_s if heating else 0.0
    a[PLATE, POWER] = 1 / plate.heat_capacity_j_c
    a[PLATE, PLATE] = -(plate.loss_w_c + held) / plate.heat_capacity_j_c
    a[PLATE, GARMENT] = held / plate.heat_capacity_j_c
    b[PLATE] = plate.loss_w_c * air_c / plate.heat_capacity_j_c
    a[SENSOR, PLATE], a[SENSOR, SENSOR] = 1 / plate.sensor_s, -1 / plate.sensor_s
    a[GARMENT, PLATE] = held / plate.garment_j_c
    a[GARMENT, GARMENT] = -(plate.garment_loss_w_c + held) / plate.garment_j_c
    b[GARMENT] = plate.garment_loss_w_c * air_c / plate.garment_j_c
    return a, b


def after(state: State, seconds: float, *, heating: bool, shut: bool, air_c: float | None = None) -> State:
    """Return the state so many seconds later, exact while nothing is switched.

    Parameters
    ----------
    state : array (4,)
        The element's power in W; plate, sensor and garment in degC.
    seconds : float, s
        Nothing is switched for so long.
    heating : bool
        Whether the heater is on.
    shut : bool
        Whether the press is shut.
    air_c : float, degC
        The room's; None for the usual one.

    Returns
    -------
    array (4,)
        By the matrix exponential.
    """
    numbers = press_numbers()
    air = numbers.room.air_c if air_c is None else air_c
    step, drift = _step(heating, shut, air, round(seconds, 9))
    return np.asarray(step @ state + drift)


@cache
def _step(heating: bool, shut: bool, air_c: float, seconds: float) -> tuple[NDArray[np.float64], State]:
    """Return the matrix and the vector that lead over a span of time, by the exponential of the extended system."""
    from scipy.linalg import expm

    a, b = system(press_numbers().plate, heating=heating, shut=shut, air_c=air_c)
    extended = np.zeros((5, 5))
    extended[:4, :4], extended[:4, 4] = a, b
    exponential = expm(extended * seconds)
    return exponential[:4, :4], exponential[:4, 4]
