"""What is wrong or worth knowing about a plan, by how much, and what would mend it: all of it as data."""

from typing import Any, Final, Literal

from msgspec import Struct

from peristyle.core.lengths import Format
from peristyle.model.design import Design, Shape, corner_name, side_name

Severity = Literal["stop", "caution", "note"]
WEIGHT: Final[dict[str, int]] = {"stop": 0, "caution": 1, "note": 2}  # the gravest first
PlaceKind = Literal["ring", "side", "corner", "board", "section", "keys", "fit"]
Change = tuple[str, Any]


class Place(Struct, frozen=True):
    """Where a finding sits: a stage of the work, or one side or corner of it."""

    kind: PlaceKind
    index: int | None = None
    count: int = 0

    @property
    def text(self) -> str:
        """The place as it is named: `side B`, `corner AB`, `board`."""
        if self.index is None:
            return self.kind
        if self.kind == "side":
            return f"side {side_name(self.index)}"
        return f"corner {corner_name(self.index, self.count)}"


class Fix(Struct, frozen=True):
    """One way to mend a finding: which values to set at which addresses, in this order. `key` is that of its words."""

    key: str
    changes: tuple[Change, ...]
    numbers: dict[str, float] = {}
    names: dict[str, str] = {}


class Finding(Struct, frozen=True):
    """One finding. `numbers` are in mm and degrees, unrounded; `names` are letters, names and keys of words.

    `kind` tells apart findings of one code that are said otherwise; `more` are the keys of what is said besides.
    """

    code: str
    severity: Severity
    place: Place
    numbers: dict[str, float] = {}
    fixes: tuple[Fix, ...] = ()
    names: dict[str, str] = {}
    kind: str = ""
    more: tuple[str, ...] = ()


def part_changes(place: str, old: Any, new: Any) -> tuple[Change, ...]:
    """What differs between two values of one part, by address."""
    return tuple(
        (f"{place}.{name}", getattr(new, name))
        for name in new.__struct_fields__
        if getattr(old, name) != getattr(new, name)
    )


def shape_changes(old: Shape, new: Shape) -> tuple[Change, ...]:
    """What differs between two shapes of one kind, by address."""
    return part_changes("form", old, new)


def reader(design: Design) -> Format:
    """How lengths are rounded for this design: what is proposed must read as it is."""
    return Format(design.units)


EQUAL_COMPARTMENTS: Final = Fix(
    "equal_compartments", (("inside.dividers.widths_mm", ()), ("inside.dividers.depths_mm", ()))
)
