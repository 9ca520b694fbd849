"""What is said of the sled: its parts and how it is made, in order."""

from collections.abc import Iterator
from typing import Final

from peristyle.core.lengths import Format
from peristyle.planning.sled import Sled, SledPart
from peristyle.words.reading import fill

_PARTS: Final = {
    "base": "base, sheet", "edge": "edge strip, sheet", "runner": "runner, straight hardwood",
    "layer": "layer of the fence, sheet", "shield": "shield behind the fence", "stop": "stop",
    "hold": "hold-down, an arm over the stop",
}  # fmt: skip
_STEPS: Final = (
    "Measure your table: the slot {slot_wide_mm:2} wide, its middle {slot_mm:1} from the blade. If it is otherwise, "
    "change its sizes first (shop.table).",
    "Plane the runner to slide in the slot without play, {runner_mm:1} deep, so that it does not touch its floor.",
    "{cut_base}",
    "{lay} Glue, and three countersunk screws down into the runner, {slot_mm:1} from the blade.",
    "{trim}",
    "Glue the fence of its two layers, {cut_fence_mm:0} long and {fence_high_mm:0} high, flat against each other; "
    "straight when dry. A notch of {foot_mm:0} × {foot_mm:0} along the foot of its face lets dust out; a groove along "
    "its back, {clamp_mm:0} over the table, holds the heads of clamps.",
    "Screw the fence down from below: its face {fence_y_mm:0} from the base’s front edge, its end {past_mm:0} past the "
    "blade’s line at the table: the first cut trims it. The first screw, the pivot, {first_mm:0} from that line: "
    "nearer, {near}. The other {last_mm:0} from the line, in a hole that is long, so that the fence can be nudged.",
    "{swing}",
    "The shield behind the fence, reaching over where the blade comes out. Its screws no nearer to the blade’s line "
    "than {first_mm:0}.",
    "The stop: a block screwed to the fence behind the piece, where the load comes, with a hold-down over it. It takes "
    "pieces {range}; the hold-down keeps fingers away from the short ones.",
    "Tune it: five cuts round a board, with {arm_mm:1} from pivot to screw (Set-ups: “swing, by five cuts”). Then the "
    "tilt, by a ring of scraps.",
)
# What of it is done when, in a calendar.
MAKING: Final = {
    "sled_runner": "Sled: plane the runner", "sled_base": "Sled: cut the base and the fence’s layers",
    "sled_lay": "Sled: glue the runner under the base", "sled_fence": "Sled: glue the fence",
    "sled_trim": "Sled: trim the base with the tilted blade",
    "sled_screw": "Sled: screw down fence, shield and stop", "sled_tune": "Sled: tune it by five cuts and scraps",
}  # fmt: skip
_CAUTIONS: Final = (
    "Pull the plug before you measure or change anything at the blade.",
    "The blade no higher than it must be: {needed_mm:0} along itself, at {tilt_deg}. Never reach over the sled; both "
    "hands behind the fence, or at the hold-down, well away from the blade’s line.",
    "The offcut lies free beside the blade: nothing stands on its other side, and it is left alone until the blade "
    "stands.",
    "Follow the machine’s manual and local rules, and have a qualified person show you an operation that is new to "
    "you.",
)


def part(one: SledPart, fmt: Format) -> str:
    """A part with its sizes."""
    sizes = " × ".join(fmt.length(v) for v in (one.length_mm, one.width_mm))
    sizes += f" × {fmt.length(one.thickness_mm, unit=True)}"
    return f"{one.count} × {_PARTS[one.key]}: {sizes}"


def steps(made: Sled, fmt: Format) -> Iterator[str]:
    """How it is made, step by step."""
    for text in _STEPS:
        told = fill(text, fmt, made.numbers, _names(made, fmt)).strip()
        if told:
            yield told


def cautions(made: Sled, fmt: Format) -> Iterator[str]:
    """What to mind at the saw."""
    for text in _CAUTIONS:
        yield fill(text, fmt, made.numbers, {})


def _names(made: Sled, fmt: Format) -> dict[str, str]:
    """Sentences that hang on how many tilts there are, which way the blade leans, and whether the fence swings."""
    tilts = ", ".join(fmt.angle(tilt) for tilt in made.tilts_deg)
    over = "it leans over the base" if made.over else "it leans away from the base"
    if made.several:
        base = (
            "Cut the base {base_cut_mm:0} × {depth_mm:0}, square, and an edge strip for each tilt ({tilts}): it lies "
            "against the base’s edge, held to it by dowels without glue, so that strips can be exchanged."
        )
        lay = (
            "Lay the runner in the slot, the base on it, its edge {base_edge_mm:0} from the line of the lowered blade "
            "and parallel to it."
        )
        trim = (
            "For each tilt: put its strip in, tilt the blade ({over}), raise it {needed_mm:0} along itself at the "
            "steepest, less at others, and push the sled through once. Write the tilt on the strip: its edge is the "
            "line of that cut, and of no other."
        )
        near = "it would hold the strip that is exchanged"
    else:
        base = "Cut the base {rough_mm:0} × {depth_mm:0}, square."
        lay = (
            "Lay the runner in the slot, the base on it, its edge standing {spare_mm:0} past the line of the lowered "
            "blade and parallel to it."
        )
        trim = (
            "Tilt the blade to {tilt_deg} ({over}), raise it {needed_mm:0} along itself, and push the sled through "
            "once: its edge is now the line of the cut. It is true for this tilt and no other."
        )
        near = "the tilted blade would come too close"
    swing = (
        "The sides lean: the fence swings {swing_deg} to either side about the pivot, its far end by {turned_mm:0}: a "
        "long hole, and a line drawn for each. Square is a third."
        if made.swing_deg > 0.005
        else ""
    )
    alike = made.numbers["longest_mm"] - made.numbers["shortest_mm"] < 0.05
    span = "of {longest_mm:1}" if alike else "from {shortest_mm:1} to {longest_mm:1}"
    names = {"tilts": tilts, "over": over}
    told = {"cut_base": base, "lay": lay, "trim": trim, "near": near, "swing": swing, "range": span}
    return {key: fill(text, fmt, made.numbers, names) for key, text in told.items()}
