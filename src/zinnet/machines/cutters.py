"""Cutting machines and the mats that they take, those of the user among them; and the room that is kept on film."""

import math
from collections.abc import Mapping
from functools import cache, cached_property
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
NUDGES = (", less", "", ", more")
"""What can be said to a preset, the gentlest first."""


class Mat(Frozen):
    """A mat, or the bed of a machine that is ``fed`` from the roll without one; lengths in mm.

    A roll runs along the width, up to so far in one go. Paper that is ``printed`` is a bed too: what of a page can be
    printed on, above the strip with the bar that checks the printer.
    """

    name: str = Field(min_length=1, max_length=200)
    width_mm: float = Field(gt=0, le=20_000)
    height_mm: float = Field(gt=0, le=20_000)
    margin_mm: float = Field(ge=0, le=1000)
    fed: bool = False
    printed: bool = False
    source: str = "measured by the user"

    @property
    def inner(self) -> tuple[float, float]:
        """The cutting area inside the margins."""
        return self.width_mm - 2 * self.margin_mm, self.height_mm - 2 * self.margin_mm


@cache
def papers() -> dict[str, Mat]:
    """Return the pages that prints are made on, by name."""
    return {name: Mat.model_validate({**row, "printed": True}) for name, row in read_toml("machines")["papers"].items()}


def paper(name: str) -> Mat:
    """Return a page by its name. Raises :class:`NestError` for one that there is not."""
    if name not in papers():
        raise NestError(f"There is no paper “{name}”; use one of {', '.join(papers())}.")
    return papers()[name]


class Machine(Frozen):
    """A cutting machine: the mats that it takes, by name, and how it is told to cut.

    ``knife_offset_mm`` is how far its knife's tip trails, where the files have to make up for it; 0 where the machine
    does so itself. It ``takes_settings`` where force and speed may stand in what it is sent. It ``speaks`` of force in
    grams, in ``force_steps`` of its own, or by ``presets`` with more and less, the gentlest first; grams stand for all
    of them inside. ``blade_steps`` are numbered depths of ``blade_step_mm`` each, 0 where the blade is let out in mm.
    ``test_corner`` is where it always cuts its test, ``film_edge_mm`` how near it cuts to the edge of film on a mat.
    """

    name: str = Field(min_length=1, max_length=200)
    mats: tuple[str, ...] = Field(min_length=1)
    knife_offset_mm: float = Field(default=0.0, ge=0, le=5)
    overcut_mm: float = Field(default=0.0, ge=0, le=20)
    force_low_g: float = Field(default=10.0, gt=0, le=5000)
    force_high_g: float = Field(default=350.0, gt=0, le=5000)
    force_step_g: float = Field(default=5.0, gt=0, le=500)
    speaks: Literal["grams", "steps", "presets"] = "grams"
    force_steps: int = Field(default=33, ge=2, le=500)
    presets: tuple[str, ...] = Field(default=(), max_length=60)
    blade_steps: int = Field(default=0, ge=0, le=50)
    blade_step_mm: float = Field(default=0.1, gt=0, le=1)
    test_corner: bool = False
    film_edge_mm: float | None = Field(default=None, ge=0, le=50)
    takes_settings: bool = False
    baud: int = Field(default=9600, ge=300, le=4_000_000)
    handshake: Literal["software", "hardware", "none"] = "software"
    own: bool = False
    source: str = "as the user says"

    @model_validator(mode="after")
    def _sound(self) -> "Machine":
        if self.force_low_g >= self.force_high_g:
            raise ValueError("force_low_g is below force_high_g")
        if self.speaks == "presets" and not (self.presets and all(name.strip() for name in self.presets)):
            raise ValueError("a machine with presets says their names, the gentlest first")
        return self

    @cached_property
    def forces_g(self) -> tuple[float, ...]:
        """Every force in grams that it can be set to, the least first."""
        low, high = self.force_low_g, self.force_high_g
        if self.speaks == "steps":
            return tuple(low + k * (high - low) / (self.force_steps - 1) for k in range(self.force_steps))
        if self.speaks == "presets":
            count = len(NUDGES) * len(self.presets)
            return tuple(low * (high / low) ** (k / (count - 1)) for k in range(count))
        whole = int((high - low) / self.force_step_g + 1e-9)
        rows = [low + k * self.force_step_g for k in range(whole + 1)]
        return tuple(rows if rows[-1] == high else [*rows, high])

    def force(self, wanted_g: float) -> float:
        """Return the nearest force that the machine can be set to."""
        return min(self.forces_g, key=lambda one: abs(one - wanted_g))

    def next_force(self, force_g: float, *, up: bool) -> float | None:
        """Return the next force up or down, None at the end."""
        others = [one for one in self.forces_g if (one > force_g + 1e-9 if up else one < force_g - 1e-9)]
        return (min(others) if up else max(others)) if others else None

    def blade(self, wanted_mm: float) -> float:
        """Return the least blade depth in mm that it can be set to which is not less than one."""
        if not self.blade_steps:
            return wanted_mm
        number = math.ceil(wanted_mm / self.blade_step_mm - 1e-6)
        return round(min(max(number, 1), self.blade_steps) * self.blade_step_mm, 3)

    def force_said(self, force_g: float) -> str:
        """Return a force in the machine's own words."""
        if self.speaks == "grams":
            return f"force {force_g:.0f} g"
        number = self.forces_g.index(self.force(force_g))
        if self.speaks == "steps":
            return f"force {number + 1} of {self.force_steps}"
        preset, nudge = divmod(number, len(NUDGES))
        return f"preset “{self.presets[preset]}”{NUDGES[nudge]}"

    def read_force(self, text: str) -> float:
        """Return the force in grams that is meant in the machine's own words. Raises :class:`NestError`."""
        said = " ".join(text.replace(",", " ").split())
        known = {self.force_said(one).replace("“", "").replace("”", "").replace(",", ""): one for one in self.forces_g}
        if self.speaks == "presets" and f"preset {said}" in known:
            return known[f"preset {said}"]
        if self.speaks == "steps" and f"force {said} of {self.force_steps}" in known:
            return known[f"force {said} of {self.force_steps}"]
        if self.speaks == "grams":
            try:
                return self.force(float(said.removesuffix("g").strip()))
            except ValueError:
                pass
        how = {
            "grams": "in grams, such as 90",
            "steps": f"a step from 1 to {self.force_steps}",
            "presets": f"one of its presets, with more or less: {', '.join(self.presets)}",
        }
        raise NestError(f"“{text}” is no force of the {self.name}: it is said {how[self.speaks]}.")

    def read_blade(self, text: str) -> float | None:
        """Return the blade depth in mm that a number of its scale means, None where the blade is let out in mm."""
        if not self.blade_steps:
            return None
        if not text.strip().isdigit() or not 1 <= int(text) <= self.blade_steps:
            raise NestError(f"“{text}” is no depth of the {self.name}: it is a number from 1 to {self.blade_steps}.")
        return round(int(text) * self.blade_step_mm, 3)

    def blade_said(self, blade_mm: float) -> str:
        """Return a blade depth in the machine's own words; empty where the preset sets it."""
        if self.speaks == "presets":
            return ""
        if self.blade_steps:
            return f"blade {round(self.blade(blade_mm) / self.blade_step_mm)} of {self.blade_steps}"
        return f"blade {blade_mm:.2f} mm out"


