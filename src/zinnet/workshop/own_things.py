"""The user's own presses, machines and films: kept in TOML files of the configuration folder, checked before."""

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Literal

from zinnet.base.errors import SettingsError
from zinnet.base.files import write_whole
from zinnet.base.own_toml import read_own_toml
from zinnet.films.catalogue import FilmKind, films_of
from zinnet.films.own import films_file
from zinnet.machines.cutters import Machine, Mat, machines_file, own_machines
from zinnet.machines.platens import Platen, own_platens, presses_file

Thing = Literal["press", "machine", "film"]
LONGEST_ID = 60


@dataclass(frozen=True)
class Kept:
    """Where things of one sort are kept: the file, its table, and what reads the whole file, raising what is wrong.

    ``beside`` is the table of what they are made of or take, where there is one.
    """

    file: Callable[[], Path]
    table: str
    read: Callable[[Mapping[str, Any], str], object]
    beside: str | None = None

    @property
    def tables(self) -> tuple[str, ...]:
        """All tables of the file."""
        return (self.table,) if self.beside is None else (self.beside, self.table)


KEPT: dict[Thing, Kept] = {
    "press": Kept(presses_file, "platens", own_platens),
    "machine": Kept(machines_file, "machines", own_machines, beside="mats"),
    "film": Kept(films_file, "films", lambda data, called: films_of(data), beside="kinds"),
}


def id_of(name: str) -> str:
    """Return the id that a name becomes: small letters, digits and hyphens. Raises :class:`SettingsError`."""
    found = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:LONGEST_ID].strip("-")
    if not found:
        raise SettingsError(f"“{name}” is no name: give it one with letters or digits, such as “My plate”.")
    return found


def keep_things(thing: Thing, rows: Mapping[str, Mapping[str, Mapping[str, Any]]], path: Path | None = None) -> None:
    """Keep things of one's own, in the place of those of the same ids.

    Parameters
    ----------
    thing : 'press', 'machine' or 'film'
        What they are.
    rows : rows by table and id
        What is kept; None among the values is left out.
    path : Path or None
        The file; None: that of the configuration folder.

    Raises
    ------
    SettingsError
        Where it makes no sense: nothing is written then.
    """
    path = path or KEPT[thing].file()
    data = read_own_toml(path) if path.exists() else {}
    for table, made in rows.items():
        there = data.get(table, {})
        if not isinstance(there, dict):
            raise SettingsError(f"{path}: “{table}” is not a table; mend it there first.")
        whole = {name: {key: value for key, value in row.items() if value is not None} for name, row in made.items()}
        data[table] = {**there, **whole}
    _write(KEPT[thing], path, data)


def drop_thing(thing: Thing, own_id: str, path: Path | None = None) -> None:
    """Take a thing of one's own out again. Raises :class:`SettingsError` where there is none of the id."""
    kept = KEPT[thing]
    path = path or kept.file()
    data = read_own_toml(path) if path.exists() else {}
    there = data.get(kept.table, {})
    if not isinstance(there, dict) or own_id not in there:
        raise SettingsError(f"There is no {thing} “{own_id}” of your own; “zinnet workshop own” lists them.")
    data[kept.table] = {key: row for key, row in there.items() if key != own_id}
    _write(kept, path, data)


def _write(kept: Kept, path: Path, data: Mapping[str, Any]) -> None:
    import tomli_w

    kept.read(data, "Nothing was kept")
    write_whole(path, tomli_w.dumps(data).encode(), error=SettingsError)


def own_things() -> dict[Thing, dict[str, Any]]:
    """Return everything of one's own as it stands in the files, by its id."""
    found: dict[Thing, dict[str, Any]] = {}
    for thing, kept in KEPT.items():
        path = kept.file()
        data = read_own_toml(path) if path.exists() else {}
        table = data.get(kept.table, {})
        found[thing] = dict(table) if isinstance(table, dict) else {}
    return found


def keep_press(name: str, **fields: Any) -> str:
    """Keep a press, with fields of :class:`Platen`; return its id."""
    own_id = id_of(name)
    keep_things("press", {"platens": {own_id: {"name": name, **_known(Platen, fields)}}})
    return own_id


def keep_machine(name: str, new_mats: Mapping[str, Mat], **fields: Any) -> str:
    """Keep a cutting machine, with fields of :class:`Machine`, and the new mats that it takes; return its id."""
    own_id = id_of(name)
    made = {key: mat.model_dump(exclude_defaults=True) for key, mat in new_mats.items()}
    rows = {"machines": {own_id: {"name": name, **_known(Machine, fields)}}}
    keep_things("machine", {**rows, **({"mats": made} if made else {})})
    return own_id


def keep_film(name: str, kind: str, colour: str, *, sold: Mapping[str, Any] | None = None, **limits: Any) -> str:
    """Keep a film; return its id.

    With ``limits`` it is of a kind of its own that is like ``kind`` but for them; ``sold`` are further fields of
    :class:`Film`: its roll, its price, its pattern.
    """
    own_id = id_of(name)
    rows: dict[str, Mapping[str, Mapping[str, Any]]] = {}
    if any(value is not None for value in limits.values()):
        own = {"like": kind, "name": name, "source": "as the user says", **_known(FilmKind, limits)}
        rows["kinds"], kind = {own_id: own}, own_id
    rows["films"] = {own_id: {"name": name, "kind": kind, "colour": colour, **(sold or {})}}
    keep_things("film", rows)
    return own_id


def _known(model: type[Platen] | type[Machine] | type[FilmKind], fields: Mapping[str, Any]) -> dict[str, Any]:
    """Return fields as they stand in a file. Raises :class:`SettingsError` for one that there is not."""
    unknown = set(fields) - set(model.model_fields)
    if unknown:
        raise SettingsError(f"There is no “{min(unknown)}” of it.")
    return {key: list(value) if isinstance(value, tuple) else value for key, value in fields.items()}
