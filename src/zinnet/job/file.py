"""Job files: a ZIP of ``job.json``, the artworks and the nests; saved whole or not at all."""

import io
import json
import zipfile
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import IO, Any

from pydantic import ValidationError

from zinnet.artwork.source import ArtworkFile
from zinnet.base.errors import JobFileError, ZinnetError
from zinnet.base.files import write_whole
from zinnet.base.json_file import read_json
from zinnet.base.zip_file import zip_entry
from zinnet.job.model import MOST_DESIGNS, SCHEMA, Job
from zinnet.nesting.model import Layout

JOB, LAYOUTS = "job.json", "layouts.json"


def artwork_entry(index: int) -> str:
    """Return the name under which the artwork of a design lies in the file."""
    return "artwork/original" if index == 0 else f"artwork/original-{index + 1}"


MOST_BYTES = {JOB: 20_000_000, LAYOUTS: 20_000_000} | {artwork_entry(k): 50_000_000 for k in range(MOST_DESIGNS)}
MOST_ARTWORK = 120_000_000
"""How many bytes of artwork a file may hold in all."""
MOST_VALUES = {JOB: 2_000_000, LAYOUTS: 600_000}


def _designs_and_sizes(data: dict[str, Any]) -> dict[str, Any]:
    """Return a job of schema 1 in schema 2: several designs instead of one, and blanks by kind and size."""
    placement = dict(data.pop("placement", None) or {})
    if "below_collar_mm" in placement:
        placement["from_reference_mm"] = placement.pop("below_collar_mm")
    artwork = data.pop("artwork", None)
    data["designs"] = [] if artwork is None else [{"artwork": artwork, "placement": placement}]
    blank = data.get("blank")
    if isinstance(blank, dict) and blank.get("kind") == "tee-adult":
        blank |= {"kind": "tee", "size": "adult-m"}
    return data | {"schema_version": 2}


def _sources(data: dict[str, Any]) -> dict[str, Any]:
    """Return a job of schema 2 in schema 3: a design's artwork became one of several sources."""
    for design in data.get("designs") or []:
        design["source"] = {"kind": "file", "file": design.pop("artwork", None)}
    return data | {"schema_version": 3}


def _cut_away(data: dict[str, Any]) -> dict[str, Any]:
    """Return a job of schema 3 in schema 4: films lie by their rules unless another method is named."""
    data["layers"] = {"method": "cut-away"} | (data.get("layers") or {})
    return data | {"schema_version": 4}


def _same(data: dict[str, Any]) -> dict[str, Any]:
    """Return a job in the next schema, whose new wishes no older job has."""
    return data | {"schema_version": data["schema_version"] + 1}


def _plates(data: dict[str, Any]) -> dict[str, Any]:
    """Say which plate a job is pressed with in the words of today: what was a small press of 5 in is held by hand."""
    if data.get("platen") == "hand-5x5":
        data["platen"] = "plate-5x5"
    return _same(data)


def _traced(data: dict[str, Any]) -> dict[str, Any]:
    """Say of every picture that it is traced: none stayed one before."""
    for design in data.get("designs", []):
        source = design.get("source", {})
        if source.get("kind") == "picture":
            source["trace"] = {**source.get("trace", {}), "taken": "traced"}
    return _same(data)


def _counters_kept_free(data: dict[str, Any]) -> dict[str, Any]:
    """Return a job of schema 16 in schema 17: pieces lay in no counters unless that was asked for."""
    data["nesting"] = {"inside_counters": False} | (data.get("nesting") or {})
    return data | {"schema_version": 17}


MIGRATIONS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {
    1: _designs_and_sizes,
    2: _sources,
    3: _cut_away,
    4: _same,
    5: _same,
    6: _same,
    7: _same,
    8: _same,
    9: _same,
    10: _same,
    11: _same,
    12: _same,
    13: _plates,
    14: _traced,
    15: _same,
    16: _counters_kept_free,
}
"""How ``job.json`` of each older schema becomes the next one."""


def save_job(path: Path, job: Job, layouts: Mapping[str, Layout]) -> None:
    """Write the job to ``path``; a break at any moment leaves the old file or the new one, whole."""
    if not path.parent.is_dir():
        raise JobFileError(f"{path} can't be written: there is no such folder. Choose another folder.")
    write_whole(path, packed_job(job, layouts), error=JobFileError)


def packed_job(job: Job, layouts: Mapping[str, Layout]) -> bytes:
    """Return a job as the bytes of a job file."""
    buffer = io.BytesIO()
    _pack(buffer, job, layouts)
    return buffer.getvalue()


def _pack(file: IO[bytes], job: Job, layouts: Mapping[str, Layout]) -> None:
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(JOB, job.model_dump_json(indent=1))
        for index, design in enumerate(job.designs):
            if design.source.file is not None:
                archive.writestr(artwork_entry(index), design.source.file.data)
        texts = {key: layout.model_dump(mode="json") for key, layout in layouts.items()}
        archive.writestr(LAYOUTS, json.dumps(texts))


