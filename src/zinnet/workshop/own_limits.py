"""The user's own limits in a TOML file of the configuration folder."""

from pathlib import Path

import platformdirs

from zinnet.base.errors import SettingsError
from zinnet.base.files import write_whole
from zinnet.base.own_toml import read_own_toml
from zinnet.data.limits import OwnLimits, own_limits


def limits_file() -> Path:
    """Return where the user's own limits lie."""
    return platformdirs.user_config_path("zinnet") / "limits.toml"


def read_limits(path: Path | None = None) -> OwnLimits:
    """Return the user's limits. Raises :class:`SettingsError` where the file can't be made sense of."""
    path = path or limits_file()
    return own_limits(read_own_toml(path), str(path)) if path.exists() else ()


def set_limit(name: str, value: float | None, path: Path | None = None) -> None:
    """Set a limit, or take the usual one again where ``value`` is None; written whole or not at all."""
    import tomli_w

    path = path or limits_file()
    own = dict(read_limits(path))
    own.pop(name, None)
    if value is not None:
        own[name] = value
    said: dict[str, dict[str, float]] = {}
    for each, number in own.items():
        section, _, row = each.partition(".")
        said.setdefault(section, {})[row] = number
    own_limits(said, "Nothing was written")
    write_whole(path, tomli_w.dumps(said).encode(), error=SettingsError)
