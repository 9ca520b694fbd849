"""Small rings within the box: fillets glued to its walls, and a tray."""

from typing import Annotated

from msgspec import Meta, Struct

from peristyle.model.limits import Allowance, Length


class Fillets(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Narrow mitered strips glued to the walls all round, for what lies on them or is held up by them.

    They are `thickness_mm` thick off the wall and `height_mm` high; their tops lie `below_mm` under the rim of the
    body, or under what lies in it.
    """

    thickness_mm: Length = 5.0
    height_mm: Length = 8.0
    below_mm: Allowance = 0.0


class Tray(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A mitered tray that lies on the liner's edge, or on fillets: its walls `thickness_mm` thick, a bottom
    `bottom_mm` thick glued on under them, `height_mm` high over all; `gap_mm` to the box's walls on each side.
    """

    height_mm: Length = 16.0
    thickness_mm: Length = 4.0
    bottom_mm: Length = 3.0
    gap_mm: Annotated[float, Meta(ge=0, le=1000)] = 0.5
