"""The steps in the order they are done, each with what must be done before it."""

from collections.abc import Iterator, Sequence
from typing import Final

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.planning.making.by_hand import in_this_shop
from peristyle.planning.making.closed import riding
from peristyle.planning.making.kind import PHASES, Kind, Phase, Settled
from peristyle.planning.making.order import arranged
from peristyle.planning.making.step import After, Step

# What comes before an operation on the same part; the last such step there is. Why is said by the pair of them.
_AFTER: Final[dict[str, tuple[str, ...]]] = {
    "plane": ("resaw",),
    "thin": ("crosscut", "strips", "bevel"),
    "rip": ("plane", "crosscut", "thin"),
    "groove": ("rip", "try_groove", "crosscut", "bevel", "heights", "thin"),
    "strips": ("trim", "plane", "mark"),
    "strip_bevel": ("strips", "try_bevel", "thin"),
    "heights": ("strip_bevel", "strips"),
    "mark": ("rip", "plane", "moulding"),
    "trim": ("rip", "mark", "crosscut"),
    "crosscut": ("trim", "groove", "rabbet", "moulding", "mark", "rip"),
    "bevel": ("crosscut", "trim", "groove", "rabbet", "moulding", "rip", "try_bevel", "thin"),
    "dado": ("bevel", "heights", "groove", "thin"),
    "opening": ("bevel", "heights", "lid", "thin"),
    "lower": ("bevel", "heights", "groove"),
    "gable": ("bevel", "heights"),
    "dry_fit": ("bevel", "heights", "thin", "dado", "opening", "lower", "gable"),
    "leaf": ("resaw",),
    "leaf_glue": ("leaf", "board"),
    "strip_glue": ("bevel", "true_lid"),
    "strip_flush": ("strip_glue",),
    "panel": (
        "dry_fit",
        "segment_glue",
        "leaf_glue",
        "bevel",
        "heights",
        "true_edge",
        "level",
        "ledge_glue",
        "tray_glue",
    ),
    "segment_groove": ("segment",),
    "segment_glue": ("spline_stock", "segment_groove", "segment"),
    "finish_inside": ("dry_fit", "bevel", "heights", "spline_groove", "groove", "rabbet", "dado", "opening"),
    "spline_groove": ("bevel", "heights", "thin"),
    "spline_stock": ("spline_groove", "segment_groove"),
    "spline_fit": ("spline_stock",),
    "corner_block": ("lid", "glue"),
    "corner_block_glue": ("corner_block",),
    "glue": (
        "panel",
        "inlay_glue",
        "handle_bore",
        "spline_fit",
        "dry_fit",
        "finish_inside",
        "bevel",
        "heights",
        "dado",
        "opening",
        "divider",
        "halve",
    ),
    "rabbet": ("rip", "bevel", "heights", "thin"),
    "true_edge": ("glue",),
    "panel_set": ("panel", "glue", "key_flush", "edge"),
    "panel_flush": ("panel_set", "panel", "lid_fix"),
    "rough_sand": ("glue",),
    "keys": ("glue", "true_edge", "rough_sand", "lid"),
    "key_glue": ("keys", "key_stock"),
    "key_flush": ("key_glue",),
    "lid": ("key_flush", "keys", "glue", "true_edge", "edge"),
    "true_lid": ("lid",),
    "level": ("strip_flush", "panel_flush", "panel_set", "glue", "key_flush", "true_lid"),
    "ledge": ("glue", "lid"),
    "ledge_glue": ("ledge",),
    "floor_fit": ("panel", "lid_hole", "ledge_glue"),
    "block": ("floor_fit",),
    "plug_glue": ("panel",),
    "lid_hole": ("panel",),
    "lid_notch": ("panel",),
    "lid_fix": ("panel", "level", "divider_fit"),
    "roof_leaf": ("level",),
    "hinge_mortise": ("lid_fix", "roof_fix", "true_lid", "level", "panel", "try_hinge", "edge"),
    "hinge_bore": ("true_lid", "level", "try_hinge", "edge"),
    "hinge_bevel": ("hinge_bore",),
    "hinge_hang": ("hinge_mortise", "hinge_bore", "hinge_bevel"),
    "hinge_off": ("hinge_hang",),
    "hinge_again": ("finish", "hinge_off"),
    "magnet_bore": ("true_lid", "level", "panel"),
    "magnet_glue": ("finish", "magnet_bore"),
    "lining": ("finish",),
    "lining_cover": ("lining",),
    "lining_set": ("lining_cover", "lining", "hinge_again"),
    "inlay": (),
    "inlay_pocket": ("panel", "bevel", "heights", "level", "inlay"),
    "inlay_glue": ("inlay_pocket", "inlay"),
    "plate_recess": ("true_lid", "level", "edge"),
    "plate_bore": ("plate_recess", "true_lid", "level", "edge", "hinge_off"),
    "plate_screw": ("finish", "plate_bore"),
    "handle_wedge": ("bevel",),
    "handle_glue": ("handle_wedge", "panel", "level", "true_lid"),
    "handle_bore": ("panel", "true_lid", "level"),
    "handle_screw": ("finish", "handle_bore"),
    "moulding": ("rip", "plane"),
    "moulding_base": ("moulding",),
    "try_edge": (),
    "edge": ("glue", "key_flush", "panel", "panel_set", "panel_flush", "true_lid", "level", "try_edge"),
    "roof_fix": ("roof_leaf", "divider_fit"),
    "liner_fit": ("lid", "bevel", "finish_inside", "divider", "halve", "floor_fit"),
    "fillet_glue": ("bevel", "lid", "floor_fit", "liner_fit", "divider_fit"),
    "tray_glue": ("bevel",),
    "tray_fit": ("tray_glue", "panel", "fillet_glue", "floor_fit", "liner_fit", "divider_fit", "block"),
    "divider": (),
    "halve": ("divider",),
    "divider_fit": ("divider", "halve", "glue", "lid", "floor_fit", "liner_fit"),
    "foot": ("bevel", "heights"),
    "band": ("band_cut", "level", "true_lid"),
    "foot_glue": ("foot", "lid", "glue", "panel_set", "panel_flush", "level", "edge"),
    "finish": (
        "edge",
        "inlay_glue",
        "handle_glue",
        "handle_bore",
        "plate_bore",
        "hinge_off",
        "magnet_bore",
        "roof_fix",
        "lid_fix",
        "plug_glue",
        "lid_hole",
        "lid_notch",
        "panel",
        "level",
        "foot_glue",
        "band",
        "key_flush",
        "true_lid",
        "glue",
    ),
}
_OWN_PART: Final = {
    "strip_flush": "strip",
    "fillet_glue": "fillet",
    "strip_glue": "strip",
    "segment_glue": "segment",
    "leaf_glue": "leaf",
    "resaw": "box",
    "floor_fit": "box",
    "panel_set": "box",
    "panel_flush": "box",
    "block": "box",
    "liner_fit": "liner",
    "divider_fit": "divider",
    "divider": "divider",
    "halve": "divider",
}
_EACH: Final = ("panel_set", "panel_flush", "true_edge")  # of bottom and top: neither stands for the other
_OF_ITS_PANEL: Final = ("segment_glue", "leaf_glue", "true_edge")  # what a panel waits for of its own alone
_OF_SOME: Final = ("thin",)  # done on some pieces, and nothing to the others
# Steps that only the box as a whole has: whose pieces they name says nothing of what comes before them.
_OF_THE_BOX: Final = (
    "lid",
    "true_lid",
    "key_flush",
    "key_glue",
    "level",
    "glue",
    "band",
    "true_edge",
    "finish",
)


