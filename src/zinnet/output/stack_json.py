"""The layers of a design or a composition as JSON."""

from typing import Any

from zinnet.layers.stack import LayerStack, laid_on


def stack_json(stack: LayerStack) -> dict[str, Any]:
    """Return the layers in the order in which they are pressed, and how each two that meet lie to each other."""
    return {
        "layers": [
            {
                "order": row.layer.order,
                "colour": row.layer.colour,
                "colours": list(row.colours),
                "film": row.film.id if row.film else None,
                "difference": row.difference,
                "mirrored": row.side.mirrored if row.side else None,
                "why": row.side.reason if row.side else None,
                "area_mm2": row.layer.area_mm2,
                "pieces": row.layer.pieces,
            }
            for row in stack.in_press_order
        ],
        "pairs": [
            {
                "under": pair.under.layer.order,
                "over": pair.over.layer.order,
                "method": pair.rule.method,
                "why": pair.rule.reason,
            }
            for pair in stack.pairs
        ],
        "through_glass": stack.through_glass,
        "laid_on": laid_on(stack.through_glass),
        "lap_mm": stack.lap_mm,
        "deepest": stack.deepest,
    }
