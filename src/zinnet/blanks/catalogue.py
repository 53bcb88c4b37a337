"""The catalogue of blanks: kinds, forms and sizes, with those that the user adds; names and measures."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from functools import cache
from pathlib import Path
from typing import Any

import platformdirs
from pydantic import Field, ValidationError

from zinnet.base.errors import BlankError
from zinnet.base.frozen import Frozen
from zinnet.base.own_toml import read_own_toml
from zinnet.blanks.model import BlankSpec
from zinnet.blanks.procedures import procedures
from zinnet.data import read_toml


class MeasureKind(Frozen):
    """A measure as its form describes it, lengths in mm."""

    name: str
    least_mm: float
    most_mm: float
    how: str


class Rule(Frozen):
    """A measure is at most, or at least, some share of another one."""

    measure: str
    of: str
    at_most: float | None = None
    at_least: float | None = None


class Form(Frozen):
    """What blanks of one form have in common: the measures, and how they contradict each other."""

    measures: dict[str, MeasureKind]
    rules: tuple[Rule, ...] = ()


class SizeKind(Frozen):
    """A size and the class that it belongs to."""

    name: str
    class_: str = Field(alias="class")


class BlankKind(Frozen):
    """A blank as the catalogue describes it. ``typical`` holds one value per size for each measure, in mm."""

    form: str
    name: str
    group: str
    fabric: str
    colour: str
    place: str
    procedure: str = "plain"
    platen: str | None = None
    sizes: tuple[str, ...] = ("one",)
    source: str
    typical: dict[str, tuple[float, ...]]
    shape: dict[str, Any] = {}
    clearance: dict[str, float] = {}

    def __hash__(self) -> int:
        return hash((self.form, self.name, self.group))


class BlankKinds(Frozen):
    """Every kind of blank by its name: those that ship with Zinnet, and the user's own."""

    kinds: dict[str, BlankKind]

    def __hash__(self) -> int:
        return hash(tuple(self.kinds))

    @contextmanager
    def in_use(self) -> Iterator[None]:
        """Look up kinds of blanks here, within the block: what a plan is made of does not change with a file."""
        token = _in_use.set(self)
        try:
            yield
        finally:
            _in_use.reset(token)


_in_use: ContextVar[BlankKinds | None] = ContextVar("blank_kinds", default=None)

USER_FILE = "blanks.toml"


@cache
def sizes() -> dict[str, SizeKind]:
    """Return every size, from the smallest to the largest."""
    return {name: SizeKind.model_validate(row) for name, row in read_toml("sizes")["sizes"].items()}


@cache
def forms() -> dict[str, Form]:
    """Return every form."""
    return {name: Form.model_validate(row) for name, row in read_toml("forms").items()}


def user_file() -> Path:
    """Return where the user's own blanks are described."""
    return platformdirs.user_config_path("zinnet") / USER_FILE


def blank_kinds() -> dict[str, BlankKind]:
    """Return the kinds of blanks that are in use; where none are put in use, those of the user's file as it is now.

    A file that makes no sense is said where the workshop is opened; here it is as if there was none.
    """
    found = _in_use.get()
    if found is None:
        try:
            found = read_blank_kinds()
        except BlankError:
            found = shipped_blank_kinds()
    return found.kinds


@cache
def shipped_blank_kinds() -> BlankKinds:
    """Return the kinds of blanks that ship with Zinnet."""
    return BlankKinds(kinds=_kinds(None))


def read_blank_kinds() -> BlankKinds:
    """Return what ships with Zinnet and the user's own. Raises :class:`BlankError` for a file that makes no sense."""
    file = user_file()
    return BlankKinds(kinds=_kinds(file)) if file.exists() else shipped_blank_kinds()


def _kinds(file: Path | None) -> dict[str, BlankKind]:
    rows = dict(read_toml("blanks"))
    if file is not None:
        rows.update(_user_rows(file))
    found = {}
    for name in rows:
        try:
            found[name] = BlankKind.model_validate(_merged(rows, name))
        except BlankError as error:
            raise BlankError(f"{file}: {error}") from None
        except ValidationError as error:
            first = error.errors()[0]
            where = ".".join(str(part) for part in first["loc"])
            raise BlankError(f"The blank “{name}” in {file}: {where}: {first['msg']}; mend it there.") from None
        _refuse_unsound(name, found[name], file)
    return found


def _user_rows(file: Path) -> dict[str, Any]:
    return read_own_toml(file, error=BlankError)


def _merged(rows: dict[str, Any], name: str, seen: tuple[str, ...] = ()) -> dict[str, Any]:
    """Return a row with all that it takes over from the one that it is like."""
    row = rows[name]
    if not isinstance(row, dict):
        raise BlankError(f"The blank “{name}” is not a table; write it as [{name}] with its rows below.")
    like = row.get("like")
    if like is None:
        return row
    if like not in rows or like in (*seen, name):
        raise BlankError(f"The blank “{name}” is like “{like}”, which is not there or is like itself; mend that line.")
    base = _merged(rows, like, (*seen, name))
    merged = {**base, **{key: value for key, value in row.items() if key not in ("like", "without")}}
    for table in ("typical", "shape", "clearance"):
        merged[table] = {**base.get(table, {}), **row.get(table, {})}
    for measure in row.get("without", ()):
        merged["typical"].pop(measure, None)
    return merged


