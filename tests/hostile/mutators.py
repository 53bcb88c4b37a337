"""Whole files of every kind that Zinnet reads, and ways to damage them: by bytes, and by what they say."""

import csv
import io
import json
import random
import zipfile
from typing import Any

STRANGE: tuple[Any, ...] = (
    None, True, False, 0, -1, 1e308, -1e308, 10**30, 0.5, "", "x", "NaN", [], {}, [[]], "=1+1", "\x00", "<img src=x>",
    "../../etc", "a" * 5000, [1, 2], {"kind": "file"}, "#zzzzzz", float("nan"), float("inf"), "2031-99-99",
)  # fmt: skip
PIECES = (
    b"NaN",
    b"1e400",
    b"\x00",
    b"[[[[",
    b"}",
    b'"',
    b"'",
    b"=",
    b"\r",
    b"\xff\xfe",
    b"9" * 400,
    b"true",
    b"{",
    b",,",
)


def by_bytes(data: bytes, chance: random.Random, pieces: tuple[bytes, ...] = PIECES) -> bytes:
    """Return a file with a few bytes changed, cut out, put in or moved."""
    changed = bytearray(data)
    for _ in range(chance.choice((1, 1, 2, 4, 9))):
        at = chance.randrange(len(changed) or 1)
        match chance.randrange(5):
            case 0:
                changed[at : at + 1] = bytes([chance.randrange(256)])
            case 1:
                del changed[at : at + chance.randint(1, 90)]
            case 2:
                changed[at:at] = chance.choice(pieces)
            case 3:
                other = chance.randrange(len(changed) or 1)
                changed[at : at + 40] = changed[other : other + chance.randint(1, 40)]
            case 4:
                del changed[at:]
        if not changed:
            break
    return bytes(changed)


def by_values(value: Any, chance: random.Random) -> Any:
    """Return what JSON holds with some of its values strange, gone, doubled or put elsewhere."""
    changed = json.loads(json.dumps(value))
    spots: list[tuple[Any, Any]] = []

    def walk(one: Any) -> None:
        keys = one.keys() if isinstance(one, dict) else range(len(one)) if isinstance(one, list) else ()
        for key in list(keys):
            spots.append((one, key))
            walk(one[key])

    walk(changed)
    for _ in range(chance.choice((1, 1, 2, 5))):
        if not spots:
            break
        holder, key = chance.choice(spots)
        if isinstance(holder, list) and not (isinstance(key, int) and key < len(holder)):
            continue
        match chance.randrange(6):
            case 0 | 1 | 2:
                holder[key] = chance.choice(STRANGE)
            case 3:
                other, there = chance.choice(spots)
                if (isinstance(other, dict) and there in other) or (isinstance(other, list) and there < len(other)):
                    holder[key] = json.loads(json.dumps(other[there]))
            case 4:
                if isinstance(holder, dict):
                    holder.pop(key, None)
                else:
                    holder.extend(holder[:3])
            case 5:
                if isinstance(holder, dict):
                    holder[chance.choice(("x", "kind", "", "schema_version"))] = chance.choice(STRANGE)
                else:
                    holder[key] = chance.choice((10**9, -(10**9), 1e-300, 1e300))
    return changed


def zipped(entries: dict[str, bytes], chance: random.Random) -> bytes:
    """Return a ZIP of these entries; now and then one is missing, doubled, packed in a rare way or called otherwise."""
    buffer = io.BytesIO()
    ways = (zipfile.ZIP_DEFLATED, zipfile.ZIP_DEFLATED, zipfile.ZIP_STORED, zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA)
    with zipfile.ZipFile(buffer, "w") as archive:
        for name, data in entries.items():
            if chance.random() < 0.03:
                continue
            called = (
                chance.choice((name, name.upper(), "../" + name, name + "\x00x")) if chance.random() < 0.04 else name
            )
            archive.writestr(called, data, chance.choice(ways) if chance.random() < 0.1 else zipfile.ZIP_DEFLATED)
    return buffer.getvalue()


def zipped_whole(entries: dict[str, bytes]) -> bytes:
    """Return a ZIP of these entries, nothing wrong with it."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in entries.items():
            archive.writestr(name, data)
    return buffer.getvalue()


def unzipped(data: bytes) -> dict[str, bytes]:
    """Return the entries of a whole ZIP."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def zip_changed(data: bytes, entry: str, chance: random.Random) -> bytes:
    """Return a ZIP whose JSON entry says something else, or which is damaged by bytes."""
    if chance.random() < 0.25:
        return by_bytes(data, chance)
    entries = unzipped(data)
    if chance.random() < 0.2:
        entries[entry] = by_bytes(entries[entry], chance)
    else:
        entries[entry] = json.dumps(by_values(json.loads(entries[entry]), chance)).encode()
    return zipped(entries, chance)


def table(chance: random.Random, heads: tuple[str, ...], cells: tuple[str, ...]) -> bytes:
    """Return a table whose columns and cells are those that are asked for, and others."""
    text = io.StringIO()
    writer = csv.writer(
        text, delimiter=chance.choice((",", ";", "\t")), lineterminator=chance.choice(("\n", "\r\n", "\r"))
    )
    columns = [one for one in heads if chance.random() < 0.9] or ["x"]
    writer.writerow(columns)
    for _ in range(chance.choice((0, 1, 5, 40))):
        strange = [str(one) for one in STRANGE if not isinstance(one, str) or len(one) < 100]
        writer.writerow(
            chance.choice(cells if chance.random() < 0.85 else strange)
            for _ in range(len(columns) + chance.choice((0, 0, 0, 1, -1)))
        )
    data = text.getvalue().encode(chance.choice(("utf-8", "utf-8", "utf-8-sig", "utf-16")), errors="replace")
    return by_bytes(data, chance) if chance.random() < 0.3 else data
