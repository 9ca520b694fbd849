"""Adding Peristyle to the user's desktop: menu entry, icon, file type, store metadata."""

import os
import shutil
import subprocess
import sys
from importlib import resources
from pathlib import Path
from typing import Final

from peristyle.core.errors import PeristyleError

ID: Final = "org.peristyle.Peristyle"
_PLACES: Final = {
    f"{ID}.desktop": "applications",
    f"{ID}.svg": "icons/hicolor/scalable/apps",
    f"{ID}.metainfo.xml": "metainfo",
    "peristyle-mime.xml": "mime/packages",
}


def _home() -> Path:
    data = os.environ.get("XDG_DATA_HOME")
    return Path(data) if data else Path.home() / ".local" / "share"


def _refresh(home: Path) -> None:
    """Tell the desktop, where the tools for it are there; it notices by itself later if not."""
    for command in (
        ["update-desktop-database", str(home / "applications")],
        ["update-mime-database", str(home / "mime")],
    ):
        if shutil.which(command[0]):
            subprocess.run(command, check=False, capture_output=True)


def _command() -> str:
    """How to start Peristyle from the menu: the installed script, else this Python."""
    script = Path(sys.executable).with_name("peristyle")
    return f'"{script}"' if script.exists() else f'"{sys.executable}" -m peristyle'


def install() -> list[str]:
    """Copy the files into place for this user; what was written, a line each."""
    home, lines = _home(), []
    source = resources.files("peristyle").joinpath("data", "desktop")
    try:
        for name, folder in _PLACES.items():
            text = source.joinpath(name).read_text(encoding="utf-8")
            if name.endswith(".desktop"):
                # The menu must find it where it is installed, which need not be on the path.
                text = text.replace("TryExec=peristyle\n", "").replace("Exec=peristyle", f"Exec={_command()}")
            target = home / folder / name
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_text(text, encoding="utf-8")
            lines.append(f"installed {target}")
    except OSError as error:
        raise PeristyleError(f"Cannot write into {home}: {error.strerror}. Check its permissions.") from error
    _refresh(home)
    return lines


def remove() -> list[str]:
    """Take the files out again; what was removed, a line each."""
    home, lines = _home(), []
    for name, folder in _PLACES.items():
        target = home / folder / name
        if target.exists():
            target.unlink()
            lines.append(f"removed {target}")
    _refresh(home)
    return lines or ["nothing was installed"]
