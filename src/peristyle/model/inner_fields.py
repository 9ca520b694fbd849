"""The sizes of fillets and tray, as fields with short words before them."""

from typing import Final

from peristyle.model.fields import Field, part_field

FILLETS: Final[tuple[tuple[str, Field], ...]] = tuple(
    (prefix, part_field("fillets", name, label, why, step=0.5))
    for prefix, name, label, why in (
        ("fillets", "thickness_mm", "Fillets", "How far they stand off the wall."),
        ("high", "height_mm", "Fillets' height", "How high they are."),
        ("down", "below_mm", "Fillets down", "How far under the rim, or what lies in it, their tops lie."),
    )
)
TRAY: Final[tuple[tuple[str, Field], ...]] = tuple(
    (prefix, part_field("tray", name, label, why, step=0.5))
    for prefix, name, label, why in (
        ("tray", "height_mm", "Tray height", "Over all, its bottom with it."),
        ("wall", "thickness_mm", "Tray's walls", "How thick they are."),
        ("floor", "bottom_mm", "Tray's bottom", "How thick it is."),
        ("gap", "gap_mm", "Tray's gap", "Room to the box's walls on each side."),
    )
)
