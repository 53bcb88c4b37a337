"""What pieces are cut from: a mat, a sheet, a length of roll, a scrap with its true outline. Lengths in mm, y down."""

import math
from typing import Annotated, Any, Literal

import numpy as np
import shapely
import shapely.errors
from pydantic import Field, PlainSerializer, PlainValidator
from shapely.geometry.base import BaseGeometry

from zinnet.base.frozen import Frozen
from zinnet.base.stages import stage
from zinnet.geometry.region import Region, as_region, union, without
from zinnet.geometry.transform import moved, shift

SheetKind = Literal["mat", "sheet", "roll", "scrap"]


def _read_shape(value: Any) -> Region:
    """Return the areas of a geometry or of its WKB. Raises :class:`ValueError` where it holds none that is sound."""
    if not isinstance(value, BaseGeometry | str | bytes):
        raise ValueError("it is no outline")
    try:
        found = as_region(value if isinstance(value, BaseGeometry) else shapely.from_wkb(value))
    except (shapely.errors.ShapelyError, TypeError) as error:
        raise ValueError(f"it is no outline ({error})") from None
    if isinstance(value, BaseGeometry) or found.is_empty:
        return found
    if not (np.isfinite(found.bounds).all() and found.is_valid):
        raise ValueError("it is no sound outline")
    return found


Shape = Annotated[Region, PlainValidator(_read_shape), PlainSerializer(lambda region: shapely.to_wkb(region, hex=True))]
"""A region as the field of a model, written as hexadecimal WKB."""


class Sheet(Frozen):
    """A piece of film to cut from: width along x, height along y, and the margin kept free along every edge.

    ``outline`` says where there is film, where it is no full rectangle; ``keep_out`` what of it can't be used.
    ``copies`` is how many there are, None for any number. Loads that are cut off a roll are at most ``width_mm`` long
    each, and together no longer than it is, ``roll_mm``. Where it is part of a larger film, ``corner`` says where it
    begins there, and ``turned`` that the film lies turned by a quarter.
    """

    width_mm: float = Field(gt=0)
    height_mm: float = Field(gt=0)
    margin_mm: float = Field(default=0.0, ge=0)
    outline: Shape | None = None
    keep_out: Shape | None = None
    copies: int | None = Field(default=None, ge=1)
    kind: SheetKind = "mat"
    label: str = ""
    corner: tuple[float, float] = (0.0, 0.0)
    turned: bool = False
    roll_mm: float | None = Field(default=None, gt=0)

    @property
    def is_plain(self) -> bool:
        """Whether it is a full rectangle without any spot to keep out of."""
        return self.outline is None and self.keep_out is None

    @property
    def inner(self) -> tuple[float, float]:
        """Width and height inside the margins of the whole box."""
        return self.width_mm - 2 * self.margin_mm, self.height_mm - 2 * self.margin_mm

    @property
    def digest(self) -> str:
        """All that a nest on it depends on, in an order that does not change from run to run."""
        shapes = [
            "" if shape is None else shapely.to_wkb(shapely.normalize(shapely.set_precision(shape, 1e-4)), hex=True)
            for shape in (self.outline, self.keep_out)
        ]
        size = f"{self.width_mm!r} {self.height_mm!r} {self.margin_mm!r}"
        roll = "" if self.roll_mm is None else f" of {self.roll_mm!r}"
        return f"{size} {self.copies} {self.kind} {self.label} {shapes}{roll}"


@stage(most=512)
def film_of(sheet: Sheet) -> Region:
    """Return where there is film."""
    if sheet.outline is not None:
        return sheet.outline
    return as_region(shapely.box(0, 0, sheet.width_mm, sheet.height_mm))


@stage(most=512)
def room_of(sheet: Sheet) -> Region:
    """Return where pieces may lie: the film less the spots to keep out of, less the margin along every edge."""
    usable = film_of(sheet) if sheet.keep_out is None else without(film_of(sheet), sheet.keep_out)
    if sheet.margin_mm == 0:
        return usable
    return as_region(shapely.buffer(usable, -sheet.margin_mm, quad_segs=16))


def taken_mm(sheet: Sheet, reach_mm: float) -> float:
    """Return how much of its length a sheet is cut off at, with what reaches so far along it, and the margin behind."""
    return min(sheet.width_mm, reach_mm + sheet.margin_mm)


def all_room_mm2(sheet: Sheet) -> float:
    """Return where pieces may lie on all there is of a sheet, roughly, in mm2; infinite where there is any number."""
    one = float(room_of(sheet).area)
    if sheet.roll_mm is not None:
        return one * sheet.roll_mm / sheet.width_mm
    return math.inf if sheet.copies is None else one * sheet.copies


def spoiled(sheet: Sheet, keep_out: Region | None, corner: tuple[float, float] = (0.0, 0.0)) -> Sheet:
    """Return the sheet with spots to keep out of; ``corner`` is where its own corner lies in their coordinates."""
    if keep_out is None:
        return sheet
    here = moved(keep_out, shift(-corner[0], -corner[1]))
    if not here.intersects(film_of(sheet)):
        return sheet
    known = here if sheet.keep_out is None else union([sheet.keep_out, here])
    return sheet.model_copy(update={"keep_out": known})
