"""What is nested and what comes out: pieces, sheets, placements. Lengths in mm, y down."""

import json
from dataclasses import dataclass
from functools import cached_property
from hashlib import sha256
from typing import Any, Literal

import numpy as np
import shapely
from pydantic import Field, PrivateAttr, model_validator

from zinnet.base.errors import NestError
from zinnet.base.frozen import Frozen
from zinnet.geometry.region import Region, as_region
from zinnet.geometry.transform import Matrix, shift, turn
from zinnet.nesting.sheet import Sheet

TurnsWord = Literal["none", "half", "quarter", "any"]
Turns = TurnsWord | tuple[float, ...]

HALF = 2**31
"""Half of what fits into 32 bits: points lie within 2 km of the origin."""
ALLOWED = {"none": (0.0,), "half": (0.0, 180.0), "quarter": (0.0, 90.0, 180.0, 270.0)}


Aim = Literal["scraps", "loads", "film", "rest"]
AIMS: tuple[Aim, ...] = ("scraps", "loads", "film", "rest")
"""What a nest is after, once all pieces are placed, the first thing first.

Scraps before rolls; few loads; little film taken; the last sheet left as long as can be in one piece.
"""
MOST_PINS = 5000
CutApart = Literal["whole", "proposed", "parts"]


class Pin(Frozen):
    """Where a copy of a piece was put by hand: on which of its film's mats (from 0), and how it lies there.

    ``sheet`` counts the task's kinds of sheets. One that is ``held`` stays there when the rest is nested again.
    """

    piece: str
    copy_number: int = Field(ge=1)
    mat: int = Field(ge=0)
    sheet: int = Field(default=0, ge=0)
    x_mm: float = Field(allow_inf_nan=False)
    y_mm: float = Field(allow_inf_nan=False)
    turn_deg: float = Field(default=0.0, allow_inf_nan=False)
    held: bool = False

    @property
    def placed(self) -> "Placed":
        """The placement that it asks for."""
        return Placed(
            piece=self.piece, copy_number=self.copy_number, x_mm=self.x_mm, y_mm=self.y_mm, turn_deg=self.turn_deg
        )


class FilmWay(Frozen):
    """How the user wants the layers of a film parted: at gaps of a share of the artwork's size; None: whole."""

    film: str
    share: float | None = Field(default=None, ge=0, le=1)


class NestSpec(Frozen):
    """How the user wants the pieces nested.

    They are cut from mats full of film, or ``from_shelf``: from the film that is there; prints are made on ``paper``.
    A layer is cut ``whole``, as is ``proposed`` where that saves enough, or in all its ``parts``; of ``ways`` chosen by
    the user those films are cut that are ``proposed``.
    Layers that are ``cut_already``, by their colours, are there and not nested.
    ``share_mats`` sticks several films of one setting on a mat. ``turns`` holds where the film has no direction.
    ``moved`` is what was done by hand since the last nest, ``pins`` what that nest had to leave where it was. With
    ``steps`` the search goes so wide instead of so long, and finds the same each time.
    """

    mat: str = "12x12in"
    paper: Literal["a5", "a4", "a3", "letter"] = "a4"
    from_shelf: bool = False
    gap_mm: float | None = Field(default=None, ge=0)
    turns: TurnsWord = "quarter"
    cut_apart: CutApart = "proposed"
    ways: tuple[FilmWay, ...] = Field(default=(), max_length=500)
    cut_already: tuple[str, ...] = Field(default=(), max_length=500)
    inside_counters: bool = True
    weed_frame: Literal["none", "piece", "mat"] = "none"
    test_cut: bool = False
    share_mats: bool = False
    spare: int = Field(default=0, ge=0, le=1000)
    aims: tuple[Aim, ...] = AIMS
    moved: tuple[Pin, ...] = Field(default=(), max_length=MOST_PINS)
    pins: tuple[Pin, ...] = Field(default=(), max_length=MOST_PINS)
    seconds: float = Field(default=3.0, gt=0, le=600)
    steps: int | None = Field(default=None, ge=1, le=10_000)
    seed: int = 0

    @model_validator(mode="before")
    @classmethod
    def _as_it_was_called(cls, data: Any) -> Any:
        """Read what files say that are older than cutting apart: whether pieces of a layer are kept together."""
        if isinstance(data, dict) and "keep_together" in data:
            data = dict(data)
            together = data.pop("keep_together")
            data.setdefault("cut_apart", "whole" if together else "parts")
        return data

    @model_validator(mode="after")
    def _each_aim_once(self) -> "NestSpec":
        if sorted(self.aims) != sorted(AIMS):
            raise ValueError(f"the aims are {', '.join(AIMS)}, each once")
        return self


