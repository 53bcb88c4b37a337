"""A word on the desktop, by its own service, for whoever has left the window."""

from PySide6.QtDBus import QDBusConnection, QDBusMessage

SERVICE = "org.freedesktop.Notifications"
PATH = "/org/freedesktop/Notifications"
SHOWN_MS = 15_000


def notify(title: str, text: str) -> bool:
    """Show a word on the desktop without waiting for it; return whether there is anything to ask."""
    bus = QDBusConnection.sessionBus()
    if not bus.isConnected():
        return False
    call = QDBusMessage.createMethodCall(SERVICE, PATH, SERVICE, "Notify")
    call.setArguments(["Zinnet", 0, "", title, text, [], {}, SHOWN_MS])
    return bool(bus.send(call))
