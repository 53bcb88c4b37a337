"""The stand-in press: its switch, its handle, its display and its timer; it holds its heat by a thermostat."""

from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.stand_in.plate import GARMENT, PLATE, SENSOR, STEP_S, after, at_rest

MOST_STEPS = 20_000


class StandInPress:
    """A press over time. It knows nothing of clocks: somebody tells it how much time went by."""

    def __init__(self, set_c: float = 160.0, *, hot: bool = False) -> None:
        self.air_c = press_numbers().room.air_c
        self.set_c = set_c
        self.is_on = True
        self.is_shut = False
        self.is_heating = True
        self.shut_s = 0.0
        self.timer_s: float | None = None
        self.has_rung = False
        self.state = at_rest(self.air_c)
        if hot:
            self.state[PLATE] = self.state[SENSOR] = set_c
        self._rest = 0.0

    @property
    def display_c(self) -> int:
        """What its display shows: the sensor, in whole degrees."""
        return round(float(self.state[SENSOR]))

    @property
    def plate_c(self) -> float:
        """How hot its plate is."""
        return float(self.state[PLATE])

    @property
    def garment_c(self) -> float:
        """How hot the garment is that lies on it."""
        return float(self.state[GARMENT])

    @property
    def is_ready(self) -> bool:
        """Whether it holds its heat, within twice the thermostat's band."""
        return abs(float(self.state[SENSOR]) - self.set_c) <= 2 * press_numbers().plate.band_c

    @property
    def left_s(self) -> float | None:
        """What its timer shows: how long it is still to be shut; below zero when it is over."""
        return None if self.timer_s is None or not self.is_shut else self.timer_s - self.shut_s

    def lay(self) -> None:
        """Lay a cold garment on it."""
        self.state[GARMENT] = self.air_c

    def shut(self, seconds: float | None = None) -> None:
        """Shut it, its timer set to so many seconds."""
        if not self.is_shut:
            self.is_shut, self.shut_s, self.timer_s, self.has_rung = True, 0.0, seconds, False

    def open(self) -> float:
        """Open it, and return for how long it was shut."""
        self.is_shut = False
        return self.shut_s

    def advance(self, seconds: float) -> None:
        """Let so much time go by, in steps between which the thermostat looks."""
        self._rest += seconds
        steps = min(int(self._rest / STEP_S + 1e-9), MOST_STEPS)
        self._rest -= steps * STEP_S
        for _ in range(steps):
            self._look()
            self.state = after(self.state, STEP_S, heating=self.is_heating, shut=self.is_shut, air_c=self.air_c)
            if self.is_shut:
                self.shut_s += STEP_S
                self.has_rung = self.timer_s is not None and self.shut_s >= self.timer_s - 1e-9

    def _look(self) -> None:
        """Switch the heater by what the sensor says, with a band so that it does not flutter."""
        band = press_numbers().plate.band_c
        shown = float(self.state[SENSOR])
        if not self.is_on or shown >= self.set_c + band:
            self.is_heating = False
        elif shown <= self.set_c - band:
            self.is_heating = True
