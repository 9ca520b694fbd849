"""What is wrong or worth knowing about a plan, why it matters, by how much, and what would mend it."""

from collections.abc import Callable
from typing import Any, Final, Literal

from msgspec import Struct

from peristyle.core.lengths import Format
from peristyle.model.design import Design, corner_name, side_name
from peristyle.model.job import Job

Severity = Literal["stop", "caution", "note"]
PlaceKind = Literal["ring", "side", "corner", "board", "section", "keys"]

SEVERITY_WORDS: Final[dict[Severity, str]] = {
    "stop": "Cannot be built so",
    "caution": "Take care",
    "note": "Good to know",
}


class Place(Struct, frozen=True):
    """Where a finding sits: a stage of the work, or one side or corner of it."""

    kind: PlaceKind
    index: int | None = None
    count: int = 0

    @property
    def text(self) -> str:
        """The place in words: `side B`, `corner AB`, `board`."""
        if self.index is None:
            return self.kind
        if self.kind == "side":
            return f"side {side_name(self.index)}"
        return f"corner {corner_name(self.index, self.count)}"


class Fix(Struct, frozen=True):
    """One way to mend a finding: words for the button, and the edit."""

    label: str
    apply: Callable[[Job], Job]


class Finding(Struct, frozen=True):
    """One finding. `numbers` are in mm and degrees, unrounded; `text` is in the maker's units."""

    code: str
    severity: Severity
    place: Place
    text: str
    numbers: dict[str, float] = {}
    fixes: tuple[Fix, ...] = ()

    def as_dict(self) -> dict[str, Any]:
        """The finding as the plan's JSON has it."""
        return {
            "code": self.code,
            "severity": self.severity,
            "where": self.place.text,
            "text": self.text,
            "numbers": dict(self.numbers),
            "fixes": [fix.label for fix in self.fixes],
        }


def reader(design: Design) -> Format:
    """How lengths read in this design's texts."""
    return Format(design.units)
