"""Commands of the bench: which piece on a mat is whose, and one piece cut again."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from zinnet.base.errors import ZinnetError
from zinnet.cli import reading

if TYPE_CHECKING:
    from zinnet.plan.press_cards import Hand

JobFile = Annotated[Path, typer.Argument(help="The job file.")]
Json = Annotated[bool, typer.Option("--json", help="As JSON.")]


def apart(job: JobFile, as_json: Json = False) -> None:
    """Say how each mat is cut apart: whose each piece is, how large its carrier is trimmed, how far from the film."""
    from zinnet.base.units import write_length
    from zinnet.plan.cut_apart import mats_apart

    document = reading.nested_job(job)
    mats, unit = mats_apart(document.plan), document.job.unit
    if as_json:
        reading.print_json(
            [
                {
                    "mat": mat.load.numbers,
                    "pieces": [
                        {
                            "number": one.number,
                            "layer": one.layer,
                            "film": one.film.id,
                            "garment": one.owner.number if one.owner is not None else None,
                            "name": one.owner.name if one.owner is not None else "spare",
                            "trim_mm": [round(mm, 2) for mm in one.trim],
                            "margins_mm": list(one.margins_mm),
                            "own_edges": list(one.own_edges),
                            "tangled": one.tangled,
                        }
                        for one in mat.pieces
                    ],
                }
                for mat in mats
            ]
        )
        return
    if not mats:
        typer.echo("There is nothing to cut apart: no film is on a mat; open artwork and choose films first.")
    for mat in mats:
        typer.echo(f"Mat {mat.load.numbers}, {mat.load.films}")
        for one in mat.pieces:
            wide, high = (write_length(mm, unit=unit) for mm in one.size_mm)
            whose = one.owner.name if one.owner is not None else "spare"
            typer.echo(f"  {one.mark:<8} {one.layer:<28} {wide} by {high}   {whose}")


def recut(
    job: JobFile,
    out: Annotated[Path, typer.Option("--out", help="The folder for its cut files.")],
    number: Annotated[int, typer.Option(min=1, help="Which garments of the run, from 1: a size, or a name.")] = 1,
    piece: Annotated[int, typer.Option(min=1, help="Which of its pieces, from 1 in the order of pressing.")] = 1,
) -> None:
    """Cut one piece again by itself, from the smallest film on the shelf that holds it, and write its cut files."""
    from zinnet.bench.recut import cut_again
    from zinnet.job.edits import record_miscut
    from zinnet.plan.run_garments import run_presses

    document = reading.nested_job(job)
    plan = document.plan
    presses = [one for one in run_presses(plan) if one[1].works]
    if not presses:
        raise ZinnetError("There is nothing to cut again: no layer of the job has a film yet.")
    if number > len(presses):
        raise ZinnetError(f"There are no garments {number}; the run has {len(presses)} kinds of them.")
    _, press = presses[number - 1]
    hands = [_hand(one.key, place) for work in press.works for one in work.pieces for place in range(len(one.each))]
    if piece > len(hands):
        raise ZinnetError(f"There is no piece {piece}; there are {len(hands)}.")
    found = cut_again(plan, press, hands[piece - 1])
    for path in found.write(out):
        typer.echo(str(path))
    document.apply(record_miscut(found.nest.film.id, found.taken_mm2))
    document.save(job)
    typer.echo(f"{found.name}, from {found.said}")


def _hand(key: str, place: int) -> "Hand":
    from zinnet.plan.press_cards import Hand

    return Hand(key, place)
