"""Keeping the screen on while somebody stands at the bench, by the desktop's own service."""

from PySide6.QtDBus import QDBusConnection, QDBusInterface, QDBusMessage

SERVICE = "org.freedesktop.ScreenSaver"
PATH = "/org/freedesktop/ScreenSaver"


class Awake:
    """Holds the screen awake from :meth:`hold` to :meth:`release`; where there is no such service it does nothing."""

    def __init__(self) -> None:
        self._cookie: object = None

    @property
    def is_held(self) -> bool:
        """Whether the screen is held awake."""
        return self._cookie is not None

    def hold(self, reason: str) -> None:
        """Keep the screen on."""
        if self._cookie is None:
            answer = self._call("Inhibit", "zinnet", reason)
            arguments = answer.arguments() if answer is not None else []
            self._cookie = arguments[0] if arguments else None

    def release(self) -> None:
        """Let the screen sleep again."""
        if self._cookie is not None:
            self._call("UnInhibit", self._cookie)
            self._cookie = None

    def _call(self, method: str, *arguments: object) -> QDBusMessage | None:
        bus = QDBusConnection.sessionBus()
        if not bus.isConnected():
            return None
        service = QDBusInterface(SERVICE, PATH, SERVICE, bus)
        if not service.isValid():
            return None
        service.setTimeout(500)
        answer = service.call(method, *arguments)
        return answer if answer.type() == QDBusMessage.MessageType.ReplyMessage else None
