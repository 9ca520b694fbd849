"""The usual cautions, each shown at the step that needs it.

All are common practice in the trade, with no published source. They never replace the machine's
manual, local rules or a qualified person, and every list ends by saying so.
"""

from typing import Final

_SHORT: Final = "300 mm"  # as the cautions say it; 12 in where the maker works in inches (common practice)

CAUTIONS: Final[dict[str, str]] = {
    "guard": "Blade guard and riving knife on; blade no higher than its gullets just over the work.",
    "tilt": "A tilted blade traps the offcut: let it fall away free, "
    "never between the blade and a stop or fence.",
    "stop_clear": "Set the stop so that the offcut is clear of it; the stop sits behind the work.",
    "short_piece": "Pieces under about 300 mm go on a sled with a hold-down, never by hand near the blade.",
    "small_piece": "Small triangles and trapezoids by hand saw, or on a sled with a hold-down and both hands "
    "behind it; never pick up an offcut beside a turning blade.",
    "router": "Small passes against the bit's turning; both hands clear of the bit, short pieces on a carrier.",
    "plane_edge": "Clamp the shooting board; fingers behind the edge, never in front of the plane.",
    "bore": "Clamp the work and a backing board; no small piece by hand under the bit, no gloves, no loose sleeves.",
    "on_end": "A piece on end needs a tall fence, a carriage that holds it, and a backing piece.",
    "groove": "Featherboards and a push block; the blade is buried, keep hands to the side.",
    "rip": "Stand out of line with the board; a push stick for the last 300 mm.",
    "plane": "Take light passes with the grain; short boards ride on a carrier board.",
    "glue": "Air the room while glue is open; rehearse without glue first.",
    "cradle": "Clamp the box in its cradle and the cradle to its fence; saw keys by hand, not on the machine.",
    "lid": "Freeing a lid can kick back: wedge the kerf with packing before the last cut.",
    "manual": "Follow the machine's manual and local rules, "
    "and have a qualified person show you an operation that is new to you.",
}


def caution(key: str, units: str) -> str:
    """One caution in the maker's own units."""
    return CAUTIONS[key].replace(_SHORT, "12 in") if units == "in" else CAUTIONS[key]
