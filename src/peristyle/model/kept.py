"""Hardware the maker keeps in the shop: measured once, taken for any box."""

from typing import Any, Final, Literal, get_args

from msgspec import Struct

from peristyle.model.design import Brackets, Handle, Hinges, Latch, Magnets, replace
from peristyle.model.limits import Name

HardwareName = Literal["hinges", "magnets", "latch", "brackets", "handle"]
HARDWARE: Final[dict[HardwareName, type]] = {
    "hinges": Hinges, "magnets": Magnets, "latch": Latch, "brackets": Brackets, "handle": Handle,
}  # fmt: skip
MOST_KEPT: Final = 60
# Where it goes and how many there are belongs to the box, not to what is kept.
_OF_THE_BOX: Final = ("count", "inset_mm", "side", "at", "on")


class Kept(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """One kind of hardware with its sizes, by the maker's name for it: the first of these that there is."""

    name: Name = "Hardware"
    hinges: Hinges | None = None
    magnets: Magnets | None = None
    latch: Latch | None = None
    brackets: Brackets | None = None
    handle: Handle | None = None

    @property
    def what(self) -> HardwareName:
        """What it is."""
        return next((name for name in get_args(HardwareName) if getattr(self, name) is not None), "hinges")

    @property
    def part(self) -> Any:
        """Its sizes; those of a hinge to begin with, where nothing was given."""
        return getattr(self, self.what) or Hinges()


def kept_as(name: str, what: HardwareName, part: Any) -> Kept:
    """Hardware of a box, kept under a name."""
    given: Any = {what: part}
    return Kept(name=name, **given)


def sizes(part: Any) -> dict[str, Any]:
    """What of a part is its own, wherever it goes."""
    return {name: getattr(part, name) for name in part.__struct_fields__ if name not in _OF_THE_BOX}


def taken(kept: Kept, now: Any) -> Any:
    """A part with the sizes that are kept; where it goes stays as it was, if there was one."""
    if now is None:
        return kept.part
    placed = {name: getattr(now, name) for name in now.__struct_fields__ if name in _OF_THE_BOX}
    made: Any = replace(kept.part, **placed)
    return made


def name_of(kept: tuple[Kept, ...], what: HardwareName, part: Any) -> str | None:
    """Under which name a part's sizes are kept, if they are."""
    if part is None:
        return None
    own = sizes(part)
    return next((one.name for one in kept if one.what == what and sizes(one.part) == own), None)
