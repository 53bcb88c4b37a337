"""The link to a cutter on a serial port: a program is sent line by line, and each line is asked back before it counts.

After every line the cutter is asked where its head stands (``OA``, answered when the line is cut) and whether anything
went wrong (``ESC . E``, answered at once). A line counts as cut when both are as they should be. At most two lines are
under way, so that a break leaves at most two in doubt, and those are named.

An answer that nobody asked for may come in between. It can stand for that of a line only where the head should be just
there: a line that ends where the one before it ended is in doubt until a line that ends elsewhere is cut, or the end.
"""

import contextlib
import os
import select
import threading
import time
from collections import deque
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Literal

from zinnet.base.errors import CutError
from zinnet.cutting.duration import duration_of
from zinnet.cutting.hpgl import Block, Program
from zinnet.cutting.ports import PortSettings, open_port
from zinnet.cutting.settings import CutSettings

if TYPE_CHECKING:
    from serial import Serial

State = Literal["waiting", "sending", "paused", "done", "stopped", "failed"]
UNDER_WAY = 2
STRAY = "the cutter answers what it was not asked: look at its cable, and over the whole mat"
CHUNK = 64
POLL_S = 0.02
PROBE_S = 0.5
ABORT, ERROR = b"\x1b.K", b"\x1b.E"
STALL_TIMES, STALL_S = 4.0, 8.0
REASONS = {
    15: "the cutter got a garbled byte: look at the cable, and look over the whole mat for lines that do not belong",
    16: "the cutter's buffer ran over and bytes are lost: set its handshake to what Zinnet uses",
    20: "the cutter's carriage is blocked: free the film, the mat and the blade; hands off while it has power",
}
"""What the answers to ``ESC . E`` mean: 15 and 16 are HP-GL's own, 20 is the stand-in's."""


@dataclass(frozen=True)
class Report:
    """How far a mat got. Names of lines: those that are cut, those in doubt, those that were not sent."""

    state: State
    done: tuple[str, ...]
    doubtful: tuple[str, ...]
    left: tuple[str, ...]
    reason: str
    seconds: float = 0.0

    @property
    def is_whole(self) -> bool:
        """Whether everything is cut."""
        return self.state == "done" and not self.doubtful and not self.left


class _Stopped(Exception):  # noqa: N818 - not an error: the user's word
    """The user said stop."""


