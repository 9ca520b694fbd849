"""The usual cautions, each shown at the step that needs it.

All are common practice in the trade, with no published source. They never replace the machine's
manual, local rules or a qualified person, and every list ends by saying so.
"""

from typing import Final

# Lengths as the cautions say them, and where the maker works in inches (common practice).
_IN_INCHES: Final = (("300 mm", "12 in"), ("150 mm", "6 in"))

CAUTIONS: Final[dict[str, str]] = {
    "guard": "Blade guard and riving knife on; blade no higher than its gullets just over the work.",
    "tilt": "A tilted blade traps the offcut: let it fall away free, never between the blade and a stop or fence.",
    "not_through": "This cut does not go through the work: the guard comes off, the riving knife stays at or below "
    "the teeth or comes off as the manual says, featherboards and push blocks stand in. Refit guard and knife after.",
    "miter_guard": "The saw's own guard moving freely, the piece held down by a clamp, hands 150 mm from the blade; "
    "let it stop before it comes up.",
    "stop_clear": "The stop touches the kept piece's long point and is taller than the piece; the offcut lies free.",
    "rip_fence": "The rip fence is never a crosscut stop.",
    "short_piece": "So short a piece goes on a sled with a hold-down, never by hand near the blade.",
    "short_clamp": "Short piece: clamp it to the saw's fence with a backer behind it, and keep your hands 150 mm away.",
    "short_carrier": "So short a piece rides on a carrier with a backing block, never held by the fingers alone.",
    "band_saw": "Guide and guard down to just over the work, fingers out of the line of the blade.",
    "small_piece": "Small triangles and trapezoids by hand saw, or on a sled with a hold-down and both hands behind "
    "it; never pick up an offcut beside a turning blade.",
    "router": "Small passes against the bit's turning; both hands clear of the bit, short pieces on a carrier.",
    "plane_edge": "Clamp the shooting board; fingers behind the edge, never in front of the plane.",
    "bore": "Clamp the work and a backing board; no small piece by hand under the bit, no gloves, no loose sleeves.",
    "on_end": "A piece on end needs a tall fence, a carriage that holds it, and a backing piece.",
    "groove": "Featherboards and a push block; what cuts is buried in the work, keep hands to the side.",
    "rip": "Stand out of line with the board; a push stick for the last 300 mm.",
    "plane": "Take light passes with the grain; short boards ride on a carrier board.",
    "sacrificial": "What cuts at the very edge runs in a sacrificial fence; the waste of a second cut lies free, never "
    "trapped against the fence.",
    "resaw": "Tall board: keep it tight to a tall fence with a featherboard, feed it slowly, and finish with a push "
    "stick, never with your fingers beside the blade.",
    "thin_rip": "A thin strip between blade and fence is thrown back: rip it on the blade's outside, a push stick "
    "behind the work.",
    "edge_tools": "Both hands behind the edge; the work held so that it cannot slip.",
    "dust": "Wood dust is bad to breathe, that of spalted and tropical woods above all: draw it off and wear a mask.",
    "fumes": "Air the room well, and wear a respirator against solvents; never spray in a living room.",
    "air": "Air the room well until the finish is dry.",
    "rags": "Oily rags catch fire by themselves: spread them flat out of doors, or put them in water.",
    "hot_iron": "A hot iron: keep it on its stand between strips, and fingers off the banding until it has cooled.",
    "glue": "Air the room while glue is open; rehearse without glue first.",
    "cradle": "The cradle slides along the fence, or is fixed and the box slides in it: never clamp both. Saw keys "
    "by hand, not on the machine.",
    "on_miter": "A piece on its miter face tips easily: clamp it to a carrier that slides along the fence, hands on "
    "the carrier only.",
    "lid": "Freeing a lid can kick back: wedge the kerf with packing before the last cut.",
    "magnets": "Strong magnets leap together and splinter: keep them apart and away from small children, pacemakers "
    "and cards; never drill or grind them.",
    "manual": "Follow the machine's manual and local rules, and have a qualified person show you an operation that "
    "is new to you.",
}


