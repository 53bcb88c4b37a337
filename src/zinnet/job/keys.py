"""The keys of a job: what can be set by name, of which type, in which range, and what it means."""

import datetime
import re
import types
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from decimal import Decimal, InvalidOperation
from typing import Any, Literal, Union, get_args, get_origin

from pydantic.fields import FieldInfo

from zinnet.artwork.tracing.trace import TraceSpec
from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import Frozen
from zinnet.base.units import read_length
from zinnet.blanks.catalogue import blank_kind, measure_kinds
from zinnet.cutting.spec import CutSpec
from zinnet.data import read_toml
from zinnet.job.edits import (
    Edit,
    change_kind,
    choose_blank,
    choose_film,
    choose_place,
    choose_platen,
    one_step,
    set_blank,
    set_copies,
    set_cutting,
    set_layers,
    set_measure,
    set_nesting,
    set_order,
    set_placement,
    set_pressing,
    set_price,
    set_recipe,
    set_sizes,
    set_title,
    set_unit,
)
from zinnet.job.model import Job
from zinnet.job.order import Order
from zinnet.job.price import PriceSpec
from zinnet.layers.spec import LayersSpec
from zinnet.nesting.model import NestSpec
from zinnet.placement.place import PlacementSpec
from zinnet.pressing.spec import PressSpec

YES, NO = ("yes", "true", "on", "1"), ("no", "false", "off", "0")
COLOUR = re.compile(r"#[0-9a-f]{6}")
LONGEST = 200
FIELD_OF = {"down_mm": "from_reference_mm", "aside_mm": "from_centre_mm"}
"""Keys of a design whose field has another name."""
GROUPS: dict[str, tuple[type[Frozen], Callable[..., Edit]]] = {
    "layers": (LayersSpec, set_layers),
    "nest": (NestSpec, set_nesting),
    "cut": (CutSpec, set_cutting),
    "press": (PressSpec, set_pressing),
    "price": (PriceSpec, set_price),
    "order": (Order, set_order),
}


AS_IN_FILES = {"nesting": "nest", "cutting": "cut", "pressing": "press"}
"""Groups may be typed as job files name them, too."""


@dataclass(frozen=True)
class Key:
    """One key: its name as it is typed, what its value is, in which range, and what it means.

    An ``optional`` key that is set to nothing goes back to what Zinnet proposes.
    """

    name: str
    type: str
    range: str
    meaning: str
    optional: bool = False


def job_keys() -> tuple[Key, ...]:
    """Return every key, in the order of the work."""
    meanings = read_toml("keys")
    found = [
        Key("title", "words", f"1 to {LONGEST} letters", meanings["job"]["title"]),
        Key("unit", "word", "mm or in", meanings["job"]["unit"]),
        Key("copies", "count", "1 to 1000", meanings["job"]["copies"]),
        Key("sizes", "list", "SIZE=COUNT,...", meanings["lists"]["sizes"], True),
        Key("blank.kind", "word", "zinnet blanks lists them", meanings["blank"]["kind"]),
        Key("blank.size", "word", "a size of the blank", meanings["blank"]["size"]),
        Key("blank.colour", "colour", "#rrggbb", meanings["blank"]["colour"], True),
        Key("blank.cloth", "words", f"up to {LONGEST} letters", meanings["blank"]["cloth"], True),
        Key("blank.dots", "word", "unread, 1, 2 or 3", meanings["blank"]["dots"]),
        Key("measure.NAME", "length", "as its form allows", meanings["lists"]["measure"]),
        Key("design.N.picture", "word", "whole or traced, or nothing", meanings["lists"]["picture"], True),
        Key("film.#RRGGBB", "word", "the id of a film, or nothing", meanings["lists"]["film"], True),
    ]
    found += [_key(f"design.N.{name}", field, said) for name, field, said in _design_fields(meanings)]
    for group, (model, _) in GROUPS.items():
        for name, said in meanings[group].items():
            if name == "platen":
                found.append(Key("press.platen", "word", "the id of a platen", said, True))
            else:
                found.append(_key(f"{group}.{name}", model.model_fields[name], said))
    return tuple(found)


def _design_fields(meanings: Mapping[str, Any]) -> list[tuple[str, FieldInfo, str]]:
    fields = PlacementSpec.model_fields
    return [(name, fields[FIELD_OF.get(name, name)], said) for name, said in meanings["design"].items()]


def _key(name: str, field: FieldInfo, meaning: str) -> Key:
    shown = name.removesuffix("_mm").removesuffix("_deg").replace("_", "-")
    kind, optional = _plain(field.annotation)
    return Key(shown, _type_of(name, kind), _range_of(name, kind, field), meaning, optional)


def _plain(annotation: Any) -> tuple[Any, bool]:
    """Return the type of a field without None and constraints, and whether None may stand there."""
    optional = False
    while True:
        origin = get_origin(annotation)
        if origin in (Union, types.UnionType):
            rest = [one for one in get_args(annotation) if one is not type(None)]
            optional, annotation = optional or len(rest) < len(get_args(annotation)), rest[0]
        elif hasattr(annotation, "__value__"):
            annotation = annotation.__value__
        elif hasattr(annotation, "__metadata__"):
            annotation = annotation.__origin__
        else:
            return annotation, optional


