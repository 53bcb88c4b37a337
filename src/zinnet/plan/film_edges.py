"""What a machine keeps of a film: the room at its edge, and the corner in which it tests."""

from dataclasses import dataclass

from zinnet.job.model import Job
from zinnet.machines.cutters import room
from zinnet.workshop.model import Workshop


@dataclass(frozen=True)
class Edges:
    """What a machine keeps of a film: how near it cuts to its edge, in mm, and whether it tests in a fixed corner."""

    film_edge_mm: float | None = None
    test_corner: bool = False

    @property
    def kept_mm(self) -> float:
        """How much is kept at the edge of film, in mm."""
        return room().edge_mm if self.film_edge_mm is None else self.film_edge_mm


def edges_of(job: Job, workshop: Workshop) -> Edges:
    """Return what the job's machine keeps of a film."""
    device = workshop.machines.cutter(job.cutting.machine, job.nesting.mat)
    return Edges(device.film_edge_mm, device.test_corner)