# The saw goes right through the work; where it does not, the guard cannot stay.
_THROUGH: Final = (
    "rip", "strips", "strip_bevel", "heights", "resaw", "trim", "crosscut", "bevel", "panel", "divider", "segment",
    "foot", "key_stock", "spline_stock", "corner_block", "block", "leaf",
    "lower", "gable", "ledge", "roof_leaf", "board",
)  # fmt: skip
_TO_A_STOP: Final = ("gable", "block", "crosscut", "heights", "bevel", "divider", "segment", "foot")
_SAWS: Final = ("table_saw", "miter_saw")
_OF_TOOL: Final[dict[str, tuple[str, ...]]] = {
    "miter_saw": ("miter_guard",), "chamfer_bit": ("router",), "shooting_board": ("plane_edge",),
    "router_table": ("router",), "drill_press": ("bore",), "band_saw": ("band_saw",), "planer": ("plane",),
    "drum_sander": ("plane",),
}  # fmt: skip
# On these tools what is said of a blade or a bit in a table does not hold.
_BY_THEMSELVES: Final = ("band_saw", "hand_saw", "by_hand", "plow_plane")
_OF_A_TABLE: Final = (
    "lid",
    "keys",
    "groove",
    "dado",
    "rip",
    "strips",
    "strip_bevel",
    "key_stock",
    "spline_stock",
    "spline_groove",
    "rabbet",
    "try_groove",
    "lower",
    "ledge",
    "board",
    "leaf",
    "roof_leaf",
    "corner_block",
    "resaw",
)
_WITH_A_KNIFE: Final = ("key_stock",)  # where it is done by hand
_OF_OPERATION: Final[dict[str, tuple[str, ...]]] = {
    "rip": ("rip",), "strips": ("rip",), "strip_bevel": ("rip",), "resaw": ("resaw",),
    "groove": ("groove",), "rabbet": ("groove", "sacrificial"),
    "panel_set": ("glue",), "panel_flush": ("edge_tools",), "true_edge": ("dust",), "lower": ("rip",),
    "gable": ("small_piece",), "ledge": ("rip", "thin_rip"), "ledge_glue": ("glue",), "plug_glue": ("glue",),
    "lid_notch": ("edge_tools",), "hinge_mortise": ("edge_tools",),
    "hinge_bevel": ("edge_tools",), "plate_recess": ("edge_tools",), "magnet_glue": ("magnets", "glue"),
    "board": ("rip",), "strip_glue": ("glue",), "strip_flush": ("edge_tools",),
    "lid_fix": ("glue",), "roof_leaf": ("rip",), "roof_fix": ("glue",),
    "try_groove": ("groove",),
    "dado": ("groove",), "keys": ("cradle",), "lid": ("lid",),
    "leaf": ("rip",), "leaf_glue": ("glue", "edge_tools"),
    "segment": ("small_piece",), "foot": ("small_piece",), "liner_fit": ("glue",),
    "fillet_glue": ("glue",), "tray_glue": ("glue",), "tray_fit": ("glue",), "key_stock": ("rip", "thin_rip"),
    "spline_stock": ("small_piece", "thin_rip"), "spline_groove": ("groove", "on_miter"),
    "segment_groove": ("groove", "on_miter", "small_piece"),
    "corner_block": ("rip", "thin_rip"), "corner_block_glue": ("glue",),
    "glue": ("glue",), "segment_glue": ("glue",), "foot_glue": ("glue",), "key_glue": ("glue",),
    "band_cut": ("edge_tools",), "band": ("glue", "hot_iron", "edge_tools"),
    "key_flush": ("edge_tools",), "rough_sand": ("dust",), "level": ("dust",), "true_lid": ("dust",),
    "finish_inside": ("dust", "fumes", "rags"), "finish": ("dust", "fumes", "rags"),
}  # fmt: skip


def cautions_of(
    operation: str,
    tool: str,
    *,
    tilted: bool = False,
    on_end: bool = False,
    short: bool = False,
    thin: bool = False,
) -> tuple[str, ...]:
    """The keys of the cautions for an operation on a tool: that of the tool, of the cut, of how the piece lies.

    `on_end` is said of a piece on its end or its edge, `short` of one that is not to be held by hand, `thin` of a
    strip that lies between blade and fence and is too narrow for a push stick beside the guard.
    """
    found = list(_OF_TOOL.get(tool, ()))
    if tool == "table_saw":
        found.append("guard" if operation in _THROUGH else "not_through")
    if not (tool in _BY_THEMSELVES and operation in _OF_A_TABLE):
        found += _OF_OPERATION.get(operation, ())
    elif tool == "by_hand" and operation in _WITH_A_KNIFE:
        found.append("edge_tools")
    if thin and tool == "table_saw":
        found.append("thin_rip")
    if tool in _SAWS:
        found += ["tilt"] if tilted and operation in _THROUGH else []
        # A bevel cut on end has no stop for its length.
        found += ["stop_clear"] if operation in _TO_A_STOP and not (on_end and operation == "bevel") else []
        found += ["rip_fence"] if tool == "table_saw" and "stop_clear" in found else []
        found += ["on_end"] if on_end else []
    if tool in ("hand_saw", "plow_plane"):
        found = [key for key in found if key not in ("small_piece", "thin_rip", "rip")] + ["edge_tools"]
    elif short:
        known = {"miter_saw": "short_clamp", "table_saw": "short_piece"}
        found.append(known.get(tool, "short_carrier"))
    return (*dict.fromkeys(found), "manual")


def caution(key: str, units: str) -> str:
    """One caution in the maker's own units; a figure and its unit are not parted where a line ends."""
    text = CAUTIONS[key]
    for mm, inches in _IN_INCHES:
        text = text.replace(mm, (inches if units == "in" else mm).replace(" ", "\u202f"))
    return text
