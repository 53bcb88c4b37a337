"""Steps that move things: move, duplicate, turn, flip, align and distribute."""

from collections.abc import Callable, Sequence
from dataclasses import replace

from shapely.geometry import Polygon

from zinnet.geometry.inside import points_inside
from zinnet.geometry.region import Region, hull_box, union
from zinnet.geometry.transform import Matrix, affine, moved, shift
from zinnet.geometry.transform import turn as turned
from zinnet.steps import model
from zinnet.steps.areas import Areas, Choice, box_of, choose, put_back


def move(areas: Areas, step: model.Move) -> Areas:
    """Return the areas with what is chosen moved."""
    return _all_by(areas, step.which, shift(step.right_mm, step.down_mm))


def duplicate(areas: Areas, step: model.Duplicate) -> Areas:
    """Return the areas and, above them, the copies."""
    chosen = [replace(c.area, region=c.chosen) for c in choose(areas, step.which) if not c.chosen.is_empty]
    copies = [
        replace(area, region=moved(area.region, shift(number * step.right_mm, number * step.down_mm)))
        for number in range(1, step.copies + 1)
        for area in chosen
    ]
    return (*areas, *copies)


def turn(areas: Areas, step: model.Turn) -> Areas:
    """Return the areas with what is chosen turned about its middle."""
    return _all_by(areas, step.which, _about_middle(areas, step.which, turned(step.angle_deg)))


def flip(areas: Areas, step: model.Flip) -> Areas:
    """Return the areas with what is chosen flipped about its middle."""
    mirror = affine(1, 0, 0, -1, 0, 0) if step.upright else affine(-1, 0, 0, 1, 0, 0)
    return _all_by(areas, step.which, _about_middle(areas, step.which, mirror))


def _about_middle(areas: Areas, which: model.Which, change: Matrix) -> Matrix:
    chosen = [c.chosen for c in choose(areas, which) if not c.chosen.is_empty]
    if not chosen:
        return change
    left, top, right, bottom = hull_box(chosen)
    x, y = (left + right) / 2, (top + bottom) / 2
    return shift(x, y) @ change @ shift(-x, -y)


def _all_by(areas: Areas, which: model.Which, matrix: Matrix) -> Areas:
    choices = choose(areas, which)
    return put_back(choices, [moved(choice.chosen, matrix) for choice in choices])


def align(areas: Areas, step: model.Align) -> Areas:
    """Return the areas with every chosen group brought to the edge."""
    choices = choose(areas, step.which)
    groups = _groups(choices)
    if not groups:
        return areas
    left, top, right, bottom = box_of(areas) if step.to_artwork else hull_box(groups)
    goal = {
        "left": left,
        "right": right,
        "centre": (left + right) / 2,
        "top": top,
        "bottom": bottom,
        "middle": (top + bottom) / 2,
    }[step.edge]

    def shifted(group: Region) -> Matrix:
        own_left, own_top, own_right, own_bottom = group.bounds
        own = {
            "left": own_left,
            "right": own_right,
            "centre": (own_left + own_right) / 2,
            "top": own_top,
            "bottom": own_bottom,
            "middle": (own_top + own_bottom) / 2,
        }[step.edge]
        return shift(goal - own, 0) if step.edge in ("left", "centre", "right") else shift(0, goal - own)

    return _by_group(choices, groups, [shifted(group) for group in groups])


def distribute(areas: Areas, step: model.Distribute) -> Areas:
    """Return the areas with equal gaps between the chosen groups."""
    choices = choose(areas, step.which)
    groups = _groups(choices)
    axis = 1 if step.down else 0
    order = sorted(range(len(groups)), key=lambda k: groups[k].bounds[axis] + groups[k].bounds[axis + 2])
    sizes = [groups[k].bounds[axis + 2] - groups[k].bounds[axis] for k in order]
    if len(order) < 3:
        return areas
    first, last = groups[order[0]].bounds[axis], groups[order[-1]].bounds[axis + 2]
    gap = (last - first - sum(sizes)) / (len(order) - 1)
    matrices, at = [shift(0, 0)] * len(groups), first
    for k, size in zip(order, sizes, strict=True):
        by = at - groups[k].bounds[axis]
        matrices[k] = shift(0, by) if step.down else shift(by, 0)
        at += size + gap
    return _by_group(choices, groups, matrices)


def _groups(choices: Sequence[Choice]) -> list[Region]:
    """Return what is chosen as groups that move as one: parts that touch or lie on one another."""
    whole = union(choice.chosen for choice in choices)
    return [Region([Polygon(part.exterior)]) for part in whole.geoms]


def _by_group(choices: Sequence[Choice], groups: Sequence[Region], matrices: Sequence[Matrix]) -> Areas:
    """Return the areas with every chosen part moved with the group that it lies in."""
    inside: Callable[[Polygon], int] = lambda part: next(  # noqa: E731
        k for k, group in enumerate(groups) if group.intersects(points_inside([part])[0])
    )
    changed = [
        union(moved(Region([part]), matrices[inside(part)]) for part in choice.chosen.geoms) for choice in choices
    ]
    return put_back(choices, changed)
