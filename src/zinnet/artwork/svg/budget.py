"""How much one file may ask for: points of outlines, and points of what clips and is clipped."""

from zinnet.base.errors import ArtworkError

MOST_POINTS = 150_000
MOST_WORK = 2_000_000
"""How many points of outlines and of what clips them are put together in all."""


class Budget:
    """What one file has asked for so far; beyond the limits it is refused in a sentence."""

    def __init__(self, name: str) -> None:
        self.name = name
        self.points = self.work = 0

    def count_points(self, count: int) -> None:
        """Count points of outlines. Raises :class:`ArtworkError` where they are too many."""
        self.points += count
        if self.points > MOST_POINTS:
            raise ArtworkError(f"{self.name} has more than {MOST_POINTS} points; simplify its paths and open it again.")

    def count_work(self, points: int) -> None:
        """Count points of what clips and is clipped. Raises :class:`ArtworkError` where they are too many."""
        self.work += points
        if self.work > MOST_WORK:
            raise ArtworkError(f"{self.name} clips and masks too much to be worked out; simplify it and open it again.")
