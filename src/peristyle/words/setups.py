"""What is said of set-ups: what each check is, how it is done, what is read, what came of it."""

from typing import Final

from peristyle.core.lengths import Format
from peristyle.core.setups import Result
from peristyle.model.job import SetUp, SetUpKind
from peristyle.words.reading import fill

NAMES: Final[dict[SetUpKind, str]] = {
    "tilt_pair": "tilt, by two scraps against a square", "tilt_ring": "tilt, by a ring of scraps",
    "five_cut": "swing, by five cuts", "stop": "stop, and how well it repeats", "scale": "length scale",
    "kerf": "kerf, by a sum of cuts", "gauge": "digital gauge, zeroed on the table",
    "width": "bit or dado set, as it cuts", "runner": "play of a runner",
}  # fmt: skip
HOW: Final[dict[SetUpKind, str]] = {
    "tilt_pair": "Two scraps cut with the scale at 45° itself, not at what a step says; held together against a "
    "square. They show twice the blade’s error: read the angle they make, 90° where all is well. What is found takes "
    "the place of what was found before.",
    "tilt_ring": "A ring of scraps cut with the scale at their bevel itself, not at what a step says; every joint but "
    "the last tight. The last shows the error of all their bevels together: measure its gap inside (below 0 where it "
    "is open outside) and the joint’s face. What is found takes the place of what was found before.",
    "five_cut": "A board cut on four sides, each time the last cut’s edge against the fence; the fifth cut leaves a "
    "strip. "
    "Measure the strip at its far end and at the fence, its length, and from the fence’s pivot to the screw it is "
    "moved at. "
    "Then loosen all screws but one, nudge it, and tighten.",
    "stop": "A few pieces cut at one stop: what its scale was set to, and each piece.",
    "scale": "Two settings far apart, and a piece cut at each.",
    "kerf": "A board measured, cut into pieces, the pieces measured: what is gone, by the number of cuts.",
    "gauge": "The gauge laid on the table, and zeroed there where it can be: what it shows then.",
    "width": "A groove or two cut in scrap, measured.",
    "runner": "The sled pushed to one side and the other: how far its end moves, over the runner’s length.",
}
READS: Final[dict[str, str]] = {
    "pair_deg": "angle of the pair", "count": "scraps", "gap_mm": "gap inside", "face_mm": "joint’s face",
    "far_mm": "strip, far end", "near_mm": "strip, at the fence", "length_mm": "length", "screw_mm": "pivot to screw",
    "set_mm": "set to", "piece_mm": "piece", "before_mm": "board before", "cuts": "cuts", "shown_deg": "shown",
    "cut_mm": "groove", "play_mm": "play",
}  # fmt: skip


def result(kind: SetUpKind, found: Result, fmt: Format) -> str:
    """What a check found, and what to do about it."""
    off = found.off
    numbers = {"off_deg": abs(off), "off_mm": abs(off), "is_mm": off, "move_mm": abs(found.move_mm or 0.0),
               "turn_deg": found.spread or 0.0}  # fmt: skip
    way = "more" if off > 0 else "less"
    names = {"way": way, "toward": "forward" if (found.move_mm or 0.0) > 0 else "back"}
    if kind in ("kerf", "width"):
        text = "It cuts {is_mm:3}."
    elif kind == "runner":
        text = "Its play lets the sled turn {turn_deg:3} either way."
    elif abs(off) < 0.005:
        text = "The scale says what is true."
    elif kind == "scale":
        text = "Of 1000 mm the scale says {off_mm:2} {way}."
    elif kind == "five_cut":
        text = "It is off by {off_deg:3}: move the fence’s end {toward} by {move_mm:3} at its screw."
    elif kind == "stop":
        text = "The stop says {off_mm:2} {way} than it cuts."
    else:
        text = "The scale says {off_deg:3} {way} than is true."
    told = fill(text, fmt, numbers, names)
    if found.spread is not None and kind in ("stop", "width"):
        told += fill(" It repeats to {spread_mm:3} (one deviation).", fmt, {"spread_mm": found.spread}, {})
    return told


def line(one: SetUp, fmt: Format) -> str:
    """A check that was kept, in a line."""
    tool = one.tool or "the saw"
    told = result(one.kind, Result(one.off, one.spread), fmt)
    return f"{one.when[:16].replace('T', ' ')}  {tool}: {NAMES[one.kind]}. {told}"
