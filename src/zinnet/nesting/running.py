"""A running nest: a worker process whose best layout so far is always at hand."""

import atexit
import contextlib
import os
import signal
import subprocess
import sys
import threading
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor

from zinnet.base.errors import NestError
from zinnet.nesting.model import Layout, NestTask, check_task

GRACE_S = 30.0


class _Spares:
    """Workers that are started and wait for a task, so that a nest begins at once."""

    def __init__(self) -> None:
        self._waiting: list[subprocess.Popen[str]] = []
        self._lock = threading.Lock()

    def take(self) -> subprocess.Popen[str]:
        """Return a worker that waits for its task, a new one where none does."""
        with self._lock:
            while self._waiting:
                process = self._waiting.pop()
                if process.poll() is None:
                    return process
                _close(process)
        return _started()

    def prepare(self, count: int) -> None:
        """Have so many workers wait."""
        with self._lock:
            while len(self._waiting) < count:
                self._waiting.append(_started())

    def dismiss(self) -> None:
        """End the workers that wait."""
        with self._lock:
            for process in self._waiting:
                _kill(process)
                process.wait()
                _close(process)
            self._waiting.clear()


def _started() -> subprocess.Popen[str]:
    return subprocess.Popen(
        [sys.executable, "-m", "zinnet.nesting.worker"],
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        text=True,
        process_group=0,
    )


def _kill(process: subprocess.Popen[str]) -> None:
    """End a worker and the engines that it started, which may live on where the worker itself is dead.

    Until a dead worker is waited for, its number names its group and no other.
    """
    if process.returncode is None:
        with contextlib.suppress(ProcessLookupError):
            os.killpg(process.pid, signal.SIGKILL)


def _close(process: subprocess.Popen[str]) -> None:
    for stream in (process.stdin, process.stdout):
        if stream is not None:
            with contextlib.suppress(OSError):
                stream.close()


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
        self._process: subprocess.Popen[str] | None = None
        self._lock = threading.Lock()
        self._reader = threading.Thread(target=self._read, daemon=True)
        self._reader.start()

    def _start(self) -> subprocess.Popen[str] | None:
        with self._lock:
            if self.cancelled:
                return None
            self._process = _spares.take()
            return self._process

    def _read(self) -> None:
        process = self._start()
        if process is None:
            return
        assert process.stdin is not None
        assert process.stdout is not None
        try:
            process.stdin.write(self.task.to_json())
            process.stdin.close()
            for line in process.stdout:
                if self.cancelled or not line.endswith("\n"):
                    break
                self.best = Layout.model_validate_json(line).model_copy(update={"verified": True})
                if self._on_better is not None:
                    self._on_better(self.best)
        except OSError:
            pass  # the process was stopped while it was fed; what is best so far stays
        finally:
            _kill(process)
            process.wait()
            _close(process)

    @property
    def is_running(self) -> bool:
        """Whether better layouts may still come."""
        return self._reader.is_alive()

    def abandon(self) -> None:
        """Stop at once, without waiting until the process is gone."""
        with self._lock:
            self.cancelled = True
            if self._process is not None:
                _kill(self._process)

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
    """Return the layout of each task, some of them nested side by side."""
    with ThreadPoolExecutor(max_workers=at_once) as pool:
        return list(pool.map(lambda task: NestRun(task).wait(), tasks))
