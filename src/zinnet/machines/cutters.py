"""Cutting machines and the mats that they take, those of the user among them; and the room that is kept on film."""

from collections.abc import Mapping
from functools import cache
from pathlib import Path
from typing import Any, Literal

import platformdirs
from pydantic import Field, ValidationError, model_validator

from zinnet.base.errors import NestError, SettingsError, UnitsError
from zinnet.base.frozen import Frozen
from zinnet.base.own_toml import read_own_toml
from zinnet.base.units import read_size
from zinnet.data import read_toml

MOST_BYTES = 200_000


class Mat(Frozen):
    """A mat, or the bed of a machine that is ``fed`` from the roll without one; lengths in mm.

    A roll runs along the width, up to so far in one go.
    """

    name: str = Field(min_length=1, max_length=200)
    width_mm: float = Field(gt=0, le=20_000)
    height_mm: float = Field(gt=0, le=20_000)
    margin_mm: float = Field(ge=0, le=1000)
    fed: bool = False
    source: str = "measured by the user"

    @property
    def inner(self) -> tuple[float, float]:
        """The cutting area inside the margins."""
        return self.width_mm - 2 * self.margin_mm, self.height_mm - 2 * self.margin_mm


class Machine(Frozen):
    """A cutting machine: the mats that it takes, by name, and how it is told to cut.

    ``knife_offset_mm`` is how far its knife's tip trails, where the files have to make up for it; 0 where the machine
    does so itself. Force is in grams. It ``takes_settings`` where force and speed may stand in what it is sent.
    """

    name: str = Field(min_length=1, max_length=200)
    mats: tuple[str, ...] = Field(min_length=1)
    knife_offset_mm: float = Field(default=0.0, ge=0, le=5)
    overcut_mm: float = Field(default=0.0, ge=0, le=20)
    force_low_g: float = Field(default=10.0, gt=0, le=5000)
    force_high_g: float = Field(default=350.0, gt=0, le=5000)
    force_step_g: float = Field(default=5.0, gt=0, le=500)
    takes_settings: bool = False
    baud: int = Field(default=9600, ge=300, le=4_000_000)
    handshake: Literal["software", "hardware", "none"] = "software"
    source: str = "as the user says"

    @model_validator(mode="after")
    def _low_below_high(self) -> "Machine":
        if self.force_low_g >= self.force_high_g:
            raise ValueError("force_low_g is below force_high_g")
        return self

    def force(self, wanted_g: float) -> float:
        """Return the nearest force that the machine can be set to."""
        steps = round((wanted_g - self.force_low_g) / self.force_step_g)
        return min(max(self.force_low_g + steps * self.force_step_g, self.force_low_g), self.force_high_g)


class Room(Frozen):
    """The room that is kept on film, in mm: between pieces, along its edges, for the test cut, between films on a mat.

    ``least_kept_mm`` is how narrow a leftover may be to be kept, ``speck_mm2`` how small a part of it;
    ``least_load_mm`` how short a rest of film may be to be used by itself.
    """

    gap_mm: float
    edge_mm: float
    test_cut_mm: float
    least_kept_mm: float
    least_load_mm: float
    apart_mm: float
    speck_mm2: float


class Machines(Frozen):
    """Every mat and every cutting machine there is, by name: those that ship with Zinnet, and the user's own."""

    mats: tuple[tuple[str, Mat], ...]
    cutters: tuple[tuple[str, Machine], ...]

    def mat(self, name: str) -> Mat:
        """Return a mat by its name, or one of any size such as ``300x200mm``. Raises :class:`NestError`."""
        known = dict(self.mats)
        if name in known:
            return known[name]
        try:
            width, height = read_size(name)
        except UnitsError:
            raise NestError(
                f"There is no mat “{name}”; use one of {', '.join(known)}, or a size such as 300x200mm."
            ) from None
        margin = self.mats[0][1].margin_mm
        if min(width, height) <= 2 * margin:
            raise NestError(f"A mat of {name} is smaller than its margins of {margin:g} mm; use a larger one.")
        return Mat(name=name, width_mm=width, height_mm=height, margin_mm=margin)

    def cutter_name(self, name: str | None, mat: str) -> str:
        """Return the name of the machine that is meant: the one named, else the first that takes the mat.

        Raises :class:`NestError` where there is none of the name.
        """
        known = dict(self.cutters)
        if name is None:
            return next((key for key, machine in self.cutters if mat in machine.mats), self.cutters[0][0])
        if name not in known:
            raise NestError(f"There is no machine “{name}”; use one of {', '.join(known)}, or add it to machines.toml.")
        return name

    def cutter(self, name: str | None, mat: str = "") -> Machine:
        """Return the machine that is meant, as :meth:`cutter_name` says."""
        return dict(self.cutters)[self.cutter_name(name, mat)]


def machines_file() -> Path:
    """Return where the user's own mats and machines lie."""
    return platformdirs.user_config_path("zinnet") / "machines.toml"


@cache
def shipped_machines() -> Machines:
    """Return the mats and machines that ship with Zinnet."""
    return _machines(*_tables(read_toml("machines")))


def read_machines(path: Path | None = None) -> Machines:
    """Return what ships with Zinnet and the user's own.

    Raises :class:`SettingsError` where the user's file can't be made sense of.
    """
    path = path or machines_file()
    if not path.exists():
        return shipped_machines()
    mats, cutters = _tables(read_toml("machines"))
    own_mats, own_cutters = _own(path, mats)
    return _machines(mats | own_mats, cutters | own_cutters)


def _machines(mats: Mapping[str, Mat], cutters: Mapping[str, Machine]) -> Machines:
    return Machines(mats=tuple(mats.items()), cutters=tuple(cutters.items()))


@cache
def room() -> Room:
    """Return the room that is usually kept."""
    return Room.model_validate(
        {name: value for name, value in read_toml("machines")["room"].items() if name in Room.model_fields}
    )


def usual_gap_mm() -> float:
    """Return the usual room for scissors between pieces."""
    return room().gap_mm


def _own(path: Path, shipped: Mapping[str, Mat]) -> tuple[dict[str, Mat], dict[str, Machine]]:
    try:
        own_mats, own_machines = _tables(read_own_toml(path))
    except ValidationError as error:
        first = error.errors()[0]
        where = " ".join(map(str, first["loc"]))
        raise SettingsError(f"{path}: {first['msg'].lower()} ({where}); mend it, or move it away.") from None
    except AttributeError as error:
        raise SettingsError(f"{path} can't be read ({error}); mend it, or move it away.") from None
    for machine in own_machines.values():
        unknown = [name for name in machine.mats if name not in shipped and name not in own_mats]
        if unknown:
            raise SettingsError(f"{path}: {machine.name} takes a mat {unknown[0]} that is not there; add it by [mats].")
    for name, mat in own_mats.items():
        if min(mat.inner) <= 0:
            raise SettingsError(f"{path}: the margins leave nothing of {name}; make them smaller.")
    return own_mats, own_machines


def _tables(data: Mapping[str, Any]) -> tuple[dict[str, Mat], dict[str, Machine]]:
    return (
        {name: Mat.model_validate(row) for name, row in data.get("mats", {}).items()},
        {name: Machine.model_validate(row) for name, row in data.get("machines", {}).items()},
    )
