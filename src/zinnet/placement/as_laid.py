"""The as-laid check: where a piece really lies, from readings with a ruler, and how to move it."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import Frozen
from zinnet.base.units import Unit, write_length
from zinnet.data.limits import limits
from zinnet.placement.place import Placement

MOST_READING_MM = 3000.0
READINGS: tuple[tuple[str, str], ...] = (
    ("left_mm", "left side"),
    ("right_mm", "right side"),
    ("top_left_mm", "upper left corner"),
    ("top_right_mm", "upper right corner"),
)


class Readings(Frozen):
    """What the ruler says, in mm, as the viewer sees the panel.

    ``left_mm`` and ``right_mm`` go from the middle of the artwork's left and right side straight to the panel's
    edge; ``top_left_mm`` and ``top_right_mm`` from its upper corners to the panel's left and right mark. The quick
    form leaves out two: the right side and the upper right corner; then no tilt can be told.
    """

    left_mm: float
    top_left_mm: float
    right_mm: float | None = None
    top_right_mm: float | None = None


@dataclass(frozen=True)
class AsLaid:
    """Where a piece lies against the plan: its middle is off by (``right_mm``, ``down_mm``), turned clockwise by
    ``turn_deg``. ``contradiction`` says why the readings can't all be true, where they can't."""

    right_mm: float
    down_mm: float
    turn_deg: float
    residual_mm: float
    knows_tilt: bool
    contradiction: str | None = None

    @property
    def shift_mm(self) -> float:
        """How far its middle is off."""
        return math.hypot(self.right_mm, self.down_mm)

    @property
    def is_good(self) -> bool:
        """Whether it lies within tolerance."""
        numbers = limits()["as_laid"]
        tilt = abs(self.turn_deg) <= numbers["tilt_deg"] or not self.knows_tilt
        return self.contradiction is None and self.shift_mm <= numbers["shift_mm"] and tilt

    def advice(self, sides: tuple[str, str], unit: Unit = "mm") -> str:
        """Say what to do; ``sides`` are the words for the viewer's left and right."""
        if self.contradiction is not None:
            return self.contradiction
        steps = []
        if abs(self.right_mm) >= 0.5:
            steps.append(f"{write_length(abs(round(self.right_mm)), unit=unit)} {sides[0 if self.right_mm > 0 else 1]}")
        if abs(self.down_mm) >= 0.5:
            steps.append(f"{write_length(abs(round(self.down_mm)), unit=unit)} {'up' if self.down_mm > 0 else 'down'}")
        said = [f"move {', '.join(steps)}"] if steps else []
        if self.knows_tilt and abs(self.turn_deg) >= 0.1:
            said.append(f"turn {abs(self.turn_deg):.1f}° {'counterclockwise' if self.turn_deg > 0 else 'clockwise'}")
        if not said:
            return "It lies as planned."
        words = ", ".join(said)
        lead = "It is within tolerance; to be exact, " if self.is_good else ""
        return f"{lead}{words if lead else words[0].upper() + words[1:]}."


def sides_of(placement: Placement) -> tuple[str, str]:
    """Return the words for the viewer's left and right on a panel: on a garment, the wearer's sides."""
    if placement.panel.id == "front" and "shoulder" in placement.panel.references:
        return "to the wearer's right", "to the wearer's left"
    if placement.panel.id == "back":
        return "to the wearer's left", "to the wearer's right"
    return "to the left", "to the right"


def expected_readings(placement: Placement) -> Readings:
    """Return what the ruler says where the artwork lies as planned."""
    left, right, top_left, top_right = _readings_at(placement, np.zeros(3)).tolist()
    return Readings(left_mm=left, right_mm=right, top_left_mm=top_left, top_right_mm=top_right)


def readings_at(placement: Placement, *, right_mm: float, down_mm: float, turn_deg: float) -> Readings:
    """Return what the ruler says where the artwork is off by this."""
    found = _readings_at(placement, np.array([right_mm, down_mm, math.radians(turn_deg)])).tolist()
    return Readings(left_mm=found[0], right_mm=found[1], top_left_mm=found[2], top_right_mm=found[3])


def _readings_at(placement: Placement, off: NDArray[np.float64]) -> NDArray[np.float64]:
    """Return the four readings (4,) for a shift in mm and a turn in radians about the artwork's middle."""
    centre = np.array(placement.centre)
    corners = np.array(placement.corners) - centre
    cosine, sine = math.cos(off[2]), math.sin(off[2])
    turned = corners @ np.array([[cosine, sine], [-sine, cosine]]) + centre + off[:2]
    left_x, left_y = (turned[0] + turned[3]) / 2
    right_x, right_y = (turned[1] + turned[2]) / 2
    marks = np.array(placement.panel.marks)
    return np.array(
        [
            left_x - placement.panel.edges_near(left_y)[0],
            placement.panel.edges_near(right_y)[1] - right_x,
            np.linalg.norm(turned[0] - marks[0]),
            np.linalg.norm(turned[1] - marks[1]),
        ]
    )


def locate(readings: Readings, placement: Placement) -> AsLaid:
    """Return where the piece lies, by least squares over the readings.

    Three unknowns, two for the shift and one for the tilt, from four readings; readings that leave more than the
    limit unexplained contradict each other. Raises :class:`ZinnetError` for readings that no ruler gives.
    """
    from scipy.optimize import least_squares

    _refuse_nonsense(readings)
    is_full = readings.right_mm is not None and readings.top_right_mm is not None
    used = [0, 1, 2, 3] if is_full else [0, 2]
    taken = np.array([readings.left_mm, readings.right_mm or 0.0, readings.top_left_mm, readings.top_right_mm or 0.0])

    def misfit(off: NDArray[np.float64]) -> NDArray[np.float64]:
        whole = off if is_full else np.array([off[0], off[1], 0.0])
        return np.asarray((_readings_at(placement, whole) - taken)[used])

    start = np.zeros(3 if is_full else 2)
    scale = [1.0, 1.0, 0.01] if is_full else [1.0, 1.0]
    found = least_squares(misfit, start, x_scale=scale, method="trf")
    tilt = math.degrees(found.x[2]) if is_full else 0.0
    residual = float(np.abs(found.fun).max())
    numbers = limits()["as_laid"]
    contradiction = None
    if residual > numbers["residual_mm"] or abs(tilt) > numbers["most_tilt_deg"]:
        contradiction = _contradiction(readings, placement, found.x, tilt, numbers["most_tilt_deg"])
    return AsLaid(float(found.x[0]), float(found.x[1]), tilt, residual, is_full, contradiction)


def _refuse_nonsense(readings: Readings) -> None:
    for name, said in READINGS:
        value = getattr(readings, name)
        if value is not None and not -200 <= value <= MOST_READING_MM:
            raise ZinnetError(f"{value:.0f} mm from the {said} can't be right; read the ruler there again.")


def _contradiction(
    readings: Readings, placement: Placement, off: NDArray[np.float64], tilt: float, most_tilt: float
) -> str:
    if abs(tilt) > most_tilt or readings.right_mm is None:
        said = f"they would mean a tilt of more than {most_tilt:.0f} degrees"
        return f"These readings can't all be true: {said}. Read the corners again."
    y = placement.centre[1] + float(off[1])
    left, right = placement.panel.edges_near(y)
    wide = placement.width_mm * abs(math.cos(math.radians(tilt)))
    total = readings.left_mm + wide + readings.right_mm
    return (
        f"These readings can't all be true: left, artwork and right make {total:.0f} mm, "
        f"the panel is {right - left:.0f} mm across there. Read the left and right side again; "
        "if they stand, measure the blank again."
    )