def _type_of(name: str, kind: Any) -> str:
    if name.endswith("_mm"):
        return "length"
    if name.endswith("_deg"):
        return "degrees"
    if get_origin(kind) is Literal:
        return "word"
    return {bool: "yes or no", int: "count", float: "number", Decimal: "number", datetime.date: "day"}.get(
        kind, "words"
    )


def _range_of(name: str, kind: Any, field: FieldInfo) -> str:
    if get_origin(kind) is Literal:
        return ", ".join(map(str, get_args(kind)))
    if kind is datetime.date:
        return "YYYY-MM-DD"
    limits = {}
    for one in _constraints(field):
        for word in ("gt", "ge", "lt", "le"):
            if getattr(one, word, None) is not None:
                limits[word] = getattr(one, word)
    unit = " mm" if name.endswith("_mm") else ""
    low = (
        f"more than {limits['gt']}{unit}" if "gt" in limits else f"from {limits['ge']}{unit}" if "ge" in limits else ""
    )
    high = (
        f"less than {limits['lt']}{unit}" if "lt" in limits else f"up to {limits['le']}{unit}" if "le" in limits else ""
    )
    return ", ".join(one for one in (low, high) if one) or "any"


def _constraints(field: FieldInfo) -> list[Any]:
    """Return what limits a field, whether it stands at the field or within its type."""
    found, annotation = list(field.metadata), field.annotation
    for one in (annotation, *get_args(annotation)):
        found += getattr(one, "__metadata__", ())
    return found + [inner for one in found for inner in getattr(one, "metadata", ())]


def set_key(job: Job, name: str, text: str) -> Edit:
    """Return the edit that sets a key to what was typed; nothing stands for what Zinnet proposes.

    Raises :class:`ZinnetError` where there is no such key, or the value can't be read.
    """
    head, _, rest = name.partition(".")
    head, text = AS_IN_FILES.get(head, head), text.strip()
    if head in GROUPS and rest:
        return _set_in_group(head, rest, text)
    if head == "design" and rest:
        return _set_in_design(job, rest, text)
    if head == "film" and rest:
        return _set_film(job, rest, text)
    if head == "measure" and rest:
        return _set_measure(job, rest, text)
    if name in PLAIN_KEYS:
        return PLAIN_KEYS[name](job, text)
    raise ZinnetError(f"There is no key “{name}”; zinnet job keys lists all of them.")


def _set_in_group(group: str, name: str, text: str) -> Edit:
    model, edit = GROUPS[group]
    if (group, name) == ("press", "platen"):
        return choose_platen(text or None)
    field = _field_named(name, tuple(read_toml("keys")[group]))
    if field is None:
        raise ZinnetError(f"There is no key “{group}.{name}”; zinnet job keys lists all of them.")
    value = _read(f"{group}.{name}", field, model.model_fields[field], text)
    return edit(f"{group} {name}".replace("-", " "), **{field: value})


def _set_in_design(job: Job, rest: str, text: str) -> Edit:
    number, _, name = rest.partition(".")
    if not number.isdigit() or not 1 <= int(number) <= len(job.designs):
        raise ZinnetError(f"There is no design {number}; the job has {len(job.designs)}, counted from 1.")
    if name == "picture":
        return _set_picture(job, int(number), text)
    key = _field_named(name, tuple(read_toml("keys")["design"]))
    if key is None:
        raise ZinnetError(f"There is no key “design.N.{name}”; zinnet job keys lists all of them.")
    index, field = int(number) - 1, FIELD_OF.get(key, key)
    if field == "place" and text:
        return choose_place(text, design=index)
    value = _read(f"design.{number}.{name}", key, PlacementSpec.model_fields[field], text)
    return set_placement(f"design {number} {name}", design=index, **{field: value})


def _set_picture(job: Job, number: int, text: str) -> Edit:
    """Return the edit that takes a picture whole or traced; nothing leaves it to the blank."""
    if job.designs[number - 1].source.kind != "picture":
        raise ZinnetError(f"Design {number} is no picture; only a PNG, a JPEG or a WebP can be taken whole.")
    field = TraceSpec.model_fields["taken"]
    taken = _read(f"design.{number}.picture", "taken", field, text) if text else field.default
    return set_recipe("picture", "trace", number - 1, taken=taken)


def _field_named(name: str, known: tuple[str, ...]) -> str | None:
    """Return the field that a typed key means: lengths and angles are typed without their unit's name."""
    typed = name.replace("-", "_")
    return next((one for one in known if typed in (one, one.removesuffix("_mm"), one.removesuffix("_deg"))), None)


