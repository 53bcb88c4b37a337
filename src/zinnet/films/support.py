"""May a film lie on another? The films' rules, and which of two that meet goes how."""

from collections.abc import Collection, Hashable
from typing import Literal

from zinnet.base.frozen import Frozen
from zinnet.films.catalogue import Film, kind_of

PairMethod = Literal["on-top", "side-by-side", "lap"]
Method = Literal["auto", "stack", "cut-away", "lap"]

BONDS = {
    frozenset({"heat", "glue"}): "adhesive film is never heated, and its glue does not hold on what is washed",
    frozenset({"heat", "print"}): "a print goes into the cloth by itself",
    frozenset({"glue", "print"}): "a print goes into the cloth by itself",
}


class Support(Frozen):
    """Whether a film holds another one, and why; ``by_school`` where only some practitioners do it."""

    holds: bool
    reason: str
    by_school: bool = False


class PairRule(Frozen):
    """How two films that meet lie to each other, and why; ``chosen`` where it is the user's word."""

    method: PairMethod
    reason: str
    support: Support
    chosen: bool = False


def support(lower: Film | None, upper: Film | None, *, stack_glitter: bool = False) -> Support:
    """Return whether ``upper`` holds on ``lower``, the one that is pressed first."""
    if lower is None or upper is None:
        return Support(holds=True, reason="no film is known yet")
    under, over = kind_of(lower), kind_of(upper)
    if under.bond != over.bond:
        return Support(holds=False, reason=BONDS[frozenset({under.bond, over.bond})])
    if under.carries_itself_by_school and lower.kind == upper.kind and stack_glitter:
        return Support(holds=True, reason=f"{under.name} film on itself, by the school that you chose", by_school=True)
    if not under.carries:
        return Support(holds=False, reason=f"{under.name} film carries no other film")
    if not over.carried:
        return Support(holds=False, reason=f"{over.name} film lies on no other film")
    return Support(holds=True, reason=f"{under.name} film carries another one")


def pair_rule(held: Support, method: Method, chosen: PairMethod | None, *, goes_under: bool) -> PairRule:
    """Return how two films lie: by the user's word, else by the method of the job and the films' rules.

    ``goes_under`` tells whether the artwork has the lower one go on under the upper.
    """

    def rule(how: PairMethod, why: str, by_choice: bool = False) -> PairRule:
        return PairRule(method=how, reason=why, support=held, chosen=by_choice)

    if chosen is not None:
        return rule(chosen, f"your choice; {held.reason}", True)
    if method == "stack":
        return rule("on-top", "stacked, as you chose for the job")
    if method == "cut-away":
        return rule("side-by-side", "cut away, as you chose for the job")
    if not held.holds:
        return rule("side-by-side", f"{held.reason}: they meet without lap")
    if method == "lap":
        return rule("lap", "side by side with a lap, as you chose for the job")
    if goes_under:
        return rule("on-top", f"{held.reason}: on top, so that no misfit shows")
    return rule("lap", "they meet side by side: a lap hides a small misfit")


def cut_method[Name: Hashable](
    lower: Name, upper: Name, held: Support, on_top: Collection[tuple[Name, Name]]
) -> PairMethod:
    """Return how a layer meets another one under which it is cut away, so that fewer films lie on one another.

    ``on_top`` holds the pairs that stay on top. Where another film goes on under both, no cloth shows through a misfit
    and a lap would only add to the films; else a lap hides it, if the film holds the other.
    """
    below = {under for under, over in on_top if over == lower}
    if not held.holds or any((under, upper) in on_top for under in below):
        return "side-by-side"
    return "lap"
