"""The stand-in behind a pseudo-terminal: a thread that reads, lets time pass, and answers; with software handshake."""

import contextlib
import fcntl
import os
import pty
import select
import struct
import termios
import threading
import time
import tty

from zinnet.cutting.stand_in.cutter import StandIn

XON, XOFF = b"\x11", b"\x13"
LOW, HIGH = 256, 512
"""With less free room than the first it asks to wait, with more than the second to go on; in bytes."""
TICK_S = 0.004
SHORT = 32
AT_ONCE = 1e9


class StandInPort:
    """A running stand-in. ``times`` is how much faster than a real cutter it works, None for at once."""

    def __init__(self, cutter: StandIn | None = None, *, times: float | None = 1.0) -> None:
        self.cutter = cutter or StandIn()
        self.times = times
        self.lock = threading.Lock()
        self._master, self._slave = pty.openpty()
        tty.setraw(self._master, termios.TCSANOW)
        tty.setraw(self._slave, termios.TCSANOW)
        os.set_blocking(self._master, False)
        self.name = os.ttyname(self._slave)
        self._waits = False
        self._ends = threading.Event()
        self._thread = threading.Thread(target=self._run, name="stand-in cutter", daemon=True)
        self._thread.start()

    def close(self) -> None:
        """Switch it off."""
        self._ends.set()
        self._thread.join(2)

    def __enter__(self) -> "StandInPort":
        return self

    def __exit__(self, *error: object) -> None:
        self.close()

    @property
    def is_on(self) -> bool:
        """Whether it still runs."""
        return self._thread.is_alive()

    def _run(self) -> None:
        before = time.monotonic()
        try:
            while not self._ends.is_set():
                readable, _, _ = select.select([self._master], [], [], TICK_S)
                if self._waits:
                    time.sleep(TICK_S)
                now = time.monotonic()
                with self.lock:
                    if readable and self._has_room():
                        self._receive()
                    self.cutter.advance(AT_ONCE if self.times is None else (now - before) * self.times)
                    before = now
                    if not self.cutter.has_power:
                        break
                    self._send(self.cutter.answers())
                    self._shake_hands()
        finally:
            for end in (self._slave, self._master):
                with contextlib.suppress(OSError):
                    os.close(end)

    def _has_room(self) -> bool:
        """Tell whether it reads on: while the sender is asked to wait, what it has not sent yet stays in the line.

        A pseudo-terminal hands over at once what a real line would still hold back; a short message gets through.
        """
        if not self._waits:
            return True
        unread = struct.unpack("i", fcntl.ioctl(self._master, termios.FIONREAD, b"\0\0\0\0"))[0]
        return bool(unread <= SHORT)

    def _receive(self) -> None:
        with contextlib.suppress(BlockingIOError, OSError):
            self.cutter.receive(os.read(self._master, LOW // 2))

    def _send(self, data: bytes) -> None:
        while data:
            try:
                data = data[os.write(self._master, data) :]
            except BlockingIOError:
                time.sleep(TICK_S)

    def _shake_hands(self) -> None:
        """Ask the sender to wait while the buffer is nearly full, and to go on when it is not."""
        free = self.cutter.free_bytes
        if not self._waits and free < LOW:
            self._waits = True
            self._send(XOFF)
        elif self._waits and free > HIGH:
            self._waits = False
            self._send(XON)
