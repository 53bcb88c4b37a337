"""Every size of the job: its blank, and the designs on it, those that belong together in one proportion."""

import math

from zinnet.base.errors import BlankError
from zinnet.base.stages import stage
from zinnet.blanks.build import build_blank
from zinnet.blanks.model import Blank, BlankSpec
from zinnet.job.model import FamilyMember
from zinnet.placement.place import PlacementSpec, place_artwork
from zinnet.placement.propose import Proposal
from zinnet.plan.blocks import Block, blocks_of
from zinnet.plan.fitted import FittedDesign, Garment, fit_design, proposal_for, stepped
from zinnet.plan.fitting import Fitting


@stage(most=8)
def fit_garments(fitting: Fitting) -> tuple[Garment, ...]:
    """Return every size of the job with its designs, the job's own first.

    Raises a :class:`ZinnetError` where the job can't be made sense of.
    """
    blank = build_blank(fitting.blank)
    own = tuple(
        fit_design(fitting, index, design, design.placement, blank) for index, design in enumerate(fitting.designs)
    )
    named = fitting.names if fitting.names.rows else None
    garments = [Garment(blank.size, blank, named.count_of(blank.size, blank.size) if named else fitting.copies, own)]
    together = list(blocks_of(garments[0], fitting)) if fitting.family else []
    blocks = [block for block in together if len(block.designs) > 1]
    for member in fitting.family:
        if member.size in [garment.size for garment in garments]:
            raise BlankError(f"The size {member.size} stands twice in the job; take one of them out.")
        other = build_blank(member_blank(fitting.blank, member.size, member.measured))
        proportioned = _in_proportion(fitting, blocks, member, other)
        fitted = []
        for index, design in enumerate(fitting.designs):
            spec = member.apart_for(index) or proportioned.get(index)
            ratio = 1.0 if spec is not None else _ratio(own[index])
            spec = spec or following(design.placement)
            fitted.append(fit_design(fitting, index, design, spec, other, ratio=ratio, own=own[index].artwork))
        copies = named.count_of(member.size, blank.size) if named else member.copies
        garments.append(Garment(member.size, other, copies, tuple(fitted)))
    return tuple(garments)


def member_blank(base: BlankSpec, size: str, measured: tuple[object, ...] = ()) -> BlankSpec:
    """Return the blank of another size: typical, but for what was measured on it."""
    return base.model_copy(update={"size": size, "measured": measured, "keep_outs": ()})


def following(base: PlacementSpec) -> PlacementSpec:
    """Return the placement of a size that follows the job's own: its width steps, its place is worked out anew."""
    return base.model_copy(
        update=dict.fromkeys(
            ("width_mm", "height_mm", "field_width_mm", "field_height_mm", "from_centre_mm", "from_reference_mm")
        )
    )


def _ratio(own: FittedDesign) -> float:
    """Return by how much the user's width differs from the proposal: the other sizes follow it."""
    if own.proposal is None or (own.spec.width_mm is None and not own.spec.is_measured):
        return 1.0
    return (own.spec.width_mm or own.word_width_mm) / own.proposal.width_mm


def _as_usual(width_mm: float, proposal: Proposal) -> float:
    """Return the width that is nearest to one and usual on a size, as far as it fits there."""
    low, high = proposal.low_mm or 0.0, proposal.high_mm or math.inf
    return min(max(width_mm, min(low, proposal.width_mm)), high)


def _in_proportion(
    fitting: Fitting, blocks: list[Block], member: FamilyMember, blank: Blank
) -> dict[int, PlacementSpec]:
    """Return where the designs that belong together lie on another size: all grown alike, about where they are held."""
    found: dict[int, PlacementSpec] = {}
    for block in blocks:
        if any(member.apart_for(design.index) for design in block.designs) or block.proposal is None:
            continue
        whole = block.placement
        bare = PlacementSpec(place=whole.place.id, school=block.first.spec.school)
        proposal = proposal_for(fitting, bare, blank, block.any_size, whole.height_mm / whole.width_mm)
        width = stepped(proposal.width_mm, block.width_mm / block.proposal.width_mm)
        if block.proposal.holds(block.width_mm):
            width = _as_usual(width, proposal)
        factor = width / block.width_mm
        high = whole.height_mm * factor
        there = place_artwork(bare, blank, fitting.habits, width_mm=width, height_mm=high)
        for design in block.designs:
            own = design.placement
            assert own is not None
            found[design.index] = design.spec.model_copy(
                update={
                    "width_mm": design.word_width_mm * factor,
                    "height_mm": None if design.spec.height_mm is None else design.spec.height_mm * factor,
                    "from_centre_mm": there.from_centre_mm + factor * (own.from_centre_mm - whole.from_centre_mm),
                    "from_reference_mm": there.from_reference_mm
                    + factor * (own.from_reference_mm - whole.from_reference_mm),
                }
            )
    return found
