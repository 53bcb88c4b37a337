"""The plan and its findings as JSON."""

import math
from typing import Any

import numpy as np

from zinnet import __version__
from zinnet.blanks.model import Blank, Panel
from zinnet.layers.detail import details
from zinnet.layers.stack import FilmLayer
from zinnet.layers.weeding import weed_summary
from zinnet.output.stack_json import stack_json
from zinnet.placement.place import edge_distances
from zinnet.placement.propose import Proposal
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.ledger import JobLedger, film_ledger
from zinnet.plan.loading import LoadedMat
from zinnet.plan.model import Plan
from zinnet.plan.nests import NestedMat
from zinnet.plan.trims import Trim


def findings_json(plan: Plan) -> list[dict[str, Any]]:
    """Return the findings as they stand in ``findings.json``."""
    return [finding.to_json() for finding in plan.findings]


def plan_json(plan: Plan) -> dict[str, Any]:
    """Return the plan as it stands in ``plan.json``; docs/file-formats.md says what each field means."""
    designs = [design_json(garment, design) for garment, design in plan.fitted]
    return {
        "zinnet": __version__,
        "title": plan.job.title,
        "copies": plan.job.copies,
        "blank": blank_json(plan.blank, next((design.panel for _, design in plan.fitted), plan.blank.main)),
        "placement": designs[0]["placement"] if designs else None,
        "layers": designs[0]["layers"] if designs else [],
        "sizes": [{"size": garment.size, "copies": garment.copies} for garment in plan.garments],
        "designs": designs,
        "compositions": [composition_json(garment, composed) for garment, composed in plan.composed],
        "mats": [_mat_json(plan, load, mat) for load, mat in _by_number(plan)],
        "trims": [trim_json(trim) for trim in plan.trims],
        "film_use": ledger_json(film_ledger(plan)),
        "unplaced": [name for nest in plan.nests if nest.layout for name in nest.layout.unplaced],
        "stops": [finding.id for finding in plan.open_stops],
    }


def fit_json(plan: Plan) -> dict[str, Any]:
    """Return what the first design's fit comes to: proposal, place, distances, what fits where, findings."""
    design = plan.garments[0].designs[0]
    fitted = design_json(plan.garments[0], design)
    distances = None if design.placement is None else edge_distances(design.placement)
    down = None if design.placement is None else design.placement.down
    return {
        "blank": blank_json(plan.blank, design.panel),
        "proposal": fitted["proposal"],
        "placement": fitted["placement"],
        "usual_distance_mm": None if down is None else [down.low_mm, down.target_mm, down.high_mm],
        "edges_mm": None if distances is None else {"left": distances[0], "right": distances[1]},
        "count": 0 if design.placement is None else len(design.placement.matrices),
        "sizes": [_size_json(garment) for garment in plan.garments],
        "findings": findings_json(plan),
    }


def _size_json(garment: Garment) -> dict[str, Any]:
    """Return the first design on one size in a few numbers."""
    (design, *_), row = garment.designs, {"size": garment.size, "name": garment.blank.name, "copies": garment.copies}
    if design.placement is None or design.proposal is None:
        return row
    return row | {
        "width_mm": design.word_width_mm,
        "height_mm": design.placement.height_mm,
        "from_reference_mm": design.placement.from_reference_mm,
        "largest_mm": design.proposal.usable_mm,
        "reason": design.proposal.reason("mm"),
    }


def blank_json(blank: Blank, panel: Panel) -> dict[str, Any]:
    """Return a blank with its measures and the reference points of a panel."""
    return {
        "kind": blank.kind,
        "size": blank.size,
        "class": blank.size_class,
        "name": blank.name,
        "measures": {name: {"mm": mm, "measured": name in blank.measured} for name, mm in blank.measures.items()},
        "panel": panel.id,
        "panels": [one.id for one in blank.panels],
        "references": {name: list(point) for name, point in panel.references.items()},
        "collar_point": list(panel.references["collar"]) if "collar" in panel.references else None,
        "usable_box": list(panel.usable.bounds),
    }


