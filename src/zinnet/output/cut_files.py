"""Writing the cut files of a job: all mats in one go, in the formats that are asked for, with the job sheet."""

from collections.abc import Callable, Sequence
from pathlib import Path

from zinnet.base.errors import CutError
from zinnet.base.files import write_whole
from zinnet.cutting.dxf_file import cut_dxf
from zinnet.cutting.preview import preview_png
from zinnet.cutting.svg_file import cut_svg
from zinnet.output.papers.cut_pdf import cut_pdf, print_pdf
from zinnet.output.papers.job_sheet import job_sheet_pdf
from zinnet.output.preflight import passed_in_words, refuse_unready
from zinnet.plan.loading import LoadedMat
from zinnet.plan.model import Plan
from zinnet.workshop.cutbook import CutBook
from zinnet.workshop.prices import read_prices
from zinnet.workshop.store import WorkshopStore

FORMATS = ("svg", "dxf", "hpgl", "pdf", "png")
ENDINGS = {"hpgl": "plt"}
USUAL = ("svg", "hpgl")
JOB_SHEET = "job-sheet.pdf"


def write_cut_files(
    plan: Plan,
    folder: Path,
    formats: Sequence[str] = USUAL,
    *,
    arcs: bool = True,
    only: int | None = None,
    on_mat: Callable[[int, int], None] | None = None,
) -> list[Path]:
    """Write the files of every mat, or of ``only`` one, and return their paths; a print is one PDF, trimmed by hand.

    Raises :class:`CutError` while a stop is open, before everything is nested, or where the folder can't be written.
    """
    refuse_unready(plan)
    loads = [load for load in plan.loads if only is None or only in [mat.number for mat in load.mats]]
    if not loads:
        raise CutError(f"There is no mat {only}; there are {len(plan.mats)}.")
    stems = [load.stem for load in loads]
    if len(set(stems)) < len(stems):
        raise CutError("Several mats would have the same file name; put {mat} into the template of names.")
    written = []
    for number, load in enumerate(loads):
        if on_mat is not None:
            on_mat(number, len(loads))
        if load.is_printed:
            path = folder / f"{load.stem}-print.pdf"
            written.append(write_whole(path, print_pdf(plan, load), error=CutError))
            continue
        for name in formats:
            path = folder / f"{load.stem}.{ENDINGS.get(name, name)}"
            written.append(write_whole(path, content_of(load, name, arcs), error=CutError))
    return written


def write_job_sheet(plan: Plan, folder: Path) -> Path:
    """Write the job sheet beside the cut files, with the user's prices."""
    return write_whole(folder / JOB_SHEET, job_sheet_pdf(plan, plan.findings, read_prices()), error=CutError)


def log_export(plan: Plan, store: WorkshopStore, folder: Path) -> None:
    """Write to the log what was exported, and which stops were passed and why."""
    said = [f"{len(plan.loads)} mats written to {folder}", *passed_in_words(plan)]
    CutBook(store).log(plan.job.title, "cut files", "\n".join(said))


def content_of(load: LoadedMat, name: str, arcs: bool = True) -> bytes:
    """Return a mat's cut file in one of the formats. Raises :class:`CutError` where there is no such format."""
    if name == "svg":
        return cut_svg(load.cut_sheet(), arcs=arcs).encode()
    if name == "dxf":
        return cut_dxf(load.cut_sheet()).encode()
    if name == "hpgl":
        return load.program().text.encode()
    if name == "pdf":
        return cut_pdf(load)
    if name == "png":
        return preview_png(load.cut_sheet())
    raise CutError(f"There is no format “{name}”; use {', '.join(FORMATS)}.")