def load_job(path: Path) -> tuple[Job, dict[str, Layout]]:
    """Return the job and its nests.

    Raises :class:`JobFileError` where the file is missing, broken, hostile or from a newer Zinnet.
    """
    return _load(path, str(path))


def unpacked_job(data: bytes, called: str) -> tuple[Job, dict[str, Layout]]:
    """Return the job of a job file's bytes, and its nests. Raises :class:`JobFileError` like :func:`load_job`."""
    return _load(io.BytesIO(data), called)


def _load(file: Path | IO[bytes], path: str) -> tuple[Job, dict[str, Layout]]:
    try:
        with zipfile.ZipFile(file) as archive:
            there = _names(archive, path)
            if JOB not in there:
                raise JobFileError(f"{path} is not a Zinnet job: it holds no {JOB}.")
            data = _up_to_date(_entry(archive, JOB, path), path)
            _give_artwork(data, archive, there, path)
            layouts = _entry(archive, LAYOUTS, path) if LAYOUTS in there else b"{}"
    except FileNotFoundError:
        raise JobFileError(f"There is no file {path}; check its name.") from None
    except OSError as error:
        raise JobFileError(f"{path} can't be read: {error.strerror or error}.") from None
    except (zipfile.BadZipFile, EOFError, NotImplementedError, RuntimeError, ValueError):
        raise JobFileError(f"{path} is not a whole job file; open a copy of it, or the automatic copy.") from None
    return _job(data, path), _layouts(layouts)


def _names(archive: zipfile.ZipFile, path: str) -> list[str]:
    for name in archive.namelist():
        if name.startswith(("/", "\\")) or ".." in name.replace("\\", "/").split("/"):
            raise JobFileError(f"{path} holds the entry “{name}”, which points outside; it is not opened.")
    return [name for name in MOST_BYTES if name in archive.namelist()]


def _entry(archive: zipfile.ZipFile, name: str, path: str) -> bytes:
    return zip_entry(archive, name, path, most_bytes=MOST_BYTES[name], error=JobFileError)


def _up_to_date(text: bytes, path: str) -> dict[str, Any]:
    """Return what ``job.json`` says, in the schema of today."""
    data = read_json(text, f"{path}, {JOB}", most_values=MOST_VALUES[JOB], error=JobFileError)
    version = data.get("schema_version") if isinstance(data, dict) else None
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise JobFileError(f"{path} is damaged: its {JOB} has no schema_version.")
    if version > SCHEMA:
        raise JobFileError(
            f"{path} was saved by a newer Zinnet (schema {version}; this one reads up to {SCHEMA}). Update Zinnet."
        )
    data["from_schema"] = version if version < SCHEMA else None
    while version < SCHEMA:
        try:
            data = MIGRATIONS[version](data)
        except (TypeError, ValueError, AttributeError):
            raise JobFileError(f"{path} is damaged: its {JOB} is not as schema {version} says.") from None
        version += 1
    return data  # type: ignore[no-any-return]


def _job(data: dict[str, Any], path: str) -> Job:
    try:
        job = Job.model_validate(data)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"])
        raise JobFileError(f"{path} is damaged: {where} in {JOB}: {first['msg']}.") from None
    for design in job.designs:
        file = design.source.file
        if file is not None and ArtworkFile.of(file.name, file.data) != file:
            raise JobFileError(f"{path} is damaged: the artwork {file.name} is not the one that was saved.")
    return without_confirmations(job)


def without_confirmations(job: Job) -> Job:
    """Return a job without what was said at the machine: it was about the mat that lay there then."""
    return job.model_copy(update={"cutting": job.cutting.model_copy(update={"loaded": (), "confirmed": ()})})


def _give_artwork(data: dict[str, Any], archive: zipfile.ZipFile, there: Sequence[str], path: str) -> None:
    """Put the bytes that lie beside ``job.json`` where they belong; what no design names is not unpacked."""
    designs = data.get("designs")
    left = MOST_ARTWORK
    for index, design in enumerate(designs[:MOST_DESIGNS] if isinstance(designs, list) else []):
        source = design.get("source") if isinstance(design, dict) else None
        file = source.get("file") if isinstance(source, dict) else None
        if isinstance(file, dict):
            if artwork_entry(index) not in there:
                raise JobFileError(f"{path} is damaged: the artwork is missing.")
            file["data"] = _entry(archive, artwork_entry(index), path)
            left -= len(file["data"])
            if left < 0:
                raise JobFileError(f"{path} holds artwork of more than {MOST_ARTWORK / 1e6:.0f} MB; it is not opened.")


def _layouts(text: bytes) -> dict[str, Layout]:
    """Return the saved nests; they can be made again, so unreadable ones are left out."""
    try:
        rows = read_json(text, LAYOUTS, most_values=MOST_VALUES[LAYOUTS])
        return {key: Layout.model_validate(row) for key, row in rows.items()}
    except (KeyError, ValueError, AttributeError, RecursionError, ZinnetError):
        return {}
