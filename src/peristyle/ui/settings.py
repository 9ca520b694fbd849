"""What the window remembers between starts: theme, decimal mark, recent files."""

from pathlib import Path
from typing import Final

from PySide6.QtCore import QLocale, QSettings

from peristyle.core.lengths import Units

MOST_RECENT: Final = 8


class Settings:
    """A thin, typed face on the settings file."""

    def __init__(self, file: Path) -> None:
        self._file = file
        self._store = QSettings(str(file), QSettings.Format.IniFormat)

    @property
    def trouble(self) -> str:
        """Why settings cannot be kept; empty where they can."""
        self._store.sync()
        return "" if self._store.status() == QSettings.Status.NoError else f"{self._file} cannot be written"

    @property
    def folder(self) -> Path:
        """Where they are kept, and the maker's own tools beside them."""
        return self._file.parent

    def _text(self, key: str, default: str) -> str:
        value = self._store.value(key, default)
        return value if isinstance(value, str) else default

    @property
    def theme(self) -> str:
        """`light`, `dark` or `desktop`."""
        return self._text("theme", "desktop")

    @theme.setter
    def theme(self, choice: str) -> None:
        self._store.setValue("theme", choice)

    @property
    def decimal(self) -> str:
        """The decimal mark."""
        return "," if self._text("decimal", ".") == "," else "."

    @decimal.setter
    def decimal(self, mark: str) -> None:
        self._store.setValue("decimal", mark)

    @property
    def units(self) -> Units:
        """The units a new box begins with: those of the last one, at first those of the country."""
        imperial = QLocale.system().measurementSystem() == QLocale.MeasurementSystem.ImperialUSSystem
        return "in" if self._text("units", "in" if imperial else "mm") == "in" else "mm"

    @units.setter
    def units(self, units: Units) -> None:
        self._store.setValue("units", units)

    @property
    def recent(self) -> list[Path]:
        """Files opened or saved lately, newest first."""
        lines = self._text("recent", "").split("\n")
        return [Path(line) for line in lines if line]

    def remember(self, path: Path) -> None:
        """Put a file at the head of the recent ones."""
        kept = [p for p in self.recent if p != path]
        self._store.setValue("recent", "\n".join(str(p) for p in [path, *kept][:MOST_RECENT]))

    def forget(self, path: Path) -> None:
        """Drop a file that is gone."""
        self._store.setValue("recent", "\n".join(str(p) for p in self.recent if p != path))
