"""What strengthens the corners, in words: what there is, its settings, its strength, what keeps keys out."""

from collections.abc import Sequence
from typing import Final

from peristyle.core.lengths import Format
from peristyle.planning.corners.keep_outs import KeepOut
from peristyle.planning.corners.key_stock import Times, cutting_of, from_strip, strip_for, times_of
from peristyle.planning.corners.keys import KeyPlan, KeySet, KeySetting
from peristyle.planning.corners.strength import Glued
from peristyle.planning.plan import Plan
from peristyle.words.reading import counted

KINDS: Final = {"straight": "straight keys", "veneer": "veneer keys", "dovetail": "dovetail keys"}
SCHOOLS: Final = {
    "none": "miter alone", "straight": "straight keys", "veneer": "veneer keys", "dovetail": "dovetail keys",
    "spline": "splines", "block": "corner blocks",
}  # fmt: skip
_OUTS: Final = {
    "lid line": "lid line", "bottom edge": "bottom edge", "top edge": "top edge", "groove": "groove",
    "rabbet": "rabbet", "dado": "divider's dado", "opening": "opening", "spline_groove": "spline",
    "lowered": "lowered rim", "gable": "gable's slope", "mortise": "hinge", "pocket": "magnet",
    "pilot": "screw", "recess": "plate let in", "hinge_bore": "hinge",
    "edge": "profile", "inlay": "inlay",
    "moulding": "moulding", "bore": "handle's screw",
}  # fmt: skip
_BATCH: Final = 10  # boxes that a batch's stock is told for
SHORTLY: Final = "Areas only: wood, fit and glue decide"


def out_of(out: KeepOut) -> str:
    """What a keep-out is."""
    own = _OUTS.get(out.why, out.why.replace("_", " "))
    return f"{own} ({out.of})" if out.of else own


def told(plan: Plan) -> str:
    """What strengthens the corners, in a few words: 2 straight keys, splines."""
    parts = []
    for one in plan.keys.sets:
        word = KINDS[one.keys.kind]
        parts.append(f"{len(one.heights_mm)} {word if len(one.heights_mm) != 1 else word[:-1]}")
    if plan.splines.splines:
        parts.append("splines")
    if plan.corner_blocks.blocks:
        parts.append("corner blocks")
    return ", ".join(parts) or "no keys"


def placed(plan: Plan, one: KeySet) -> str:
    """The corners of one kind of keys: every corner, or their names."""
    mitered = [corner for corner in plan.ring.corners if not corner.lapped]
    if len(one.corners) == len(mitered) and len(mitered) == len(plan.ring.corners):
        return "every corner"
    return "at " + ", ".join(plan.ring.corners[i].name for i in one.corners)


def keys_told(plan: Plan, one: KeySet, fmt: Format) -> str:
    """One kind of keys in a sentence: how many, where, how large."""
    own = [key for key in plan.keys.keys if key.set == one.name]
    heights = ", ".join(fmt.length(h) for h in one.heights_mm)
    text = (
        f"{KINDS[one.keys.kind].capitalize()} at {heights} {fmt.units} from the bottom, {placed(plan, one)}"
    )
    sizes = dict.fromkeys(_size(key, fmt) for key in own)
    return f"{text}: {'; '.join(sizes)}." if sizes else f"{text}."


def _size(key: KeyPlan, fmt: Format) -> str:
    wide = f"{fmt.length(key.thickness_mm)} thick"
    if key.kind == "dovetail":
        wide = f"{fmt.length(key.thickness_mm)} wide at the floor and {fmt.length(key.face_mm)} at the arris"
    text = f"{wide}, slots {fmt.length(key.depth_mm)} deep, base {fmt.length(key.base_mm)}"
    return text + (f", tipped {fmt.angle(abs(key.tip_deg))}" if abs(key.tip_deg) > 0.005 else "")


def lines(plan: Plan, fmt: Format) -> list[str]:
    """Everything at the corners, a line each."""
    found = [keys_told(plan, one, fmt) for one in plan.keys.sets if one.heights_mm]
    if plan.splines.splines:
        first = plan.splines.splines[0]
        corners = dict.fromkeys(plan.ring.corners[one.corner].name for one in plan.splines.splines)
        every = "every corner" if len(corners) == len(plan.ring.corners) else "at " + ", ".join(corners)
        found.append(
            f"Splines {every}: {fmt.length(first.thickness_mm)} thick, {fmt.length(first.width_mm)} wide, "
            f"{fmt.length(first.length_mm)} long, {fmt.length(first.place_mm, unit=True)} from the inside arris."
        )
    if plan.corner_blocks.blocks:
        block = plan.corner_blocks.blocks[0]
        found.append(
            f"Corner blocks: legs {fmt.length(block.leg_mm)}, {fmt.length(block.length_mm, unit=True)} long."
        )
    return found