def design_json(garment: Garment, design: FittedDesign) -> dict[str, Any]:
    """Return a design on one size: its place, its matrices, its layers."""
    placement, split, proposal = design.placement, design.split, design.proposal
    placed = None
    if placement is not None and split is not None:
        on_collar = placement.place.reference == "collar" and placement.place.anchor == "top"
        placed = {
            "place": placement.place.id,
            "panel": placement.panel.id,
            "school": placement.school,
            "width_mm": placement.width_mm,
            "height_mm": placement.height_mm,
            "from_centre_mm": placement.from_centre_mm,
            "reference": placement.place.reference,
            "anchor": placement.place.anchor,
            "from_reference_mm": placement.from_reference_mm,
            "below_collar_mm": placement.from_reference_mm if on_collar else None,
            "turn_deg": placement.turn_deg,
            "arrangement": placement.arrangement.kind,
            "source_box": list(split.source_box),
            "artwork_to_panel": (placement.matrix @ split.to_mm).tolist(),
            "copies_to_panel": [(matrix @ split.to_mm).tolist() for matrix in placement.matrices],
            "copies_mm": [[round(x, 3), round(y, 3)] for x, y in placement.copies_mm],
            "letters": letters_json(design),
        }
    return {
        "design": design.index,
        "size": garment.size,
        "placement": placed,
        "proposal": None if proposal is None else proposal_json(proposal),
        **({"layers": []} if design.stack is None else stack_json(design.stack)),
    }


def composition_json(garment: Garment, composed: FittedDesign) -> dict[str, Any]:
    """Return what is cut together on one size: its designs, its film layers, and from which designs each comes."""
    found: dict[str, Any] = {"size": garment.size, "panel": composed.panel.id, "designs": list(composed.indices)}
    if composed.stack is None or composed.placement is None:
        return {**found, "copies_to_panel": [], "layers": []}
    whole = stack_json(composed.stack)
    for row, layer in zip(composed.stack.in_press_order, whole["layers"], strict=True):
        layer["designs"] = list(composed.sources(row))
    return {**found, "copies_to_panel": [matrix.tolist() for matrix in composed.placement.matrices], **whole}


def details_json(row: FilmLayer) -> dict[str, Any]:
    """Return the places of a layer that its film can't hold, lengths in mm of the artwork."""
    return {
        "order": row.layer.order,
        "film": row.film.id if row.film else None,
        "places": [
            {
                "kind": detail.kind,
                "at": list(detail.at),
                "measured_mm": detail.measured_mm,
                "limit_mm": detail.limit_mm,
                "area_mm2": detail.region.area,
            }
            for detail in details(row)
        ],
    }


def weed_json(plan: Plan) -> list[dict[str, Any]]:
    """Return the weed map of every layer of what is cut together on the job's own size, lengths in its own mm."""
    found = []
    for design in plan.garments[0].compositions:
        if design.stack is None or not design.stack.layers:
            continue
        for row in design.stack.in_press_order:
            weed = design.weeds(row)
            found.append(
                {
                    "design": design.index,
                    "designs": list(design.indices),
                    "order": row.layer.order,
                    "colour": row.layer.colour,
                    "film": row.film.id if row.film else None,
                    "name": f"layer {row.layer.order}, {row.film.name if row.film else row.layer.colour}",
                    "summary": weed_summary(weed),
                    "frame": list(weed.frame),
                    "outline_mm": weed.outline_mm,
                    "counters": weed.counters,
                    "areas": len(weed.islands),
                    "small_parts": [list(part.representative_point().coords[0]) for part in weed.small_parts],
                    "seconds": weed.seconds,
                    "basis": weed.basis,
                    "islands": [
                        {
                            "number": island.number,
                            "kind": island.kind,
                            "at": list(island.at),
                            "lift_to": list(island.lift),
                            "area_mm2": island.region.area,
                            "near_small": island.near_small,
                        }
                        for island in weed.islands
                    ],
                    "weed_lines": [[list(point) for point in line.coords] for line in weed.lines],
                }
            )
    return found


def letters_json(design: FittedDesign) -> list[dict[str, Any]] | None:
    """Return where each letter on an arc stands on the panel: its foot, its turn, and the matrix from artwork mm."""
    setting, placement = design.setting, design.placement
    if setting is None or placement is None:
        return None
    found = []
    for letter, matrix in zip(setting.letters, setting.matrices, strict=True):
        left, _, right, _ = letter.bounds
        to_panel = placement.matrix @ matrix
        foot = to_panel @ np.array([(left + right) / 2, setting.baseline, 1.0])
        found.append(
            {
                "foot": [float(foot[0]), float(foot[1])],
                "turn_deg": math.degrees(math.atan2(to_panel[1, 0], to_panel[0, 0])),
                "artwork_mm_to_panel": to_panel.tolist(),
                "source_to_panel": (to_panel @ design.split.to_mm).tolist() if design.split is not None else None,
            }
        )
    return found


