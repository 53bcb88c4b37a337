"""The stand-in cutter without its port: bytes in, answers out, time that is told to it. It can be told to fail."""

import random
from collections import deque
from dataclasses import dataclass, field, replace
from typing import Literal

from zinnet.cutting.hpgl import UNITS_PER_MM
from zinnet.cutting.settings import CutSettings, Outcome
from zinnet.cutting.stand_in.depth import LoadedFilm, depth_um, outcome_of
from zinnet.cutting.stand_in.head import Head, Point
from zinnet.cutting.stand_in.language import Command, Escape, Reader, Unreadable
from zinnet.data import read_toml

FailureKind = Literal["jam", "power", "buffer", "noise", "silence"]
FAILURES: tuple[FailureKind, ...] = ("jam", "power", "buffer", "noise", "silence")
NO_ERROR, GARBLED, OVERFLOW, JAMMED = 0, 15, 16, 20
"""What ``ESC . E`` answers: 15 and 16 are HP-GL's own, of the line and of a full buffer; 20 is this cutter's."""
NOT_UNDERSTOOD = 1
"""What ``OE`` answers after a command that is not recognized (HP-GL error 1)."""
SMOOTH = LoadedFilm(thickness_um=90.0, carrier_um=110.0, hardness=0.84)
"""Smooth film, as in the catalogue."""


@dataclass(frozen=True)
class Failure:
    """What goes wrong, and after how many bytes have come in."""

    kind: FailureKind
    after_bytes: int