def _refuse_unsound(name: str, kind: BlankKind, file: Path | None) -> None:
    where = f"The blank “{name}” in {file}" if file else f"The blank “{name}”"
    if kind.form not in forms():
        raise BlankError(f"{where} has the unknown form “{kind.form}”; known are: {', '.join(forms())}.")
    if kind.procedure not in procedures():
        raise BlankError(f"{where} has the unknown procedure “{kind.procedure}”; known are: {', '.join(procedures())}.")
    for size in kind.sizes:
        if size not in sizes():
            raise BlankError(f"{where} has the unknown size “{size}”; known are: {', '.join(sizes())}.")
    for measure, values in kind.typical.items():
        if measure not in forms()[kind.form].measures:
            raise BlankError(f"{where} has the measure “{measure}”, which a {kind.form} has not.")
        if len(values) != len(kind.sizes):
            raise BlankError(f"{where}: {measure} has {len(values)} values for {len(kind.sizes)} sizes.")


def blank_kind(name: str) -> BlankKind:
    """Return one blank of the catalogue."""
    kinds = blank_kinds()
    if name not in kinds:
        raise BlankError(f"There is no blank “{name}”; known are: {', '.join(kinds)}.")
    return kinds[name]


def read_blank_name(text: str) -> BlankSpec:
    """Return the blank that a name such as ``tee-adult``, ``tee-youth-m`` or ``cap`` means.

    Where only a class of sizes is named, or nothing, its usual size is meant.
    """
    kinds, usual = blank_kinds(), read_toml("sizes")["usual"]
    for kind in sorted((kind for kind in kinds if text == kind or text.startswith(f"{kind}-")), key=len, reverse=True):
        size = text[len(kind) + 1 :]
        known = kinds[kind].sizes
        if not size:
            return BlankSpec(kind=kind, size=usual["adult"] if usual["adult"] in known else known[0])
        size = size if size in known else usual.get(size, size)
        if size in known:
            return BlankSpec(kind=kind, size=size)
        raise BlankError(f"{kinds[kind].name} has no size “{size}”; it has: {', '.join(known)}.")
    raise BlankError(f"There is no blank “{text}”; known are: {', '.join(kinds)}.")


def size_of(spec: BlankSpec) -> str:
    """Return the size of a blank: the one that is named, else the first of its kind."""
    known = blank_kind(spec.kind).sizes
    if spec.size is None:
        return known[0]
    if spec.size not in known:
        raise BlankError(f"{blank_kind(spec.kind).name} has no size “{spec.size}”; it has: {', '.join(known)}.")
    return spec.size


def measure_kinds(kind: str) -> dict[str, MeasureKind]:
    """Return the measures of a kind of blank, in the order of its form."""
    row = blank_kind(kind)
    return {name: measure for name, measure in forms()[row.form].measures.items() if name in row.typical}


def typical_measures(kind: str, size: str) -> dict[str, float]:
    """Return the catalogue's values for a size, in mm."""
    row = blank_kind(kind)
    index = row.sizes.index(size)
    return {name: row.typical[name][index] for name in measure_kinds(kind)}


def measures_of(spec: BlankSpec) -> dict[str, float]:
    """Return every measure of the blank in mm: the user's own, else typical ones.

    Raises :class:`BlankError` where a measure is unknown, out of any sensible range, or contradicts another.
    """
    row = blank_kind(spec.kind)
    kinds = measure_kinds(spec.kind)
    found = typical_measures(spec.kind, size_of(spec))
    for measure in spec.measured:
        if measure.name not in kinds:
            raise BlankError(f"{row.name} has no measure “{measure.name}”; it has: {', '.join(kinds)}.")
        limits = kinds[measure.name]
        if not limits.least_mm <= measure.mm <= limits.most_mm:
            raise BlankError(
                f"{limits.name} of {measure.mm:.0f} mm can't be right for {row.name.lower()}: "
                f"it lies between {limits.least_mm:.0f} and {limits.most_mm:.0f} mm. Measure it again."
            )
        found[measure.name] = measure.mm
    for rule in forms()[row.form].rules:
        if rule.measure in found and rule.of in found:
            _refuse_contradiction(rule, found, kinds)
    return found


def _refuse_contradiction(rule: Rule, found: dict[str, float], kinds: dict[str, MeasureKind]) -> None:
    value, other = found[rule.measure], found[rule.of]
    if rule.at_most is not None and value > rule.at_most * other:
        limit = f"at most {rule.at_most:g} times that"
    elif rule.at_least is not None and value < rule.at_least * other:
        limit = f"at least {rule.at_least:g} times that"
    else:
        return
    one, two = kinds[rule.measure].name, kinds[rule.of].name
    raise BlankError(
        f"{one} of {value:.0f} mm does not go with {two.lower()} of {other:.0f} mm: it is {limit}. Measure both again."
    )