def _read(key: str, name: str, field: FieldInfo, text: str) -> Any:
    kind, optional = _plain(field.annotation)
    if not text:
        if optional:
            return None
        raise ZinnetError(f"{key} can't be left empty; give it a value.")
    if name.endswith("_mm"):
        return read_length(text)
    if kind is bool:
        if text.lower() not in (*YES, *NO):
            raise ZinnetError(f"{key}={text} is neither yes nor no; write one of the two.")
        return text.lower() in YES
    if get_origin(kind) is Literal:
        if text not in get_args(kind):
            raise ZinnetError(f"{key}={text} is not known; write one of {', '.join(map(str, get_args(kind)))}.")
        return text
    readers: dict[Any, Callable[[str], Any]] = {
        int: int,
        float: float,
        Decimal: Decimal,
        datetime.date: datetime.date.fromisoformat,
    }
    try:
        return readers[kind](text) if kind in readers else text
    except (ValueError, InvalidOperation):
        raise ZinnetError(f"{key}={text} can't be read; it is a {_type_of(name, kind)}.") from None


def _set_film(job: Job, colour: str, text: str) -> Edit:
    colour = read_colour(colour, "film")
    if text:
        return choose_film(colour, text)
    return set_layers("propose the film", films=tuple(one for one in job.layers.films if one.colour != colour))


def _set_measure(job: Job, measure: str, text: str) -> Edit:
    name, known = measure.replace("-", "_"), measure_kinds(job.blank.kind)
    if name not in known:
        raise ZinnetError(f"{blank_kind(job.blank.kind).name} has no measure “{measure}”; it has: {', '.join(known)}.")
    return set_measure(name, read_length(text))


def read_colour(text: str, key: str) -> str:
    """Return a colour, typed as ``#rrggbb``. Raises :class:`ZinnetError` that names the key."""
    colour = text.strip().lower()
    if not COLOUR.fullmatch(colour):
        raise ZinnetError(f"{key}: {text} is no colour; write it like #d62828.")
    return colour


def read_sizes(job: Job, text: str) -> tuple[tuple[str, int], ...]:
    """Return counts of sizes, typed as ``adult-l=4,youth-m=2``."""
    known = blank_kind(job.blank.kind).sizes
    found: dict[str, int] = {}
    for row in filter(None, (part.strip() for part in text.split(","))):
        size, _, count = row.partition("=")
        if size not in known:
            raise ZinnetError(
                f"sizes: {blank_kind(job.blank.kind).name} has no size {size}; it has {', '.join(known)}."
            )
        if not count.isdigit() or not 1 <= int(count) <= 1000:
            raise ZinnetError(f"sizes: {row} has no count from 1 to 1000; write it like {size}=4.")
        if size in found:
            raise ZinnetError(f"sizes: {size} stands twice; write it once.")
        found[size] = int(count)
    return tuple(found.items())


def _sizes(job: Job, text: str) -> Edit:
    counts = read_sizes(job, text)
    own = [count for size, count in counts if size == job.blank.size]
    others = set_sizes(tuple(row for row in counts if row[0] != job.blank.size))
    return one_step("sizes", (others, set_copies(own[0])) if own else (others,))


def _dots(job: Job, text: str) -> Edit:
    if text not in ("unread", "1", "2", "3"):
        raise ZinnetError(f"blank.dots={text} is not known; write unread, 1, 2 or 3.")
    return set_blank("dots of the care label", care_dots=None if text == "unread" else int(text))


def _title(job: Job, text: str) -> Edit:
    if not 1 <= len(text) <= LONGEST:
        raise ZinnetError(f"A title has 1 to {LONGEST} letters; type another one.")
    return set_title(text)


def _copies(job: Job, text: str) -> Edit:
    if not text.isdigit() or not 1 <= int(text) <= 1000:
        raise ZinnetError(f"copies={text} is no count from 1 to 1000.")
    return set_copies(int(text))


def _unit(job: Job, text: str) -> Edit:
    if text not in ("mm", "in"):
        raise ZinnetError(f"unit={text} is not known; write mm or in.")
    return set_unit(text)


def _kind(job: Job, text: str) -> Edit:
    blank_kind(text)  # one that there is not is refused here
    return change_kind(text)


def _size(job: Job, text: str) -> Edit:
    known = blank_kind(job.blank.kind).sizes
    if text not in known:
        raise ZinnetError(f"{blank_kind(job.blank.kind).name} has no size “{text}”; it has: {', '.join(known)}.")
    return choose_blank(job.blank.model_copy(update={"size": text, "measured": ()}), "choose the size")


PLAIN_KEYS: dict[str, Callable[[Job, str], Edit]] = {
    "title": _title,
    "unit": _unit,
    "copies": _copies,
    "sizes": _sizes,
    "blank.kind": _kind,
    "blank.size": _size,
    "blank.colour": lambda job, text: set_blank(
        "colour of the blank", colour=read_colour(text, "blank.colour") if text else None
    ),
    "blank.cloth": lambda job, text: set_blank("fabric of the blank", fabric=text[:LONGEST] or None),
    "blank.dots": _dots,
}
