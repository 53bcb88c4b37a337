"""A running nest: a worker process whose best layout so far is always at hand."""

import subprocess
import sys
import threading
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor

from zinnet.errors import NestError
from zinnet.nesting.model import Layout, NestTask, check_task

GRACE_S = 30.0


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
            self._process = subprocess.Popen(
                [sys.executable, "-m", "zinnet.nesting.worker"],
                stdin=subprocess.PIPE,
                stdout=subprocess.PIPE,
                stderr=subprocess.DEVNULL,
                text=True,
            )
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
            process.kill()
            process.wait()
            process.stdout.close()

    @property
    def is_running(self) -> bool:
        """Whether better layouts may still come."""
        return self._reader.is_alive()

    def abandon(self) -> None:
        """Stop at once, without waiting until the process is gone."""
        with self._lock:
            self.cancelled = True
            if self._process is not None:
                self._process.kill()

    def cancel(self) -> Layout | None:
        """Stop at once and return the best layout so far, if there is one."""
        self.abandon()
        self._reader.join(timeout=5)
        return self.best

    def wait(self) -> Layout:
        """Return the best layout when the time is up."""
        self._reader.join(timeout=self.task.seconds + GRACE_S)
        if self.best is None:
            self.cancel()
            raise NestError("The nest ended without a result; allow it more seconds, or split large pieces.")
        self.cancel()
        return self.best


def nest_all(tasks: Sequence[NestTask], *, at_once: int = 2) -> list[Layout]:
    """Return the layout of each task, some of them nested side by side."""
    with ThreadPoolExecutor(max_workers=at_once) as pool:
        return list(pool.map(lambda task: NestRun(task).wait(), tasks))
