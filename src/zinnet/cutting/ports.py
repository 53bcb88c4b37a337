"""Serial ports: which there are, and how one is opened."""

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from zinnet.base.errors import CutError

if TYPE_CHECKING:
    from serial import Serial

Handshake = Literal["software", "hardware", "none"]


@dataclass(frozen=True)
class PortSettings:
    """How a port is opened; ``answer_s`` is how long an answer may take that does not wait for the head."""

    port: str
    baud: int = 9600
    handshake: Handshake = "software"
    answer_s: float = 1.5


def open_port(settings: PortSettings) -> "Serial":
    """Open a port for this program alone. Raises :class:`CutError` that says why where it can't be."""
    import serial

    try:
        return serial.Serial(
            settings.port,
            settings.baud,
            timeout=0,
            xonxoff=settings.handshake == "software",
            rtscts=settings.handshake == "hardware",
            exclusive=True,
        )
    except (serial.SerialException, ValueError, OSError) as error:
        raise CutError(
            f"the port {settings.port} can't be opened ({_plain(error)}); is it plugged in, and yours to use?"
        ) from None


def _plain(error: Exception) -> str:
    text = str(getattr(error, "strerror", None) or error)
    return text.split(":")[0].removeprefix("[Errno 2] ").strip() or type(error).__name__


def ports() -> list[tuple[str, str]]:
    """Return the serial ports of this machine with what is plugged in there."""
    from serial.tools.list_ports import comports

    return sorted((str(port.device), str(port.description or "")) for port in comports())
