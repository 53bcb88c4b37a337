"""A job in a few words as JSON: what ``zinnet job show`` prints."""

from collections import Counter
from typing import Any

from zinnet.artwork.source import source_name
from zinnet.plan.fitted import FittedDesign
from zinnet.plan.model import Plan


def job_json(plan: Plan) -> dict[str, Any]:
    """Return title, blank, sizes, designs with their places and films, and how many findings there are."""
    job, blank = plan.job, plan.blank
    return {
        "title": job.title,
        "unit": job.unit,
        "blank": {
            "kind": blank.kind,
            "name": blank.name,
            "size": blank.size,
            "colour": blank.colour,
            "cloth": blank.fabric,
            "dots": blank.care_dots,
            "measures": {
                name: {"mm": round(mm, 2), "measured": name in blank.measured} for name, mm in blank.measures.items()
            },
        },
        "sizes": [{"size": one.size, "copies": one.copies} for one in plan.garments],
        "designs": [
            _design_json(design, source_name(job.designs[design.index].source)) for design in plan.garments[0].designs
        ],
        "mat": job.nesting.mat,
        "is_nested": plan.is_nested,
        "findings": dict(Counter(one.level for one in plan.findings if one.passed is None)),
        "stops": [one.id for one in plan.open_stops],
    }


def _design_json(design: FittedDesign, name: str) -> dict[str, Any]:
    placement = design.placement
    films = {colour: row.film.id if row.film else None for row in design.layers for colour in row.colours}
    split = design.split
    return {
        "number": design.index + 1,
        "name": name,
        "group": list(design.group),
        "place": placement.place.id if placement is not None else None,
        "panel": design.panel.id,
        "width_mm": round(placement.width_mm, 2) if placement is not None else None,
        "height_mm": round(placement.height_mm, 2) if placement is not None else None,
        "down_mm": round(placement.from_reference_mm, 2) if placement is not None else None,
        "aside_mm": round(placement.from_centre_mm, 2) if placement is not None else None,
        "turn_deg": design.spec.turn_deg,
        "colours": [
            {"colour": layer.colour, "film": films.get(layer.colour)} for layer in (split.layers if split else ())
        ],
    }
