"""A run at the press in words, as the log shows it: how long it took beside the plan, and each garment's line."""

from zinnet.base.units import write_seconds
from zinnet.workshop.run_made import GarmentMade, RunMade


def run_said(run: RunMade) -> str:
    """Return how long a run took, who was at it, and how long it paused."""
    who = f"{run.who}: " if run.who else ""
    paused = f", {write_seconds(run.paused_s)} paused" if run.paused_s >= 1 else ""
    began, elapsed = run.began[:16].replace("T", " "), write_seconds(run.elapsed_s)
    real, planned = write_seconds(run.real_s), write_seconds(run.planned_s)
    return f"{who}{began}, {elapsed} by the clock{paused}. Hands and press {real}, planned {planned}."


def garment_cells(one: GarmentMade) -> tuple[str, str, str, str, str]:
    """Return a garment's line: what it is, the time that was planned, the real one, its presses, what happened."""
    name = f"{one.number}  {one.name}{f', {one.colour}' if one.colour else ''}"
    presses = ", ".join(f"{press.real_s:.0f} of {press.planned_s:.0f} s" for press in one.presses)
    return name, write_seconds(one.planned_s), write_seconds(one.real_s), presses, happened(one)


def happened(one: GarmentMade) -> str:
    """Return what became of a garment, in words."""
    said = []
    if one.spoiled:
        said.append(f"lost: {one.spoiled}")
    if one.recut:
        said.append(f"cut again: {', '.join(recut.piece for recut in one.recut)}")
    if one.again is not None:
        said.append(f"made for no. {one.again}")
    if one.lifted:
        said.append(f"film lifted {one.lifted} time{'s' * (one.lifted != 1)}")
    if one.skipped:
        said.append(f"passed over: {', '.join(one.skipped)}")
    return "; ".join(said)