@dataclass
class StandIn:
    """A cutter over time. Lengths in mm, y up from the lower left corner of the mat."""

    film: LoadedFilm = SMOOTH
    blade_mm: float = 0.15
    blade_m: float = 0.0
    failure: Failure | None = None
    seed: int = 0
    head: Head = field(default_factory=Head)
    has_power: bool = True
    errors: list[str] = field(default_factory=list)
    bytes_in: int = 0
    _reader: Reader = field(default_factory=Reader)
    _waiting: deque[tuple[Command, int]] = field(default_factory=deque)
    _held: int = 0
    _answers: bytearray = field(default_factory=bytearray)
    _io_error: int = NO_ERROR
    _error: int = 0
    _jammed: bool = False
    _relative: bool = False
    _taken: int = 0

    def __post_init__(self) -> None:
        self._random = random.Random(self.seed)
        self._buffer = int(read_toml("cutting")["stand_in"]["buffer_bytes"])

    # what comes in

    @property
    def free_bytes(self) -> int:
        """How much more the buffer takes."""
        return max(0, self._buffer - self._held - len(self._reader.pending))

    @property
    def is_busy(self) -> bool:
        """Whether the head moves or commands wait."""
        return self.head.is_moving or bool(self._waiting)

    def receive(self, data: bytes) -> None:
        """Take bytes in; what is asked by escape sequences is answered at once."""
        for byte in data:
            self.bytes_in += 1
            if self.failure is not None and self.bytes_in >= self.failure.after_bytes:
                byte = self._fail(self.failure, byte)
            if not self.has_power:
                return
            if byte < 0:
                continue
            if self.free_bytes == 0 and byte != 0x1B and not self._reader.escape:
                self._io_error = OVERFLOW
                continue
            for item in self._reader.feed(bytes([byte])):
                self._take(item)

    def _fail(self, failure: Failure, byte: int) -> int:
        """Let a failure happen; return the byte that gets through, or -1 for none."""
        self.failure = None
        self.errors.append(failure.kind)
        if failure.kind == "jam":
            self._jammed = True
            self._io_error = JAMMED
            self._drop()
        elif failure.kind == "power":
            self.has_power = False
            self._drop()
        elif failure.kind == "buffer":
            self._io_error = OVERFLOW
            return -1
        elif failure.kind == "noise":
            self._io_error = GARBLED
            return byte ^ (1 << self._random.randrange(7))
        elif failure.kind == "silence":
            self._silent = True
        return byte

    _silent: bool = False

    def _drop(self) -> None:
        self._waiting.clear()
        self._held = 0
        self._reader.clear()
        self.head.halt()

    def _take(self, item: Command | Escape | Unreadable) -> None:
        if isinstance(item, Escape):
            self._answer_at_once(item.letter)
        elif isinstance(item, Unreadable):
            self._error = NOT_UNDERSTOOD
        elif not self._jammed:
            size = 4 + 6 * len(item.numbers)
            self._waiting.append((item, size))
            self._held += size

    def _answer_at_once(self, letter: str) -> None:
        if letter == "B":
            self._say(str(self.free_bytes))
        elif letter == "E":
            self._say(str(self._io_error))
            if not self._jammed:
                self._io_error = NO_ERROR
        elif letter == "O":
            self._say("0" if self.is_busy else "8")
        elif letter == "K":
            self._drop()
        elif letter == "R":
            self._drop()
            self._jammed, self._io_error, self._error = False, NO_ERROR, 0

    def answers(self) -> bytes:
        """Return what is to be sent back, once."""
        said = bytes(self._answers)
        self._answers.clear()
        return said

    def _say(self, text: str) -> None:
        if not self._silent:
            self._answers += f"{text}\r".encode()

    # what is done

    def advance(self, seconds: float) -> None:
        """Let time pass."""
        while self.has_power and not self._jammed:
            seconds = self.head.advance(seconds)
            if self.head.is_moving or not self._waiting:
                break
            self._do(self._next())

    def _next(self) -> Command:
        """Take the next command; lines that go on with the knife down are looked ahead to, so that it does not stop."""
        command, size = self._waiting.popleft()
        self._held -= size
        while command.name == "PD" and self._waiting and self._waiting[0][0].name == "PD":
            more, size = self._waiting.popleft()
            self._held -= size
            command = Command("PD", command.numbers + more.numbers)
        return command

    def _do(self, command: Command) -> None:
        name, numbers = command.name, command.numbers
        if name == "IN":
            self.head.lift()
            self._relative = False
        elif name in ("PA", "PR"):
            self._relative = name == "PR"
            self._go(numbers)
        elif name in ("PU", "PD"):
            if name == "PD":
                self.head.lower()
            else:
                self.head.lift()
            self._go(numbers)
        elif name == "VS" and numbers:
            self.head.speed_mm_s = max(1.0, numbers[0] * 10)
        elif name == "FS" and numbers:
            self.head.force_g = max(1.0, numbers[0])
        elif name == "OA":
            x, y = (round(value * UNITS_PER_MM) for value in self.head.at)
            self._say(f"{x},{y},{int(self.head.down)}")
        elif name == "OE":
            self._say(str(self._error))
            self._error = 0
        elif name == "OS":
            self._say(str(16 + 32 * bool(self._error)))
        elif name == "OI":
            self._say("Zinnet stand-in")
        elif name not in ("DF", "SP", "LT", "SC", "IP", "PT"):
            self._error = NOT_UNDERSTOOD

    def _go(self, numbers: tuple[float, ...]) -> None:
        x, y = self.head.at
        points: list[Point] = []
        for a, b in zip(numbers[::2], numbers[1::2], strict=False):
            a, b = a / UNITS_PER_MM, b / UNITS_PER_MM
            x, y = (x + a, y + b) if self._relative else (a, b)
            points.append((x, y))
        self.head.go(points)

    # what becomes of the film

    @property
    def worn_m(self) -> float:
        """How many metres the blade has cut in its life."""
        return self.blade_m + self.head.cut_mm / 1000

    def outcome(self, settings: CutSettings) -> Outcome:
        """Return how a cut with these settings weeds here."""
        return outcome_of(self.film, depth_um(self.film, settings, self.worn_m))

    def put_in(self, film: LoadedFilm, *, new_blade: bool = False) -> None:
        """Load another film; with a new blade if it is to be."""
        self.film = replace(film)
        if new_blade:
            self.blade_m, self.head.cut_mm = 0.0, 0.0

    def reset(self) -> None:
        """Switch it off and on again: it forgets what it was told, and comes to without error."""
        self._drop()
        self._answers.clear()
        self._io_error, self._error = NO_ERROR, 0
        self._jammed = self._silent = self._relative = False
        self.head.at = (0.0, 0.0)

    def new_mat(self) -> None:
        """Take the cut film out: nothing is cut on the next one yet."""
        self.head.strokes.clear()
