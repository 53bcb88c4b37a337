"""The numbers that pressing goes by, read once from ``data/pressing.toml``."""

from functools import cache

from zinnet.base.frozen import Frozen
from zinnet.data import read_toml

Range = tuple[float, float]


class Dots(Frozen):
    """The most heat for one, two and three dots of a care label, in degC."""

    most_c: tuple[float, float, float]
    source: str


class Touch(Frozen):
    """How hot a thing may be that is touched for a minute, in degC."""

    minute_c: float
    source: str


class Room(Frozen):
    """The air of the room, in degC."""

    air_c: float
    source: str


class Cooling(Frozen):
    """How fast a pressed garment cools: time constants in s, on a table and under a cold plate."""

    table_s: float
    plate_s: float
    round_up_s: float
    source: str


class Waits(Frozen):
    """How long each kind of peel waits, in s."""

    hot: Range
    warm: Range
    cool: Range
    cold: Range
    source: str


class Times(Frozen):
    """Usual times of presses where the recipe has none, in s."""

    preheat_s: Range
    tack_s: Range
    back_s: Range
    lifts_s: float
    source: str


class Trim(Frozen):
    """How far from the film its carrier is trimmed, and how close it can be, in mm."""

    carrier_mm: float
    least_mm: float
    source: str


class Together(Frozen):
    """By how much heats of films that are pressed at once may differ, in degC, and how many times as long one is."""

    heats_apart_c: float
    times_apart: float
    source: str


class Shrink(Frozen):
    """A gap between films that the eye finds, in mm, and by how much more than it a lap is widened."""

    seen_mm: float
    lap_times: float
    source: str


class Hands(Frozen):
    """How long hands take for each thing, in s; whoever waits for less than ``stay_s`` stays with it."""

    dry_fit_s: float
    lint_s: float
    load_s: float
    crease_s: float
    lay_s: float
    look_s: float
    cover_s: float
    peel_s: float
    turn_s: float
    fix_s: float
    clean_s: float
    tape_s: float
    burnish_s: float
    stay_s: float
    move_s: float
    source: str


class Change(Frozen):
    """How fast a press takes another heat (degC per s), and how long until it holds it (s)."""

    warm_c_s: float
    cool_c_s: float
    settle_s: float
    source: str

    def seconds(self, before_c: float, after_c: float) -> float:
        """Return how long a press takes from one heat to another, in s; nothing where it is the same."""
        if before_c == after_c:
            return 0.0
        rate = self.warm_c_s if after_c > before_c else self.cool_c_s
        return abs(after_c - before_c) / rate + self.settle_s


class Cure(Frozen):
    """How long film cures before it is washed, in hours."""

    hours: float
    source: str


class Hem(Frozen):
    """The bars of a hem test: shares of the recipe's time, the shortest time in s, and how far heats span, in degC."""

    time_shares: tuple[float, ...]
    least_s: float
    least_span_c: float
    source: str


class Learned(Frozen):
    """When the log teaches a recipe: from how many presses that held, of how many latest, within how many degC."""

    least_presses: int
    most_presses: int
    most_span_c: float
    source: str


class PaceRules(Frozen):
    """When one's own pace counts: from how many cards of a kind of work, of how many latest cards."""

    least_cards: int
    most_cards: int
    source: str


class Wash(Frozen):
    """How long washing and drying take the day before, in hours."""

    hours: float
    source: str


class Plate(Frozen):
    """The stand-in press: its heater, plate, sensor and the garment under it."""

    watts: float
    heat_capacity_j_c: float
    loss_w_c: float
    element_s: float
    sensor_s: float
    band_c: float
    garment_j_c: float
    garment_w_c: float
    garment_loss_w_c: float
    source: str


class PressNumbers(Frozen):
    """All of them."""

    dots: Dots
    touch: Touch
    room: Room
    cooling: Cooling
    waits: Waits
    times: Times
    trim: Trim
    together: Together
    shrink: Shrink
    hands: Hands
    change: Change
    cure: Cure
    wash: Wash
    hem: Hem
    learned: Learned
    pace: PaceRules
    plate: Plate


@cache
def press_numbers() -> PressNumbers:
    """Return the numbers of pressing."""
    return PressNumbers.model_validate(read_toml("pressing"))


def middle(span: Range) -> float:
    """Return the middle of a range, in whole units where one lies in it; halves go up."""
    low, high = span
    return min(max(float(int((low + high) / 2 + 0.5)), low), high)