@dataclass(frozen=True, eq=False)
class Piece:
    """A rigid piece of one or several parts, as cut; placements turn it about its origin."""

    name: str
    region: Region
    copies: int = 1
    turns: Turns = "quarter"

    @cached_property
    def digest(self) -> str:
        """A digest of its points in micrometres, in whatever order; both numbers of a point are sorted as one."""
        points = np.rint(shapely.get_coordinates(self.region) * 1000).astype(np.int64)
        packed = np.unique((points[:, 0] << 32) + (points[:, 1] + HALF))
        across = packed >> 32
        unpacked = np.stack([across, packed - (across << 32) - HALF], axis=1)
        return sha256(unpacked.tobytes()).hexdigest()

    @property
    def allowed_turns(self) -> tuple[float, ...] | None:
        """The allowed turns in degrees, or None where any turn will do."""
        if isinstance(self.turns, tuple):
            return self.turns
        return ALLOWED.get(self.turns)


@dataclass(frozen=True, eq=False)
class NestTask:
    """One nest: pieces of one film on the sheets that there are, in the order of preference.

    ``inside_counters`` allows small pieces inside the counters of larger ones, those at least ``counter_mm`` wide;
    ``pinned`` are the sheets on which some copies already lie and stay. With ``steps`` the search ends after so much
    work instead of time, and finds the same each time.
    """

    pieces: tuple[Piece, ...]
    sheets: tuple[Sheet, ...]
    gap_mm: float
    seconds: float = 3.0
    seed: int = 0
    inside_counters: bool = False
    counter_mm: float = 0.0
    aims: tuple[Aim, ...] = AIMS
    pinned: tuple["SheetLayout", ...] = ()
    steps: int | None = None

    @property
    def sheet(self) -> Sheet:
        """The first kind of sheet: the only one where a nest is on equal mats."""
        return self.sheets[0]

    def to_json(self) -> str:
        """Return the task as text, shapes as hexadecimal WKB."""
        return json.dumps(
            {
                "pieces": [
                    {
                        "name": piece.name,
                        "region": shapely.to_wkb(piece.region, hex=True),
                        "copies": piece.copies,
                        "turns": piece.turns,
                    }
                    for piece in self.pieces
                ],
                "sheets": [sheet.model_dump() for sheet in self.sheets],
                "gap_mm": self.gap_mm,
                "seconds": self.seconds,
                "seed": self.seed,
                "inside_counters": self.inside_counters,
                "counter_mm": self.counter_mm,
                "aims": self.aims,
                "pinned": [one.model_dump() for one in self.pinned],
                "steps": self.steps,
            }
        )

    @classmethod
    def from_json(cls, text: str) -> "NestTask":
        """Return the task that :meth:`to_json` wrote."""
        data: dict[str, Any] = json.loads(text)
        pieces = tuple(
            Piece(
                row["name"],
                as_region(shapely.from_wkb(row["region"])),
                row["copies"],
                row["turns"] if row["turns"] in ("none", "half", "quarter", "any") else tuple(row["turns"]),
            )
            for row in data["pieces"]
        )
        return cls(
            pieces=pieces,
            sheets=tuple(Sheet.model_validate(row) for row in data["sheets"]),
            gap_mm=data["gap_mm"],
            seconds=data["seconds"],
            seed=data["seed"],
            inside_counters=data["inside_counters"],
            counter_mm=data["counter_mm"],
            aims=tuple(data["aims"]),
            pinned=tuple(SheetLayout.model_validate(row) for row in data["pinned"]),
            steps=data["steps"],
        )

    @cached_property
    def key(self) -> str:
        """A digest of all that the result depends on, but for the time allowed.

        The order of parts, rings and points does not count: overlays may give them in any order.
        """
        data = {
            "pieces": [
                {"name": piece.name, "region": piece.digest, "copies": piece.copies, "turns": piece.turns}
                for piece in self.pieces
            ],
            "sheets": [sheet.digest for sheet in self.sheets],
            "gap_mm": self.gap_mm,
            "seed": self.seed,
            "inside_counters": self.inside_counters,
        }
        if self.inside_counters and self.counter_mm:
            data["counter_mm"] = self.counter_mm
        if self.aims != AIMS or self.pinned:
            data |= {"aims": self.aims, "pinned": [one.model_dump() for one in self.pinned]}
        return sha256(json.dumps(data, sort_keys=True).encode()).hexdigest()


