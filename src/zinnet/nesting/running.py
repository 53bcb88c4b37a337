"""A running nest: a worker process whose best layout so far is always at hand."""

import atexit
import contextlib
import os
import signal
import subprocess
import tempfile
import threading
import time
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor

from zinnet.base.child import child_command, child_environment, child_folder
from zinnet.base.errors import NestError
from zinnet.base.log import logger
from zinnet.nesting.model import Layout, NestTask, check_task

GRACE_S = 30.0
ENDS_S = 5.0
POLL_S = 0.01
MOST_LETTERS = 4000
WORKER = "zinnet.nesting.worker"


class _Worker:
    """A worker process, and what it complains of."""

    def __init__(self) -> None:
        self._complaints = tempfile.TemporaryFile()  # noqa: SIM115 - closed with the worker
        self.process = subprocess.Popen(
            child_command(WORKER),
            cwd=child_folder(),
            env=child_environment(),
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=self._complaints,
            text=True,
            process_group=0,
        )

    def kill(self) -> None:
        """End the worker and the engines that it started, which may live on where the worker itself is dead.

        Until a dead worker is waited for, its number names its group and no other.
        """
        if self.process.returncode is None:
            with contextlib.suppress(ProcessLookupError):
                os.killpg(self.process.pid, signal.SIGKILL)

    def ended_with(self, within_s: float) -> int | None:
        """Return the exit code or signal of a process that ends in the time, which is not waited for by that."""
        deadline = time.monotonic() + within_s
        while time.monotonic() < deadline:
            found = os.waitid(os.P_PID, self.process.pid, os.WEXITED | os.WNOHANG | os.WNOWAIT)
            if found is not None:
                return found.si_status
            time.sleep(POLL_S)
        return None

    def complaints(self) -> str:
        """Return what the worker wrote on its standard error, the end of it where it is long."""
        self._complaints.seek(0)
        return self._complaints.read().decode(errors="replace")[-MOST_LETTERS:].strip()

    def close(self) -> None:
        """Wait for the end of the process, and close all that leads to it."""
        self.process.wait()
        for stream in (self.process.stdin, self.process.stdout, self._complaints):
            if stream is not None:
                with contextlib.suppress(OSError):
                    stream.close()


class _Spares:
    """Workers that are started and wait for a task, so that a nest begins at once."""

    def __init__(self) -> None:
        self._waiting: list[_Worker] = []
        self._lock = threading.Lock()

    def take(self) -> _Worker:
        """Return a worker that waits for its task, a new one where none does."""
        with self._lock:
            while self._waiting:
                worker = self._waiting.pop()
                if worker.process.poll() is None:
                    return worker
                worker.close()
        return _started()

    def prepare(self, count: int) -> None:
        """Have so many workers wait."""
        with self._lock:
            while len(self._waiting) < count:
                self._waiting.append(_started())

    def dismiss(self) -> None:
        """End the workers that wait."""
        with self._lock:
            for worker in self._waiting:
                worker.kill()
                worker.close()
            self._waiting.clear()


def _started() -> _Worker:
    return _Worker()


_spares = _Spares()
atexit.register(_spares.dismiss)


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
        self._worker: _Worker | None = None
        self._lock = threading.Lock()
        self._reader = threading.Thread(target=self._read, daemon=True)
        self._reader.start()

    def _start(self) -> _Worker | None:
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
            process.stdin.write(self.task.to_json())
            process.stdin.close()
            for line in process.stdout:
                if self.cancelled or not line.endswith("\n"):
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

    def _look_at_end(self, worker: _Worker) -> None:
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
