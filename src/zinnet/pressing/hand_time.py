"""What hands did with one card at the bench, as the log keeps it."""

from zinnet.base.frozen import Frozen


class HandTime(Frozen):
    """How long each kind of work of a card takes as a rule, and how long all of it took, in s."""

    usual_s: tuple[tuple[str, float], ...]
    real_s: float
