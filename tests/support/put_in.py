"""Boxes put together as their steps say: each part on its way in meets nothing that is there already."""

import random
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from typing import Any, Final

import manifold3d

from peristyle.model.design import (
    CornerBlocks,
    Dividers,
    FalseFloor,
    Feet,
    Fillets,
    Handle,
    Liner,
    Panel,
    Strip,
    Thing,
    Tray,
)
from peristyle.model.job import Job, revised
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan, plan
from support import pairs
from support.bench import another_order
from support.lids import collisions
from support.solids import placed
from support.telling import done_so

_ABOVE, _BELOW = 1.0, -1.0
# From where what a step puts in comes; the panels that are let in or glued on, by which they are.
_FROM: Final = {
    "liner_fit": _ABOVE, "divider_fit": _ABOVE, "tray_fit": _ABOVE, "fillet_glue": _ABOVE, "ledge_glue": _ABOVE,
    "floor_fit": _ABOVE, "corner_block_glue": _ABOVE, "foot_glue": _BELOW, "block": _ABOVE,
}  # fmt: skip
# Brought in through the mouth and out to walls that lean in: not down along them.
_OUTWARD: Final = ("fillet_glue", "corner_block_glue", "block")
# What a finding tells of already: it is not to be found out here.
_TOLD: Final = {
    "divider_among_things": "block", "corner_block_meets": "block", "fillets_narrow": "block",
    "liner_holds_lid_up": "lid", "divider_too_tall": "lid",
}  # fmt: skip
# Where it is looked at on its way: mm from where it will be.
_ON_THE_WAY: Final = (0.02, 0.5, 1.5, 4.0, 8.0, 14.0, 22.0, 35.0, 55.0, 90.0, 150.0)
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
    strip = made.job.design.section.strip
    down = [0.0, 0.0, lid.lost_low_mm - lid.lost_high_mm + (strip.height_mm if strip else 0.0)]
    above = {name: one.trim_by_plane([0.0, 0.0, 1.0], lid.lost_high_mm) for name, one in there.items()}
    return _some(body), {name: one.translate(down) for name, one in _some(above).items()}


def _some(solids: Solids) -> Solids:
    return {name: one for name, one in solids.items() if one.volume() > _MUCH_MM3}


def _is_lid(name: str) -> bool:
    return name.startswith(("panel.lid", "panel.plug"))


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
    if made.job.design.section.cover is not None and "lid" not in told:
        lies_on = {
            p.id: placed(p, without=("edge",)) for p in made.pieces if p.part == "roof" or _is_lid(p.id)
        }
        yield from collisions(made, there | lies_on)
    if lid and "lid" not in told:
        stands = _stands_in_the_way(lid, there, _ABOVE, high)
        if stands is not None:
            yield f"the lid: {stands}"


_PARTS: Final[dict[str, Callable[[random.Random], dict[str, Any]]]] = {
    "liner": lambda r: {"liner": Liner(height_mm=r.choice((25.0, 40.0, 55.0)), gap_mm=r.choice((0.2, 0.8)))},
    "dividers": lambda r: {
        "dividers": Dividers(across=r.randrange(3), along=r.randrange(1, 3), height_mm=r.choice((20.0, 35.0, 50.0)),
                             dado_mm=r.choice((1.0, 2.0, 4.0)))
    },
    "fillets": lambda r: {
        "fillets": Fillets(below_mm=r.choice((0.0, 10.0, 20.0)), height_mm=r.choice((4.0, 8.0)),
                           thickness_mm=r.choice((3.0, 5.0, 8.0)))
    },
    "tray": lambda r: {"tray": Tray(height_mm=r.choice((10.0, 16.0)))},
    "false floor": lambda r: {"false_floor": FalseFloor(height_mm=r.choice((5.0, 12.0)))},
    "corner blocks": lambda r: {
        "corner_blocks": CornerBlocks(leg_mm=r.choice((8.0, 12.0)), above_mm=r.choice((0.0, 20.0)))
    },
    "lining": lambda _r: {"lining_mm": 2.0},
    "things": lambda r: {
        "contents": (Thing(made=True, length_mm=30.0, width_mm=20.0, height_mm=r.choice((10.0, 30.0)),
                           count=r.randrange(1, 7)),)
    },
    "bottom": lambda r: {
        "bottom": Panel(seat="applied", thickness_mm=6.0)
        if r.random() < 0.5
        else Panel(seat="rabbet", thickness_mm=5.0, depth_mm=5.0)
    },
    "feet": lambda _r: {"feet": Feet(inset_mm=2.0)}, "strip": lambda _r: {"strip": Strip()},
    "handle": lambda _r: {"handle": Handle(kind="knob")},
}  # fmt: skip


def random_inside(chance: random.Random) -> Job:
    """A box of some ring under some lid, with two to five parts in it or on it."""
    changes: dict[str, Any] = {}
    for name in chance.sample(list(_PARTS), chance.randrange(2, 6)):
        changes |= _PARTS[name](chance)
    ring, closed = chance.choice(pairs.RINGS), chance.choice(pairs.CLOSED)
    return revised(pairs.BASE, height_mm=chance.choice((90.0, 120.0)), **{**closed, **changes, **ring})


def put_together(seed: int, most: int, orders: int = 1) -> tuple[Counter[str], list[str]]:
    """So many boxes planned: how many put together and refused, and what could not go in; also in so many other orders
    that what comes before what allows.
    """
    chance, count, wrong = random.Random(seed), Counter[str](), list[str]()
    for number in range(most):
        made = plan(random_inside(chance))
        if not made.buildable:
            count["refused"] += 1
            continue
        count["put together"] += 1
        ways = [made.steps, *(another_order(made.steps, chance) for _ in range(orders))]
        wrong += [f"{seed}, box {number}: {met}" for steps in ways for met in met_on_the_way(made, steps)]
    return count, wrong
