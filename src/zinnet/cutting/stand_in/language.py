"""Reading HP-GL as it comes in, byte by byte: commands, and the escape sequences that are answered at once."""

from collections.abc import Iterator
from dataclasses import dataclass, field

ESCAPE = 0x1B
LETTERS = frozenset(b"ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz")
IMMEDIATE = b"BEKOR"
"""What may follow ``ESC .``: free buffer, error, abort, status, reset (HP-GL's device control)."""


@dataclass(frozen=True)
class Command:
    """One command: its two letters and its numbers."""

    name: str
    numbers: tuple[float, ...]


@dataclass(frozen=True)
class Escape:
    """A request that does not wait its turn: ``ESC .`` and a letter."""

    letter: str


@dataclass(frozen=True)
class Unreadable:
    """Something that is no command."""

    text: str


@dataclass
class Reader:
    """What has come in so far of a command that is not complete yet."""

    pending: bytearray = field(default_factory=bytearray)
    escape: bytearray = field(default_factory=bytearray)

    def feed(self, data: bytes) -> Iterator[Command | Escape | Unreadable]:
        """Yield what is complete: commands end with a semicolon, or where the next one begins."""
        for byte in data:
            if self.escape or byte == ESCAPE:
                self.escape.append(byte)
                if len(self.escape) == 3:
                    letter = chr(self.escape[2])
                    known = self.escape[1] == ord(".") and self.escape[2] in IMMEDIATE
                    yield Escape(letter) if known else Unreadable(f"ESC {letter}")
                    self.escape.clear()
            elif byte == ord(";"):
                yield from self._complete()
            elif byte in LETTERS and len(self.pending) > 2:
                yield from self._complete()
                self.pending.append(byte)
            elif byte in LETTERS or (self.pending and byte not in b"\r\n"):
                self.pending.append(byte)
            elif byte not in b" \r\n\t":
                yield Unreadable(chr(byte))

    def clear(self) -> None:
        """Forget what is not complete."""
        self.pending.clear()

    def _complete(self) -> Iterator[Command | Unreadable]:
        text = self.pending.decode("latin-1").strip()
        self.pending.clear()
        if not text:
            return
        try:
            numbers = tuple(float(part) for part in text[2:].replace(" ", ",").split(",") if part)
        except ValueError:
            yield Unreadable(text)
            return
        yield Command(text[:2].upper(), numbers)