def proposal_json(proposal: Proposal) -> dict[str, Any]:
    """Return a proposal with its reason and what fits where."""
    return {
        "width_mm": proposal.width_mm,
        "usual_mm": proposal.usual_mm,
        "range_mm": [proposal.low_mm, proposal.high_mm],
        "reason": proposal.reason("mm"),
        "ink": proposal.look.ink,
        "words": proposal.look.words,
        "character": proposal.look.character,
        "largest_mm": {"usable": proposal.usable_mm, "platen": proposal.platen_mm, "mat": proposal.mat_mm},
    }


def trim_json(trim: Trim) -> dict[str, Any]:
    """Return one line of the trim list."""
    return {
        "mat": trim.mat.number,
        "film": trim.mat.nest.film.id,
        "from": None if trim.item is None else trim.item.number,
        "source": trim.source,
        "box_mm": list(trim.box),
        "whole": trim.whole,
        "side_down": trim.side_down,
        "on": trim.on,
        "load": trim.load,
        "stick_mm": list(trim.stuck_at),
        "new_settings": trim.new_settings,
    }


def ledger_json(ledger: JobLedger) -> dict[str, Any]:
    """Return where the film goes in numbers, areas in mm2: what is taken is on garments, kept or lost."""
    return {
        "films": [
            {
                "film": film.film,
                "taken_mm2": film.taken_mm2,
                "whole_mm2": film.whole_mm2,
                "on_garments_mm2": film.on_garments_mm2,
                "kept_mm2": film.kept_mm2,
                "lost_mm2": film.lost_mm2,
                "lost": dict(film.lost),
                "rows_mm2": film.rows_mm2,
            }
            for film in ledger.films
        ],
        "garments": ledger.garments,
        "short": ledger.short,
        "taken_mm2": ledger.taken_mm2,
        "lost_mm2": ledger.lost_mm2,
        "rows_mm2": ledger.rows_mm2,
    }


def _by_number(plan: Plan) -> list[tuple[LoadedMat, NestedMat]]:
    """Return every film on a mat with what is loaded together with it, by its number on the table."""
    return sorted(((load, mat) for load in plan.loads for mat in load.mats), key=lambda row: row[1].number)


def _mat_json(plan: Plan, load: LoadedMat, mat: NestedMat) -> dict[str, Any]:
    first = mat.layout.placed[0]
    pieces = []
    for placed in mat.layout.placed:
        part = mat.nest.part(placed.piece)
        pieces.append(
            {
                "piece": placed.piece,
                "copy": placed.copy_number,
                "layer": part.layer.layer.order,
                "size": plan.garments[part.garment].size,
                "design": part.designs[0],
                "designs": list(part.designs),
                "x_mm": placed.x_mm,
                "y_mm": placed.y_mm,
                "turn_deg": placed.turn_deg,
                "cut_to_sheet": placed.matrix.tolist(),
                "panel_to_cut": plan.panel_to_cut(part, placed.copy_number).tolist(),
            }
        )
    return {
        "number": mat.number,
        "film": mat.nest.film.id,
        "from": None if mat.item is None else mat.item.number,
        "kind": mat.sheet.kind,
        "test_cut": None if mat.test_spot is None else list(mat.test_spot.bounds),
        "width_mm": mat.sheet.width_mm,
        "height_mm": mat.sheet.height_mm,
        "margin_mm": mat.sheet.margin_mm,
        "gap_mm": mat.nest.task.gap_mm,
        "mirrored": mat.nest.mirrored,
        "used_length_mm": mat.layout.used_length_mm,
        "film_mm2": mat.film_mm2,
        "svg": f"{load.stem}.svg",
        "plt": f"{load.stem}.plt",
        "settings": load.settings.model_dump() | {"source": load.known.source},
        "panel_to_cut": plan.panel_to_cut(mat.nest.part(first.piece), first.copy_number).tolist(),
        "pieces": pieces,
    }
