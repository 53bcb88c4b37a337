"""Zinnet among the desktop's programs: its entry, icon, kind of file, man page and completion in the data folder."""

import os
import shutil
import subprocess
from pathlib import Path

from zinnet.base.files import write_whole
from zinnet.data import read_bytes

APP = "page.zinnet.zinnet"
PLACES = {
    f"{APP}.desktop": f"applications/{APP}.desktop",
    f"{APP}.metainfo.xml": f"metainfo/{APP}.metainfo.xml",
    f"{APP}.mime.xml": f"mime/packages/{APP}.xml",
    f"{APP}.svg": f"icons/hicolor/scalable/apps/{APP}.svg",
    "zinnet.1": "man/man1/zinnet.1",
}
"""The files that ship with Zinnet, and where each belongs below a data folder."""
COMPLETION = "bash-completion/completions/zinnet"
REFRESH = (("update-desktop-database", "applications"), ("update-mime-database", "mime"))


def data_home() -> Path:
    """Return the user's data folder, by the XDG Base Directory Specification."""
    said = os.environ.get("XDG_DATA_HOME", "")
    return Path(said) if said.startswith("/") else Path.home() / ".local" / "share"


def put_among_programs(program: str, folder: Path | None = None) -> list[Path]:
    """Write the files below a data folder, the entry starting ``program``; return them."""
    folder = folder or data_home()
    written = []
    for name, place in PLACES.items():
        data = read_bytes("desktop", name)
        if name.endswith(".desktop"):
            data = data.replace(b"Exec=zinnet ", f"Exec={_quoted(program)} ".encode())
        written.append(write_whole(folder / place, data))
    written.append(write_whole(folder / COMPLETION, completion().encode()))
    _refresh(folder)
    return written


def take_out(folder: Path | None = None) -> list[Path]:
    """Remove the files again; return those that were there."""
    folder = folder or data_home()
    found = [path for place in (*PLACES.values(), COMPLETION) if (path := folder / place).exists()]
    for path in found:
        path.unlink()
    _refresh(folder)
    return found


def completion() -> str:
    """Return the completion of commands and options for bash."""
    import typer.completion

    make = typer.completion.get_completion_script  # type: ignore[attr-defined]
    return str(make(prog_name="zinnet", complete_var="_ZINNET_COMPLETE", shell="bash"))


def _quoted(program: str) -> str:
    """Return a program as the Desktop Entry Specification has it quoted."""
    if not any(letter in program for letter in " \"'\\`$"):
        return program
    escaped = "".join(f"\\{letter}" if letter in '"`$\\' else letter for letter in program)
    return f'"{escaped}"'


def _refresh(folder: Path) -> None:
    """Let the desktop know, where its tools are at hand."""
    for tool, below in REFRESH:
        found = shutil.which(tool)
        if found is not None and (folder / below).is_dir():
            subprocess.run([found, str(folder / below)], check=False, capture_output=True)
