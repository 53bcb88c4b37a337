"""Steps of colour: recolour, and fewer colours."""

from dataclasses import replace
from itertools import combinations

from zinnet.films.colours import colour_difference
from zinnet.steps import model
from zinnet.steps.areas import Areas, choose


def recolour(areas: Areas, step: model.Recolour) -> Areas:
    """Return the areas with what is chosen in another colour, in its place of the order."""
    found = []
    for choice in choose(areas, step.which):
        if not choice.rest.is_empty:
            found.append(replace(choice.area, region=choice.rest))
        if not choice.chosen.is_empty:
            found.append(replace(choice.area, region=choice.chosen, colour=step.colour))
    return tuple(found)


def reduce_colours(areas: Areas, step: model.ReduceColours) -> Areas:
    """Return the areas in fewer colours: the two nearest by CIEDE2000 become one, again and again."""
    covered: dict[str, float] = {}
    for area in areas:
        covered[area.colour] = covered.get(area.colour, 0.0) + area.region.area
    becomes = {colour: colour for colour in covered}
    while len(covered) > step.count:
        one, other = min(combinations(sorted(covered), 2), key=lambda pair: colour_difference(*pair))
        stays, goes = (one, other) if covered[one] >= covered[other] else (other, one)
        covered[stays] += covered.pop(goes)
        becomes = {colour: stays if now == goes else now for colour, now in becomes.items()}
    return tuple(replace(area, colour=becomes[area.colour]) for area in areas)