class Room(Frozen):
    """The room that is kept on film, in mm: between pieces, along its edges, for the test cut, between films on a mat.

    ``least_kept_mm`` is how narrow a leftover may be to be kept, ``least_load_mm`` how short a rest may be to be
    used by itself.
    """

    gap_mm: float
    edge_mm: float
    test_cut_mm: float
    least_kept_mm: float
    least_load_mm: float
    apart_mm: float


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
    own_mats, own_cutters = own_machines(read_own_toml(path), str(path))
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


def own_machines(data: Mapping[str, Any], called: str) -> tuple[dict[str, Mat], dict[str, Machine]]:
    """Return the mats and machines of a file of the user's. Raises :class:`SettingsError` where they make no sense."""
    shipped, _ = _tables(read_toml("machines"))
    try:
        mats, machines = _tables(data)
    except ValidationError as error:
        first = error.errors()[0]
        where = " ".join(map(str, first["loc"]))
        raise SettingsError(f"{called}: {first['msg'].lower()} ({where}); mend it, or move it away.") from None
    except AttributeError as error:
        raise SettingsError(f"{called} can't be read ({error}); mend it, or move it away.") from None
    for machine in machines.values():
        unknown = [name for name in machine.mats if name not in shipped and name not in mats]
        if unknown:
            raise SettingsError(
                f"{called}: {machine.name} takes a mat {unknown[0]} that is not there; add it by [mats]."
            )
    for name, mat in mats.items():
        if min(mat.inner) <= 0:
            raise SettingsError(f"{called}: the margins leave nothing of {name}; make them smaller.")
    return mats, {name: machine.model_copy(update={"own": True}) for name, machine in machines.items()}


def _tables(data: Mapping[str, Any]) -> tuple[dict[str, Mat], dict[str, Machine]]:
    return (
        {name: Mat.model_validate(row) for name, row in data.get("mats", {}).items()},
        {name: Machine.model_validate(row) for name, row in data.get("machines", {}).items()},
    )
