"""The finished boxes that ship with Peristyle."""

from pathlib import Path
from typing import Final

from peristyle.model.job import Job
from peristyle.storage.codec import decode

FIRST: Final = "Star-chart box"
_FILES: Final = {
    "Star-chart box": "star-chart-box.peristyle",
    "Eyepiece caddy": "eyepiece-caddy.peristyle",
    "Filter tray": "filter-tray.peristyle",
    "Ticket box": "ticket-box.peristyle",
    "Specimen box": "specimen-box.peristyle",
    "Key house": "key-house.peristyle",
    "Weights case": "weights-case.peristyle",
    "Aurora box": "aurora-box.peristyle",
    "Lamp boxes": "lamp-boxes.peristyle",
    "Log-book coffer": "log-book-coffer.peristyle",
}


def names() -> tuple[str, ...]:
    """What the examples are called."""
    return tuple(_FILES)


def load(name: str) -> Job:
    """One example as a design."""
    file = Path(__file__).parents[1] / "demo" / _FILES[name]
    return decode(file.read_bytes(), _FILES[name])