class Sending:
    """A program on its way to a cutter, in a thread of its own. What goes wrong is said in the report."""

    def __init__(
        self,
        program: Program,
        port: PortSettings,
        settings: CutSettings,
        *,
        on_change: Callable[["Sending"], None] | None = None,
    ) -> None:
        self.program, self.port, self.settings = program, port, settings
        self.state: State = "waiting"
        self.reason = ""
        self.seconds = 0.0
        self._on_change = on_change
        self._done: list[Block] = []
        self._under_way: deque[Block] = deque()
        self._sent = 0
        self._lines = threading.Lock()  # what is done, under way and left is read by the window's thread too
        self._stop, self._pause = threading.Event(), threading.Event()
        self._incoming = bytearray()
        self._positions: deque[tuple[int, ...]] = deque()
        self._asked = self._answered = 0
        self._is_late = False
        self._codes: deque[int] = deque()
        self._serial: Serial | None = None
        self._thread = threading.Thread(target=self._run, name="cutter link", daemon=True)

    # what the user does

    def start(self) -> "Sending":
        """Begin to send."""
        self._thread.start()
        return self

    def pause(self) -> None:
        """Wait after the lines that are under way."""
        self._pause.set()

    def resume(self) -> None:
        """Go on after a pause."""
        self._pause.clear()

    def stop(self) -> None:
        """Stop at once: the cutter forgets what it has not cut yet, and lifts its knife."""
        self._stop.set()
        self._pause.clear()

    def wait(self, seconds: float | None = None) -> Report:
        """Wait for the end and return the report."""
        self._thread.join(seconds)
        return self.report

    @property
    def is_running(self) -> bool:
        """Whether it still sends."""
        return self._thread.is_alive()

    @property
    def share(self) -> float:
        """How much of all lines is cut."""
        return len(self._done) / max(1, len(self.program.blocks))

    @property
    def current(self) -> str | None:
        """The line that is being cut."""
        with self._lines:
            return self._under_way[0].path.name if self._under_way else None

    @property
    def done_names(self) -> tuple[str, ...]:
        """The lines that are cut for sure."""
        return self.report.done

    def _unsure(self) -> int:
        """Return how many of the last lines were confirmed by an answer that may not have been theirs.

        It may have been that of the line before, which ended at the same spot; or an error came late, behind the word
        that all was well.
        """
        if self.state == "done":
            return 0
        ends = [block.end for block in self._done]
        same = next((k for k in range(len(ends) - 1) if ends[-k - 1] != ends[-k - 2]), max(0, len(ends) - 1))
        return max(same, min(len(ends), int(self._is_late)))

    @property
    def report(self) -> Report:
        """How far it got."""
        with self._lines:
            state, reason = self.state, self.reason
            blocks, sure = list(self._done), len(self._done) - self._unsure()
            doubtful, left = [*blocks[sure:], *self._under_way], self.program.blocks[self._sent :]
        return Report(state, _names(blocks[:sure]), _names(doubtful), _names(left), reason, self.seconds)

    # what the thread does

    def _run(self) -> None:
        begun = time.monotonic()
        try:
            self._serial = open_port(self.port)
            self._send_all()
            self._end("done", "")
        except _Stopped:
            self._abort()
            self._end("stopped", "stopped by you")
        except CutError as error:
            self._abort()
            self._end("failed", str(error))
        except OSError as error:
            self._end("failed", f"the link to {self.port.port} is lost ({error.strerror or error})")
        finally:
            self.seconds = time.monotonic() - begun
            if self._serial is not None:
                with contextlib.suppress(OSError):
                    self._serial.close()
            self._tell()

    def _end(self, state: State, reason: str) -> None:
        with self._lines:
            self.state, self.reason = state, reason

    def _tell(self) -> None:
        if self._on_change is not None:
            self._on_change(self)

    def _send_all(self) -> None:
        self._check_error("the cutter does not answer; look at its cable, its power and its port")
        self._forget_answers()
        self.state = "sending"
        self._tell()
        self._write(self.program.head.encode())
        for block in self.program.blocks:
            self._wait_while_paused()
            with self._lines:
                self._under_way.append(block)
                self._sent += 1
            self._tell()
            self._ask_position(block.text)
            while len(self._under_way) >= UNDER_WAY:
                self._confirm()
        while self._under_way:
            self._confirm()
        self._ask_position(self.program.foot)
        self._position(STALL_S)
        self._check_error("the cutter does not answer any more")
        if self._positions or self._codes:
            raise CutError(STRAY)

    def _forget_answers(self) -> None:
        """Forget what the cutter said before it was asked for anything."""
        self._codes.clear()
        self._positions.clear()
        self._answered = self._asked

    def _ask_position(self, text: str) -> None:
        """Send lines, and ask where the head stands when they are cut."""
        self._asked += 1
        self._write((text + "OA;").encode())

    def _wait_while_paused(self) -> None:
        if not self._pause.is_set():
            return
        while self._under_way:
            self._confirm()
        self._write(b"PU;")
        self.state = "paused"
        self._tell()
        while self._pause.is_set():
            time.sleep(POLL_S)
            self._check_stop()
        self._check_stop()
        self.state = "sending"

    def _confirm(self) -> None:
        """Wait until the line that was sent first is cut, and see that all is well."""
        block = self._under_way[0]
        position = self._position(self._patience_s)
        if position[:2] != block.end:
            raise CutError(
                f"the head stands at {position[0]},{position[1]} after {block.path.name}, not at "
                f"{block.end[0]},{block.end[1]}: look over the whole mat"
            )
        self._check_error("the cutter does not answer any more; look at its cable and its power")
        with self._lines:
            self._done.append(block)
            self._under_way.popleft()
        self._tell()

    @property
    def _patience_s(self) -> float:
        """How long the lines that are under way may take before something must be wrong."""
        expected = sum(duration_of([one.path], self.settings).seconds for one in self._under_way)
        return STALL_TIMES * expected + STALL_S

    def _position(self, most_s: float) -> tuple[int, ...]:
        """Wait for the head's position; ask now and then whether the cutter is well."""
        deadline, probe = time.monotonic() + most_s, time.monotonic() + PROBE_S
        while not self._positions:
            self._read(POLL_S)
            now = time.monotonic()
            if now > deadline:
                raise CutError("the cutter answers but does not go on; look at it")
            if now > probe and not self._positions:
                self._check_error("the cutter does not answer any more; look at its cable and its power")
                probe = now + PROBE_S
        return self._positions.popleft()

    def _check_error(self, silent: str) -> None:
        """Ask whether anything went wrong. Raises :class:`CutError` where it did, or where there is no answer."""
        while self._codes:
            self._is_late = True
            self._refuse_error(self._codes.popleft())
        self._is_late = False
        self._write(ERROR)
        deadline = time.monotonic() + self.port.answer_s
        while not self._codes:
            self._read(POLL_S)
            if time.monotonic() > deadline:
                raise CutError(silent)
        self._refuse_error(self._codes.popleft())

    @staticmethod
    def _refuse_error(code: int) -> None:
        if code:
            raise CutError(REASONS.get(code, f"the cutter reports error {code}; see its manual"))

    def _write(self, data: bytes) -> None:
        """Write all bytes; how many got out is known at any time, since the port does not block.

        Raises :class:`CutError` where the cutter holds the line up for longer than all that it has can take.
        """
        fd, deadline = self._fd, time.monotonic() + self._patience_s
        while data:
            self._check_stop()
            if time.monotonic() > deadline:
                raise CutError("the cutter does not take any more; look at it, and at how the handshake is set")
            _, ready, _ = select.select([], [fd], [], POLL_S)
            if ready:
                try:
                    data = data[os.write(fd, data[:CHUNK]) :]
                    deadline = time.monotonic() + self._patience_s
                except BlockingIOError:
                    time.sleep(POLL_S / 4)
            self._read(0)

    def _read(self, seconds: float) -> None:
        self._check_stop()
        ready, _, _ = select.select([self._fd], [], [], seconds)
        if not ready:
            return
        data = os.read(self._fd, 256)
        if not data:
            raise OSError(None, "the other end is closed")
        self._incoming += data
        *lines, rest = bytes(self._incoming).split(b"\r")
        self._incoming = bytearray(rest)
        for line in lines:
            self._understand(line.decode("latin-1").strip())

    def _understand(self, line: str) -> None:
        """Sort an answer: three numbers are a position, one is an error's."""
        try:
            numbers = tuple(int(part) for part in line.split(","))
        except ValueError:
            raise CutError(f"the cutter's answer “{line[:40]}” can't be understood: look at cable and port") from None
        if len(numbers) == 1:
            self._codes.append(numbers[0])
        else:
            self._positions.append(numbers)
            self._answered += 1
            if self._asked and self._answered > self._asked:
                raise CutError(STRAY)

    def _check_stop(self) -> None:
        if self._stop.is_set():
            raise _Stopped

    @property
    def _fd(self) -> int:
        assert self._serial is not None
        return int(self._serial.fileno())

    def _abort(self) -> None:
        """Let the cutter forget all that it has not cut; without handshake, since the cutter may hold the line up."""
        import termios

        if self._serial is None:
            return
        with contextlib.suppress(OSError, termios.error):
            termios.tcflush(self._fd, termios.TCOFLUSH)
            self._serial.xonxoff = False
            data = ABORT + b"PU;SP0;"
            for _ in range(20):
                with contextlib.suppress(BlockingIOError):
                    data = data[os.write(self._fd, data) :]
                if not data:
                    return
                time.sleep(POLL_S / 4)


def _names(blocks: Sequence[Block]) -> tuple[str, ...]:
    return tuple(block.path.name for block in blocks)


def rest_of(program: Program, report_done: Sequence[str], again: Sequence[str] = ()) -> Program:
    """Return a program without the lines that are cut already; ``again`` are in doubt and to be cut once more."""
    skipped = set(report_done) - set(again)
    return replace(program, blocks=tuple(block for block in program.blocks if block.path.name not in skipped))
