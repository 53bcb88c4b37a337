"""Processes of ours that wait for a task: started ahead, ended with all that they started."""

import atexit
import contextlib
import os
import signal
import subprocess
import tempfile
import threading
import time
from collections.abc import Mapping

from zinnet.base.child import child_command, child_environment, child_folder

POLL_S = 0.01
MOST_LETTERS = 4000


class Worker:
    """A process that runs ``main()`` of one of our modules: fed by its input, read by its output.

    What it complains of on its standard error is kept.
    """

    def __init__(self, module: str, environment: Mapping[str, str] | None = None) -> None:
        self._complaints = tempfile.TemporaryFile()  # noqa: SIM115 - closed with the worker
        self.process = subprocess.Popen(
            child_command(module),
            cwd=child_folder(),
            env={**child_environment(), **(environment or {})},
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=self._complaints,
            process_group=0,
        )
        _living.add(self)

    def kill(self) -> None:
        """End the process and those that it started, which may live on where it is dead itself.

        Until a dead process is waited for, its number names its group and no other.
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
        """Return what the process wrote on its standard error, the end of it where it is long."""
        self._complaints.seek(0)
        return self._complaints.read().decode(errors="replace")[-MOST_LETTERS:].strip()

    def close(self) -> None:
        """Wait for the end of the process, and close all that leads to it."""
        self.process.wait()
        for stream in (self.process.stdin, self.process.stdout, self._complaints):
            if stream is not None:
                with contextlib.suppress(OSError):
                    stream.close()
        _living.discard(self)


class Spares:
    """Workers that are started and wait for a task, so that it is begun at once."""

    def __init__(self, module: str, environment: Mapping[str, str] | None = None) -> None:
        self._module, self._environment = module, environment
        self._waiting: list[Worker] = []
        self._lock = threading.Lock()
        atexit.register(self.dismiss)

    def take(self) -> Worker:
        """Return a worker that waits for its task, a new one where none does."""
        with self._lock:
            while self._waiting:
                worker = self._waiting.pop()
                if worker.process.poll() is None:
                    return worker
                worker.close()
        return self._started()

    def prepare(self, count: int) -> None:
        """Have so many workers wait."""
        with self._lock:
            while len(self._waiting) < count:
                self._waiting.append(self._started())

    def dismiss(self) -> None:
        """End the workers that wait."""
        with self._lock:
            for worker in self._waiting:
                worker.kill()
                worker.close()
            self._waiting.clear()

    def _started(self) -> Worker:
        return Worker(self._module, self._environment)


_living: set[Worker] = set()


def living_workers() -> tuple[Worker, ...]:
    """Return the processes of ours that were not waited for yet."""
    return tuple(_living)


def kill_workers() -> None:
    """End all processes of ours, whatever they are at."""
    for worker in living_workers():
        worker.kill()