class Placed(Frozen):
    """One copy of a piece on a sheet: turned about the piece's origin, then shifted."""

    piece: str
    copy_number: int
    x_mm: float
    y_mm: float
    turn_deg: float

    @property
    def matrix(self) -> Matrix:
        """The matrix from the piece as cut to the sheet."""
        return shift(self.x_mm, self.y_mm) @ turn(self.turn_deg)


class SheetLayout(Frozen):
    """What lies on one sheet, and how far along x it reaches; ``sheet`` counts the task's kinds of sheets from 0."""

    placed: tuple[Placed, ...]
    used_length_mm: float
    sheet: int = Field(default=0, ge=0)


class Layout(Frozen):
    """A whole nest; ``unplaced`` names each copy that found no room.

    ``plain`` says that plain rows stand in, because the search failed or was stopped before it found anything.
    """

    sheets: tuple[SheetLayout, ...] = ()
    unplaced: tuple[str, ...] = ()
    plain: bool = False
    _verified: bool = PrivateAttr(default=False)

    @property
    def verified(self) -> bool:
        """Whether the judge passed it while this program ran. No file can say so, and none is told."""
        return self._verified

    def as_verified(self) -> "Layout":
        """Return the same layout, once the judge has passed it."""
        same = self.model_copy()
        same._verified = True
        return same


Rank = tuple[float, ...]


def rank(task: NestTask, layout: Layout) -> Rank:
    """Return what makes one layout better than another; less is better.

    First all pieces are placed; then the task's aims count in their order. Film that is none of a scrap is only an aim
    of its own where there are scraps.
    """
    areas = {piece.name: piece.region.area for piece in task.pieces}
    taken = last = 0.0
    for one in layout.sheets:
        sheet = task.sheets[one.sheet]
        last = round(one.used_length_mm, 1)
        if sheet.kind != "scrap":
            taken += one.used_length_mm * sheet.height_mm
    scraps = any(sheet.kind == "scrap" for sheet in task.sheets)
    by_aim: dict[Aim, float] = {
        "scraps": round(taken) if scraps else 0.0,
        "loads": len(layout.sheets),
        "film": round(taken, 1),
        "rest": last,
    }
    left_out = sum(areas[name] for name in layout.unplaced)
    return (len(layout.unplaced), round(left_out, 1), *(by_aim[aim] for aim in task.aims))


def check_task(task: NestTask) -> None:
    """Raise :class:`NestError` where the task can't be nested at all.

    Parameters
    ----------
    task : NestTask, mm
        The task.

    Raises
    ------
    NestError
        A name stands twice, a piece has no area, there is no sheet, or margins leave nothing of it.
    """
    names = [piece.name for piece in task.pieces]
    if len(set(names)) != len(names):
        raise NestError("Two pieces have the same name; give each its own id.")
    if any(piece.region.is_empty for piece in task.pieces):
        raise NestError("A piece has no area; remove it and nest again.")
    if not task.sheets:
        raise NestError("There is nothing to cut from; take a mat, a roll or a scrap.")
    if all(min(sheet.inner) <= 0 for sheet in task.sheets):
        raise NestError("The margins leave nothing of the sheet; make them smaller.")
