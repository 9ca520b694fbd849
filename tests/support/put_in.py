"""Boxes put together as their steps say: each part on its way in meets nothing that is there already."""

from collections.abc import Iterator, Sequence
from typing import Final

import manifold3d

from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan
from support.solids import placed
from support.telling import done_so

_ABOVE, _BELOW = 1.0, -1.0
# From where what a step puts in comes; the panels that are let in or glued on, by which they are.
_FROM: Final = {
    "liner_fit": _ABOVE, "divider_fit": _ABOVE, "tray_fit": _ABOVE, "fillet_glue": _ABOVE, "ledge_glue": _ABOVE,
    "corner_block_glue": _ABOVE, "foot_glue": _BELOW, "block": _ABOVE,
}  # fmt: skip
# Brought in through the mouth and out to walls that lean in: not down along them.
_OUTWARD: Final = ("fillet_glue", "corner_block_glue", "block")
# What a finding tells of already: it is not to be found out here.
_TOLD: Final = {
    "divider_among_things": "block", "corner_block_meets": "block", "fillets_narrow": "block",
    "liner_holds_lid_up": "lid",
}  # fmt: skip
_ON_THE_WAY: Final = (0.5, 1.5, 4.0, 8.0, 14.0, 22.0, 35.0, 55.0, 90.0, 150.0)  # mm from where it will be
_MUCH_MM3: Final = 1.0
Solids = dict[str, manifold3d.Manifold]


def _together(step: Step) -> list[tuple[str, ...]]:
    """The pieces of a step in the order in which they go in, those that go in as one together."""
    if step.operation == "divider_fit":
        runs = {run: tuple(p for p in step.pieces if f".{run}." in p) for run in ("across", "along")}
        first = "along" if "those along first" in done_so(step) else "across"
        return [runs[first], runs["along" if first == "across" else "across"]]
    if step.operation in ("liner_fit", "tray_fit"):
        return [step.pieces]
    return [(piece,) for piece in step.pieces]


def _way(step: Step) -> float | None:
    """From where a step's pieces come, None of a step that puts nothing in."""
    if step.operation == "panel_set":
        return _BELOW if "panel.bottom" in step.pieces else _ABOVE
    if step.operation == "panel" and "panel.false" in step.pieces:
        return _ABOVE
    return _FROM.get(step.operation)


def _stands_in_the_way(going: Solids, there: Solids, way: float, high_mm: float) -> str | None:
    """What is met on the way in, if anything."""
    for name, one in going.items():
        for other, still in there.items():
            for far in (t for t in _ON_THE_WAY if t < high_mm + 20.0):
                moved = one.translate([0.0, 0.0, way * far])
                a, b = moved.bounding_box(), still.bounding_box()
                if any(a[k] >= b[3 + k] or b[k] >= a[3 + k] for k in range(3)):
                    continue
                if (moved ^ still).volume() > _MUCH_MM3:
                    return f"{name}, {far:g} mm from its place, meets {other}"
    return None


def _freed(made: Plan, there: Solids) -> tuple[Solids, Solids]:
    """Body and lid, once the lid is sawn free and both are trued."""
    lid = made.section.lid
    assert lid is not None
    body = {name: one.trim_by_plane([0.0, 0.0, -1.0], -lid.lost_low_mm) for name, one in there.items()}
    above = {name: one.trim_by_plane([0.0, 0.0, 1.0], lid.lost_high_mm) for name, one in there.items()}
    return _some(body), _some(above)


def _some(solids: Solids) -> Solids:
    return {name: one for name, one in solids.items() if one.volume() > _MUCH_MM3}


def met_on_the_way(made: Plan, steps: Sequence[Step] | None = None) -> Iterator[str]:
    """Parts that cannot go in when their step says so; what goes on last of all is looked at as it is opened."""
    known = {piece.id: piece for piece in made.pieces}
    leans_in = any(slab.sin_slope < -1e-9 for slab in made.ring.slabs)
    codes = {finding.code for finding in made.findings}
    told = {_TOLD[code] for code in codes & set(_TOLD)}
    high, there, lid = made.job.design.form.height_mm, Solids(), Solids()
    for step in made.steps if steps is None else steps:
        own = [name for name in step.pieces if name in known]
        if step.operation == "glue":
            there |= {name: placed(known[name], without=("lid_kerf", "edge")) for name in own}
        elif step.operation == "lid":
            there, lid = _freed(made, there)
        elif (way := _way(step)) is not None:
            leans = leans_in and (step.operation in _OUTWARD or "cannot_pass_mouth" in codes)
            if leans or step.operation in told:
                continue
            for names in _together(step):
                going = {name: placed(known[name], without=("edge",)) for name in names if name in known}
                held = lid if lid and "panel.top" in going else there  # let into the lid, once that is free
                stands = _stands_in_the_way(going, held, way, high)
                if stands is not None:
                    yield f"{step.id}: {stands}"
                held |= going
    if lid and "lid" not in told:
        stands = _stands_in_the_way(lid, there, _ABOVE, high)
        if stands is not None:
            yield f"the lid: {stands}"