def settings_told(plan: Plan, fmt: Format) -> list[str]:
    """The fence settings, and how many slots each cuts; corners that share one are told together."""
    groups: dict[tuple[str, str], list[KeySetting]] = {}
    for setting in plan.keys.settings:
        fences = " · ".join(fmt.length(setting.fence_mm + p) for p in setting.passes_mm[:3])
        more = f" … ({len(setting.passes_mm)} passes)" if len(setting.passes_mm) > 3 else ""
        turned = ", turned over for the other half" if len(setting.heights_mm) > 1 else ""
        tip = f", cradle tipped {fmt.angle(abs(setting.tip_deg))}" if abs(setting.tip_deg) > 0.005 else ""
        groups.setdefault((f"fence {fences}{more} {fmt.units}", f"{turned}{tip}"), []).append(setting)
    found = []
    for (fence, how), own in groups.items():
        corners = sorted({i for setting in own for i in setting.corners})
        names = [plan.ring.corners[i].name for i in corners]
        at = f" at {', '.join(names)}" if len(corners) < len(plan.ring.corners) else ""
        slots = counted(sum(setting.slots for setting in own), "slot", "slots", fmt)
        found.append(f"{fence}: {slots}{at}{how}")
    return found


def stock_told(plan: Plan, one: KeySet, fmt: Format) -> str:
    """What the keys of one kind are cut from, and how many a strip gives."""
    own = [key for key in plan.keys.keys if key.set == one.name]
    if not own:
        return ""
    cutting = cutting_of(plan.job, own)
    piece = 300.0 if fmt.units == "mm" else 304.8
    return (
        f"{len(own)} from a strip {fmt.length(cutting.strip_wide_mm)} wide and "
        f"{fmt.length(cutting.strip_mm, unit=True)} long; {from_strip(piece, cutting)} from "
        f"{fmt.length(piece, unit=True)}; for {_BATCH} boxes "
        f"{fmt.length(strip_for(_BATCH * len(own), cutting), unit=True)}"
    )


def hand_or_jig(plan: Plan, fmt: Format) -> str:
    """Whether the cradle or the saw in the hand is the quicker, by the maker's own times."""
    slots = sum(setting.slots for setting in plan.keys.settings)
    if not slots:
        return ""
    times = times_of(plan.job, len(plan.keys.settings), slots)
    text = f"cradle {_minutes(times.jig_min, fmt)}, by hand {_minutes(times.hand_min, fmt)}"
    return text + _from(times)


def _from(times: Times) -> str:
    if times.boxes_from == 0:
        return "; by hand is never the slower"
    if times.boxes_from <= 1:
        return "; the cradle pays from the first box"
    return f"; the cradle pays from {times.boxes_from} boxes"


def _minutes(value: float, fmt: Format) -> str:
    return f"{fmt.number(value, 0)} min"


def glued_row(glued: Glued, fmt: Format) -> tuple[str, str, str]:
    """A school, what is left of the miter, and what it adds: in cm² (in² in inch designs)."""
    miter = f"{area(glued.miter_mm2, fmt)} {'long' if glued.miter_is_long else 'end'} grain"
    if not glued.long_mm2:
        return SCHOOLS[glued.school], miter, "–"
    off = f", {fmt.angle(round(glued.off_deg, 1))} off" if glued.off_deg > 0.5 else ""
    return SCHOOLS[glued.school], miter, f"+ {area(glued.long_mm2, fmt)}{off}"


def area(mm2: float, fmt: Format) -> str:
    """An area, in cm² or in²."""
    if fmt.units == "in":
        return f"{fmt.number(mm2 / 645.16, 2)} in²"
    return f"{fmt.number(mm2 / 100, 1)} cm²"


def upright_says(rows: Sequence[Glued]) -> str:
    """What is to be said where the grain runs up the sides."""
    if rows and rows[0].miter_is_long:
        return "Long grain on long grain: no keys needed"
    return ""