def plan_steps(plan: Settled, kinds: Sequence[Kind]) -> tuple[Step, ...]:
    """The whole sequence; nothing where there is no ring."""
    if not plan.ring.sides:
        return ()
    phases: dict[str, list[Step]] = {phase: [] for phase in _phases(plan)}
    for kind in kinds:
        for phase, step in kind.steps(plan):
            phases[phase].append(step)
    steps = [step for steps in phases.values() for step in steps]
    return tuple(riding(plan, arranged(tuple(_in_order(steps, plan.job)), plan.job.work)))


def _phases(plan: Settled) -> tuple[Phase, ...]:
    """The order of the work: keys before the lid is freed, or after."""
    if plan.job.work.keys == "before_lid" or plan.section.lid is None:
        return PHASES
    early = tuple(phase for phase in PHASES if phase not in ("sand", "keys"))
    at = early.index("lid") + 1
    return (*early[:at], "sand", "keys", *early[at:])


_OTHERWISE: Final = (
    "groove",
    "try_groove",
    "dado",
    "lid",
)  # there is another way where the saw does not tilt so far


def _within_reach(step: Step, job: Job) -> Step:
    """With how it is done all the same, where the blade would lean further than the saw tilts."""
    leans = max((abs(one.value) for one in step.settings if one.gauge == "tilt"), default=0.0)
    stop = job.shop.saw.stop_deg
    if step.tool != "table_saw" or step.operation not in _OTHERWISE or leans <= stop + DEFAULT.angle_deg:
        return step
    key = f"past_stop.{step.operation.removeprefix('try_')}"
    return replace(
        step, says=(*step.says, key), numbers=step.numbers | {"leans_deg": leans, "stop_deg": stop}
    )


def _in_order(steps: list[Step], job: Job) -> Iterator[Step]:
    """Each with an id of its own, and what must be done before it."""
    done: dict[tuple[str, str], list[Step]] = {}
    taken: dict[str, int] = {}
    for step in steps:
        taken[step.id] = taken.get(step.id, 0) + 1
        own = step.id if taken[step.id] == 1 else f"{step.id}.{taken[step.id]}"
        placed = replace(
            in_this_shop(job, _within_reach(step, job)), id=own, after=tuple(_before(step, done))
        )
        done.setdefault((step.part, step.operation), []).append(placed)
        yield placed


def _before(step: Step, done: dict[tuple[str, str], list[Step]]) -> Iterator[After]:
    """What comes before: of each such operation the steps on the same pieces, or else the last."""
    for operation in _AFTER.get(step.operation, ()):
        part = _OWN_PART.get(operation) or ("box" if operation in _OF_THE_BOX else step.part)
        before = done.get((part, operation), [])
        if operation == "panel" and step.operation == "glue":
            shared = before
        elif step.operation == "panel_set" and operation == "edge":
            shared = [b for b in before if set(b.pieces) & set(step.pieces)]
        elif step.operation == "panel" and operation in _OF_ITS_PANEL:
            shared = [b for b in before if b.names.get("panel") == step.names.get("panel")]
        else:
            shared = [b for b in before if set(b.pieces) & set(step.pieces)]
            last = before if operation in _EACH else before[-1:]
            shared = shared or (last if operation not in _OF_SOME else [])
        for other in shared:
            yield After(other.id, f"{step.operation}.{operation}")
    if step.operation in ("bevel", "strip_bevel") and step.end == "end":
        for other in done.get((step.part, step.operation), []):
            if other.end == "start" and set(other.pieces) & set(step.pieces):
                stopped = step.operation != "bevel" or any(s.gauge == "stop" for s in step.settings)
                yield After(other.id, f"{step.operation}.{step.operation}{'' if stopped else '.freely'}")
