"""The guides of the trade: places with their usual sizes, and schools of distance under the collar."""

from functools import cache
from typing import Any, Literal

from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import Frozen
from zinnet.base.units import MM_PER_INCH
from zinnet.data import read_toml

Anchor = Literal["top", "bottom", "middle"]
ArrangementName = Literal["one", "rows", "arc", "ring", "band"]
Character = Literal["compact", "usual", "busy"]


class Range(Frozen):
    """A range in mm with the value that is aimed at."""

    low_mm: float
    target_mm: float
    high_mm: float

    def holds(self, mm: float, slack_mm: float = 0.0) -> bool:
        """Tell whether a value lies in the range."""
        return self.low_mm - slack_mm <= mm <= self.high_mm + slack_mm


class Widths(Frozen):
    """How wide artwork usually is at a place, in mm."""

    least_mm: float
    compact_mm: float
    usual_mm: float
    busy_mm: float
    most_mm: float

    def usual_for(self, character: Character) -> float:
        """Return the usual width for a design of this character."""
        return {"compact": self.compact_mm, "usual": self.usual_mm, "busy": self.busy_mm}[character]

    def range_for(self, character: Character) -> tuple[float, float]:
        """Return the range for a character: only what is mostly words or very busy goes to the widest."""
        return self.least_mm, self.most_mm if character == "busy" else self.busy_mm


class School(Frozen):
    """How far under the collar one school puts the top edge."""

    name: str
    fingers: tuple[float, float, float] | None = None
    inches: tuple[float, float, float] | None = None
    source: str

    def range_mm(self, finger_mm: float) -> Range:
        """Return the range in mm for a finger of this breadth."""
        if self.fingers is not None:
            low, target, high = (count * finger_mm for count in self.fingers)
        else:
            low, target, high = (inch * MM_PER_INCH for inch in self.inches or (0.0, 0.0, 0.0))
        return Range(low_mm=low, target_mm=target, high_mm=high)


class Place(Frozen):
    """A place on a blank: its panel, how artwork is held to a reference point, and how large it usually is.

    Artwork hangs with its top edge below the reference, stands with its bottom edge above it, or has its middle
    below it; ``down`` says how far (None: by school). ``across`` is how far its middle is from the centre line.
    """

    id: str
    name: str
    blanks: tuple[str, ...]
    panel: str
    anchor: Anchor
    reference: str
    reference_name: str
    by_school: bool
    down: dict[str, Range]
    across: dict[str, Range]
    widths: dict[str, Widths]
    box_mm: tuple[float, float] | None
    wide_box_mm: tuple[float, float] | None
    less_mm: tuple[float, float] | None
    fill: float | None
    within_visible: bool
    arrangement: ArrangementName
    source: str

    @property
    def centred(self) -> bool:
        """Whether its middle belongs on the centre line."""
        return not self.across

    def across_of(self, size_class: str) -> Range:
        """Return how far the middle is from the centre line, positive to the viewer's right."""
        return _of_class(self.across, size_class) or Range(low_mm=0, target_mm=0, high_mm=0)

    def down_of(self, size_class: str) -> Range | None:
        """Return the distance from the reference, or None where only the school says it."""
        return _of_class(self.down, size_class)

    def widths_of(self, size_class: str) -> Widths | None:
        """Return the usual widths, or None where the panel itself says how large."""
        return _of_class(self.widths, size_class)


def _of_class[T](table: dict[str, T], size_class: str) -> T | None:
    return table.get(size_class, table.get("adult"))


def _inches(values: Any) -> tuple[float, ...]:
    return tuple(float(value) * MM_PER_INCH for value in values)


def _range(values: Any, sign: int = 1) -> Range:
    low, target, high = sorted(sign * value for value in _inches(values))
    return Range(low_mm=low, target_mm=target, high_mm=high)


def _place(name: str, row: dict[str, Any]) -> Place:
    """Return a row of the catalogue as a place."""
    sign = -1 if row.get("mirrored") else 1
    one_for_all = row.get("down_in") or row.get("up_in")
    down = {key: _range(values) for key, values in row.get("down_by_class_in", {}).items()}
    if one_for_all is not None:
        down = {"adult": _range(one_for_all)}
    widths = {}
    for key, values in row.get("widths_in", {}).items():
        least, compact, usual, busy, most = _inches(values)
        widths[key] = Widths(least_mm=least, compact_mm=compact, usual_mm=usual, busy_mm=busy, most_mm=most)

    def pair(key: str) -> tuple[float, float] | None:
        if key not in row:
            return None
        first, second = _inches(row[key])
        return first, second

    return Place(
        id=name,
        name=row["name"],
        blanks=row["blanks"],
        panel=row["panel"],
        anchor=row["anchor"],
        reference=row["reference"],
        reference_name=row.get("reference_name", row["reference"]),
        by_school=row.get("by_school", False),
        down=down,
        across={key: _range(values, sign) for key, values in row.get("across_in", {}).items()},
        widths=widths,
        box_mm=pair("box_in"),
        wide_box_mm=pair("wide_box_in"),
        less_mm=pair("less_in"),
        fill=row.get("fill"),
        within_visible=row.get("within_visible", False),
        arrangement=row.get("arrangement", "one"),
        source=row["source"],
    )


@cache
def all_places() -> tuple[Place, ...]:
    """Return every place; one id may stand for several groups of blanks."""
    table = read_toml("places")["places"]
    found = []
    for name, rows in table.items():
        for row in rows:
            base = table[row["like"]][0] if "like" in row else {}
            merged = {**base, **row}
            found.append(_place(name, merged))
    return tuple(found)


def places_of(kind: str, form_kind: str | None = None) -> dict[str, Place]:
    """Return the places of a kind of blank by their id; ``form_kind`` stands in for a kind of the user's own."""
    for name in (kind, form_kind):
        found = {place.id: place for place in all_places() if name in place.blanks}
        if found:
            return found
    return {}


def place_names() -> tuple[str, ...]:
    """Return the id of every place, once."""
    return tuple(dict.fromkeys(place.id for place in all_places()))


@cache
def schools() -> dict[str, School]:
    """Return every school of distance under the collar."""
    return {name: School.model_validate(row) for name, row in read_toml("places")["schools"].items()}


def school(name: str) -> School:
    """Return one school by its id."""
    if name not in schools():
        raise ZinnetError(f"There is no school “{name}”; known are: {', '.join(schools())}.")
    return schools()[name]


def usual_school(size_class: str) -> str:
    """Return the school that is meant where the user chose none."""
    usual = read_toml("places")["usual_school"]
    return str(usual.get(size_class, usual["adult"]))


def usual_finger_mm() -> float:
    """Return a finger's breadth until the user measures their own."""
    return float(read_toml("places")["finger"]["breadth_mm"])


def guide_square_mm(size_class: str) -> float:
    """Return the side of the guide square of a class."""
    squares = read_toml("places")["squares"]
    return float(squares.get(size_class, squares["adult"])) * MM_PER_INCH
