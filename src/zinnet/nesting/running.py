"""A running nest: a worker process whose best layout so far is always at hand."""

import threading
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor

from zinnet.base.errors import NestError
from zinnet.base.log import logger
from zinnet.base.workers import Spares, Worker
from zinnet.nesting.model import Layout, NestTask, check_task

GRACE_S = 30.0
ENDS_S = 5.0
WORKER = "zinnet.nesting.worker"


_spares = Spares(WORKER)


def prepare_workers(count: int = 2) -> None:
    """Start workers ahead of the nests that will need them."""
    _spares.prepare(count)


class NestRun:
    """One nest in its own process. ``on_better`` is called from another thread, which also starts the process."""

    def __init__(self, task: NestTask, on_better: Callable[[Layout], None] | None = None) -> None:
        check_task(task)
        self.task = task
        self.best: Layout | None = None
        self.cancelled = False
        self._on_better = on_better
        self._worker: Worker | None = None
        self._lock = threading.Lock()
        self._reader = threading.Thread(target=self._read, daemon=True)
        self._reader.start()

    def _start(self) -> Worker | None:
        with self._lock:
            if self.cancelled:
                return None
            self._worker = _spares.take()
            return self._worker

    def _read(self) -> None:
        worker = self._start()
        if worker is None:
            return
        process = worker.process
        assert process.stdin is not None
        assert process.stdout is not None
        try:
            process.stdin.write(self.task.to_json().encode())
            process.stdin.close()
            for line in process.stdout:
                if self.cancelled or not line.endswith(b"\n"):
                    break
                self.best = Layout.model_validate_json(line).as_verified()
                if self._on_better is not None:
                    self._on_better(self.best)
            self._look_at_end(worker)
        except OSError:
            pass  # the process was stopped while it was fed; what is best so far stays
        finally:
            worker.kill()
            worker.close()

    def _look_at_end(self, worker: Worker) -> None:
        """Write down how a worker ended that nobody stopped, where it did not end well."""
        status = worker.ended_with(ENDS_S)
        if not self.cancelled and status != 0:
            logger().error("A nest's worker ended with %s. It said:\n%s", status, worker.complaints() or "nothing")

    @property
    def is_running(self) -> bool:
        """Whether better layouts may still come."""
        return self._reader.is_alive()

    def abandon(self) -> None:
        """Stop at once, without waiting until the process is gone."""
        with self._lock:
            self.cancelled = True
            if self._worker is not None:
                self._worker.kill()

    def cancel(self) -> Layout | None:
        """Stop at once and return the best layout so far, if there is one."""
        self.abandon()
        self._reader.join(timeout=5)
        return self.best

    def wait(self) -> Layout:
        """Return the best layout when the time is up."""
        self._reader.join(timeout=None if self.task.steps is not None else self.task.seconds + GRACE_S)
        if self.best is None:
            self.cancel()
            raise NestError("The nest ended without a result; allow it more seconds, or split large pieces.")
        self.cancel()
        return self.best


def nest_all(tasks: Sequence[NestTask], *, at_once: int = 2) -> list[Layout]:
    """Return the layout of each task, some of them nested side by side.

    Parameters
    ----------
    tasks : nest tasks
        Independent of each other.
    at_once : int
        How many processes work at a time.

    Returns
    -------
    list of Layout
        In the order of the tasks, each verified.
    """
    with ThreadPoolExecutor(max_workers=at_once) as pool:
        return list(pool.map(lambda task: NestRun(task).wait(), tasks))
