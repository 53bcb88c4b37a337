"""Work on what strangers made: in a process of its own, bounded in time and memory, ended at any moment.

Artwork and job files are read, drawn and derived there for the first time. What its stages made comes back, so that the
window's process does none of it again; where the work breaks its bounds, only that process is gone.
"""

import os
import threading
import time
from pathlib import Path
from typing import Any, Literal

from zinnet.base.errors import ArtworkError, ZinnetError
from zinnet.base.log import logger
from zinnet.base.memory import memory_in_use
from zinnet.base.parcel import ParcelError, packed, unpacked
from zinnet.base.workers import Spares, Worker

WORKER = "zinnet.bench.bounded_worker"
ENVIRONMENT = {"OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1"}
MOST_S = 10.0
"""How long a file may keep the processor busy before somebody is asked whether it is waited for."""
MOST_BYTES = 1 << 30
MOST_ANSWER = 400_000_000
POLL_S = 0.02
ENDS_S = 5.0
TICKS = os.sysconf("SC_CLK_TCK")

type Task = Literal["derive", "open", "outline", "area", "photo"]

_spares = Spares(WORKER, ENVIRONMENT)


def prepare_reader() -> None:
    """Start a process ahead of the file that will be opened next."""
    _spares.prepare(1)


class Patience:
    """Whoever waits for a task, asked from the thread that waits. This one waits as long as is usual, and no longer."""

    def begun(self, task: "Bounded") -> None:
        """Take note of a task that is begun, to stop it where nobody waits any more."""

    def goes_on(self, task: "Bounded") -> bool:
        """Say whether a task that took its time is waited for until it is done or stopped."""
        return False


class Bounded:
    """One task in a process of its own.

    Parameters
    ----------
    task, given
        What is done, of those in :mod:`zinnet.bench.bounded_worker`, and with what.
    called : str
        What it is about, for the sentence when it is refused.
    patience : Patience
        Who waits.
    most_s : float
        Time, in seconds of the processor.
    most_bytes : int
        Memory.
    """

    def __init__(
        self,
        task: Task,
        given: tuple[Any, ...],
        called: str,
        patience: Patience | None = None,
        *,
        most_s: float = MOST_S,
        most_bytes: int = MOST_BYTES,
    ) -> None:
        self.called, self._patience = called, patience or Patience()
        self._most_s, self._most_bytes = most_s, most_bytes
        self._order = packed((task, given, most_bytes))
        self._stopped = threading.Event()

    def stop(self) -> None:
        """End the task: nobody waits for it any more."""
        self._stopped.set()

    def answer(self) -> Any:
        """Return what the task gives, when it is done.

        Raises
        ------
        ZinnetError
            Where the task refused, in its own words; where it broke its bounds, or somebody ended it.
        """
        self._patience.begun(self)
        worker = _spares.take()
        parts: list[bytes] = []
        reader = threading.Thread(target=_talk, args=(worker, self._order, parts), daemon=True)
        reader.start()
        try:
            self._wait(worker, reader)
            return self._opened(worker, b"".join(parts))
        finally:
            worker.kill()
            reader.join()
            worker.close()

    def _wait(self, worker: Worker, reader: threading.Thread) -> None:
        """Wait until the task is done; raise where it breaks its bounds."""
        began = seconds_used(worker.process.pid)
        is_asked = False
        while reader.is_alive():
            reader.join(POLL_S)
            if self._stopped.is_set():
                raise ArtworkError(f"{self.called} was left: it took too long.")
            if memory_in_use(worker.process.pid) > self._most_bytes:
                raise self._too_large()
            if not is_asked and seconds_used(worker.process.pid) - began > self._most_s:
                is_asked = True
                if not self._patience.goes_on(self):
                    raise ArtworkError(
                        f"{self.called} keeps the program busy for more than {self._most_s:.0f} s; simplify it and "
                        "open it again."
                    )

    def _too_large(self) -> ArtworkError:
        return ArtworkError(
            f"{self.called} needs more than {self._most_bytes / 2**20:.0f} MB of memory; simplify it and open it again."
        )

    def _opened(self, worker: Worker, data: bytes) -> Any:
        try:
            how, answer = unpacked(data)
        except (ParcelError, ValueError, TypeError):
            status = worker.ended_with(ENDS_S)
            logger().error(
                "Reading %s ended with %s. It said:\n%s", self.called, status, worker.complaints() or "nothing"
            )
            raise ArtworkError(
                f"{self.called} can't be read: it broke the process that reads it, and nothing else. Simplify it."
            ) from None
        if how == "refused":
            raise answer if isinstance(answer, ZinnetError) else ZinnetError(str(answer))
        if how == "memory":
            raise self._too_large()
        return answer


def _talk(worker: Worker, order: bytes, parts: list[bytes]) -> None:
    """Hand a worker its order, and take what it answers up to the limit."""
    assert worker.process.stdin is not None
    assert worker.process.stdout is not None
    try:
        worker.process.stdin.write(order)
        worker.process.stdin.close()
        taken = 0
        while taken < MOST_ANSWER and (part := worker.process.stdout.read(1 << 20)):
            parts.append(part)
            taken += len(part)
    except (OSError, ValueError):
        pass  # the worker is dead; its end says how


def seconds_used(process: int) -> float:
    """Return how long a process kept the processor busy, in s; by the clock where the system does not say."""
    try:
        fields = Path(f"/proc/{process}/stat").read_text(encoding="ascii", errors="replace").rpartition(")")[2].split()
        return (int(fields[11]) + int(fields[12])) / TICKS
    except (OSError, IndexError, ValueError):
        return time.monotonic()
