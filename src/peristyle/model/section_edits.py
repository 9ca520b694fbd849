"""Bottoms, lids and false floors made otherwise: each edit keeps what the old one and the new have in common."""

import math
from typing import Any, Final, get_args

from msgspec import inspect as kinds
from msgspec.structs import asdict

from peristyle.core.lengths import MM_PER_INCH, Format
from peristyle.model import edits
from peristyle.model.design import (
    Cover,
    DropIn,
    EdgeName,
    EdgeProfile,
    FalseFloor,
    Fillets,
    Flat,
    Handle,
    Inlay,
    Insert,
    LiftOff,
    Liner,
    Moulding,
    OuterEdge,
    Rectangle,
    Seasons,
    Sliding,
    Split,
    Tray,
    leans,
    replace,
    side_name,
)
from peristyle.model.edges import ProfileKind
from peristyle.model.job import Job, decide, decided, revised
from peristyle.model.panels import Wooden
from peristyle.model.starts import begun


def _tag(kind: type) -> str:
    info = kinds.type_info(kind)
    assert isinstance(info, kinds.StructType)
    return str(info.tag)


COVERS: Final[dict[str, type[Cover]]] = {_tag(kind): kind for kind in get_args(Cover)}
NO_COVER: Final = "none"


def cover_kind(job: Job) -> str:
    """Which kind of lid lies on the box or in its rim; `none` where there is none."""
    cover = job.design.section.cover
    return NO_COVER if cover is None else _tag(type(cover))


def with_cover(job: Job, kind: str) -> Job:
    """A lid of another kind, or none: wood, thickness and whatever else both have stays as it was.

    One that is sawn free, and a top panel under it, make room.
    """
    if kind == cover_kind(job):
        return job
    if kind == NO_COVER:
        return revised(job, cover=None)
    made: Any = begun(COVERS[kind], job.design.units)
    old = job.design.section.cover
    if old is not None:
        known = asdict(old)
        shared = {name: known[name] for name in made.__struct_fields__ if name in known and name != "side"}
        made = replace(made, **shared)
    if isinstance(made, Sliding | Split):
        made = replace(made, side=_side_for(job, made))
    if not isinstance(made, Insert) and old is None and job.design.section.top is not None:
        top = job.design.section.top
        made = replace(made, wood=top.wood, sawn=top.sawn, grain=top.grain, sheet=top.sheet)
    return revised(_without_what_a_sawn_lid_has(job), cover=made, lid=None, top=None)


def lid_kind(job: Job) -> str:
    """What closes the box: `sawn` free, with a liner's `lip` that holds it, one of COVERS, or `none`."""
    if job.design.section.cover is not None:
        return cover_kind(job)
    if job.design.section.lid is None:
        return NO_COVER
    liner = job.design.inside.liner
    return "lip" if liner is not None and liner.height_mm > _body_room(job) else "sawn"


def with_lid_kind(job: Job, kind: str) -> Job:
    """The box closed another way."""
    if kind in COVERS:
        return with_cover(job, kind)
    bare = revised(job, cover=None)
    if kind == NO_COVER:
        return _without_what_a_sawn_lid_has(edits.with_lid(bare, False))
    made = bare if bare.design.section.lid is not None else edits.with_lid(bare, True)
    return with_lip(made) if kind == "lip" else _without_lip(made)


def _body_room(job: Job) -> float:
    """From the floor to the body's rim, once the lid is freed and both are trued (mm)."""
    design = job.design.as_glued()
    return design.body_mm - design.floor_mm


def with_lip(job: Job) -> Job:
    """A liner that stands proud of the body's rim, so that the lid drops over it: by a third of the lid, 5 to 12 mm,
    and never so high that the lid would stand off. One that does so already stays as high as it is.
    """
    lid, now = job.design.section.lid, job.design.inside.liner
    if lid is None or (now and _body_room(job) < now.height_mm <= job.design.as_glued().room_mm):
        return job
    step = _step_mm(job)
    proud = min(max(5.0, lid.height_mm / 3), 12.0)
    height = min(_body_room(job) + proud, job.design.as_glued().room_mm - 0.5) // step * step
    if height <= step:
        return job
    liner = replace(now, height_mm=height) if now else begun(Liner, job.design.units, height_mm=height)
    room = _lip_room_mm(job, height - _body_room(job))
    return revised(job, liner=replace(liner, gap_mm=max(liner.gap_mm, Format(job.design.units).up(room))))


def _lip_room_mm(job: Job, proud_mm: float) -> float:
    """What a lip so high (mm) begins with all round between walls that lean, so that the lid comes down over it:
    leaning out its top is the wider, leaning in the lid, lower by what the saw took, is the narrower. What it lacks as
    drawn the finding `lip_wedges` tells.
    """
    lid = job.design.section.lid
    if lid is None:
        return 0.0
    lost = lid.kerf_mm + lid.clean_up_mm
    return max(
        (
            math.tan(math.radians(lean)) * (proud_mm - lost)
            if lean > 0
            else math.tan(math.radians(-lean)) * lost
        )
        for lean in job.design.form.slopes_deg
    )


def _without_lip(job: Job) -> Job:
    """The liner, where there is one, no higher than the body's rim."""
    liner, room = job.design.inside.liner, _body_room(job)
    if liner is None or liner.height_mm <= room or room <= 1.0:
        return job
    step = _step_mm(job)
    return revised(job, liner=replace(liner, height_mm=room // step * step))


def _step_mm(job: Job) -> float:
    """What a height is rounded to that the program finds: half a millimetre, or a sixteenth of an inch."""
    return MM_PER_INCH / 16 if job.design.units == "in" else 0.5


def with_lining(job: Job, on: bool) -> Job:
    """Foam or cloth on the inner faces as thick as is usual, a sixteenth of an inch or 2 mm; or none."""
    usual = MM_PER_INCH / 16 if job.design.units == "in" else 2.0
    return revised(job, lining_mm=usual if on else 0.0)


def with_fillets(job: Job, on: bool) -> Job:
    """Fillets on the walls, or none."""
    return revised(job, fillets=begun(Fillets, job.design.units) if on else None)


def with_tray(job: Job, on: bool) -> Job:
    """A tray on the liner's edge, or on fillets: those come with it where there is neither; or none."""
    if not on:
        return revised(job, tray=None)
    tray: Any = begun(Tray, job.design.units)
    inside = job.design.inside
    if inside.liner is None and inside.fillets is None:
        job = revised(job, fillets=begun(Fillets, job.design.units, below_mm=tray.height_mm))
    return revised(job, tray=tray)


def _without_what_a_sawn_lid_has(job: Job) -> Job:
    """The box without what goes with a lid that is sawn free: the strip under it, hinges, magnets, latch, its rims'
    edges.
    """
    return revised(job, strip=None, hinges=None, magnets=None, latch=None, lid_edges=None)


def _side_for(job: Job, cover: Sliding | Split) -> int:
    """Out over a short side, as is usual; the fixed part over the back."""
    count, front = job.design.side_count, job.design.form.front
    back = (front + count // 2) % count
    shape = job.design.form.shape
    if isinstance(cover, Sliding) and isinstance(shape, Rectangle):
        return 1 if shape.length_mm >= shape.width_mm else 0
    return back if isinstance(cover, Split) else min(1, count - 1)


# What a kind of lid is asked besides its sizes: the value, and what can be chosen; a side by its letter.
_ASKED: Final[dict[str, tuple[str, tuple[tuple[str, str], ...]]]] = {
    "lift_off": ("over", (("two", "out over two sides"), ("all", "out all round"))),
    "insert": ("what", (("slate", "slate"), ("glass", "glass"), ("tile", "tile"), ("lattice", "lattice"))),
    "gable": ("ridge", (("along", "ridge along A"), ("across", "ridge across"))),
    "sliding": ("side", ()),
    "split": ("side", ()),
}


def lid_ways(job: Job) -> tuple[tuple[str, str], ...]:
    """What the lid there is can be chosen to be, as (key, words); nothing where it is only a matter of sizes."""
    asked = _ASKED.get(cover_kind(job))
    if asked is None:
        return ()
    word = "out over" if cover_kind(job) == "sliding" else "fixed over"
    sides = [side_name(side) for side in range(job.design.side_count)]
    return asked[1] or tuple((name, f"{word} {name}") for name in sides)


def lid_way(job: Job) -> str:
    """Which of them it is."""
    asked, cover = _ASKED.get(cover_kind(job)), job.design.section.cover
    if asked is None or cover is None:
        return ""
    value = getattr(cover, asked[0])
    return side_name(value) if asked[0] == "side" else str(value)


def with_lid_way(job: Job, key: str) -> Job:
    """The lid made another way."""
    asked, cover = _ASKED.get(cover_kind(job)), job.design.section.cover
    if asked is None or cover is None or key not in dict(lid_ways(job)):
        return job
    value: Any = [name for name, _words in lid_ways(job)].index(key) if asked[0] == "side" else key
    return revised(job, cover=replace(cover, **{asked[0]: value}))


def with_false_floor(job: Job, on: bool) -> Job:
    """A floor over a hidden compartment, or none."""
    return revised(job, false_floor=begun(FalseFloor, job.design.units) if on else None)


def with_edge(job: Job, part: EdgeName, kind: str) -> Job:
    """A profile of a kind along an edge, as large as it was or as is usual; `none` leaves it square."""
    if kind not in get_args(ProfileKind):
        return decide(job, part, None)
    whole = OuterEdge if part in ("bottom_edge", "top_edge") else EdgeProfile
    made: Any = decided(job, part) or begun(whole, job.design.units)
    upright = not any(job.design.form.slopes_deg)
    if decided(job, part) is None and isinstance(made, OuterEdge) and job.design.section.lid and upright:
        made = replace(made, when="before_lid")  # the closed box is profiled before it is sawn open
    return decide(job, part, replace(made, kind=kind))


def with_edge_cut(job: Job, part: EdgeName, when: str) -> Job:
    """The profile along the bottom or the top cut `before_lid` or `after_lid`."""
    made = decided(job, part)
    return decide(job, part, replace(made, when=when)) if isinstance(made, OuterEdge) else job


# Of each point: how far up as a share of the height, and more by how many depths; how far in and with which radius on,
# in depths.
MOULDINGS: Final[dict[str, tuple[tuple[float, float, float, float], ...]]] = {
    "cove": ((0.2, 0.0, 0.0, -1.3), (0.2, 1.3, 1.0, 0.0), (1.0, 0.0, 1.0, 0.0)),
    "ogee": ((0.14, 0.0, 0.0, -0.7), (0.14, 0.7, 0.5, 0.7), (0.14, 1.4, 1.0, 0.0), (1.0, 0.0, 1.0, 0.0)),
    "steps": ((0.15, 0.0, 0.0, 0.0), (0.15, 0.0, 0.5, 0.0), (0.3, 0.0, 0.5, 0.0), (0.3, 0.0, 1.0, 0.0),
              (1.0, 0.0, 1.0, 0.0)),
}  # fmt: skip


def with_moulding(job: Job, kind: str) -> Job:
    """Moulded sides of a kind to begin with, a quarter of the wall deep; `none` leaves them flat."""
    if kind == "none":
        return revised(job, moulding=None)
    design, step = job.design.as_glued(), _step_mm(job)
    high = design.form.height_mm / math.cos(math.radians(design.slope_of(0)))
    deep = max(step, design.thickness_of(0) / 4 // step * step)
    ups = [high if share == 1.0 else round((share * high + more * deep) / step) * step
           for share, more, _in, _arc in MOULDINGS[kind]]  # fmt: skip
    ins = [inward * deep for *_up, inward, _arc in MOULDINGS[kind]]
    arcs = [arc * deep for *_point, arc in MOULDINGS[kind]]
    return revised(job, moulding=Moulding(ups_mm=tuple(ups), ins_mm=tuple(ins), arcs_mm=tuple(arcs)))


def moulding_kind(job: Job) -> str:
    """Which of them it began as, `own` where the maker has gone on from there, `none` of flat sides."""
    made = job.design.section.moulding
    if made is None:
        return "none"
    same = (kind for kind in MOULDINGS if with_moulding(job, kind).design.section.moulding == made)
    return next(same, "own")


def with_handle(job: Job, kind: str) -> Job:
    """A handle of a kind, on the lid where that is wood, else on the front; `none` leaves it out."""
    if kind == "none":
        return revised(job, handle=None)
    old = job.design.section.handle
    made: Any = old or begun(Handle, job.design.units, on=_face_for(job))
    return revised(job, handle=replace(made, kind=kind))


def with_inlay(job: Job, kind: str) -> Job:
    """A `round` or a `square` inlay, in the lid where that is wood, else in the front; `none` leaves it out."""
    if kind == "none":
        return revised(job, inlay=None)
    made: Any = job.design.section.inlay or begun(Inlay, job.design.units, on=_face_for(job))
    return revised(job, inlay=replace(made, round=kind == "round"))


def _face_for(job: Job) -> str:
    section = job.design.section
    wooden = section.top is not None or isinstance(section.cover, LiftOff | DropIn | Flat | Sliding)
    return "top" if wooden else "front"


def with_fitting_on(job: Job, part: str, on: str) -> Job:
    """An inlay or a handle on the `top` or the `front`."""
    made = decided(job, part)
    return job if made is None else decide(job, part, replace(made, on=on))


def with_seasons(job: Job, on: bool) -> Job:
    """The air round the box reckoned with, or not."""
    return revised(job, seasons=Seasons() if on else None)


def wooden(job: Job, part: str) -> Wooden | None:
    """The `bottom`, the `top`, the `lid` or the `false_floor` as far as it is made of wood."""
    made = getattr(job.design.section, "cover" if part == "lid" else part)
    return made if isinstance(made, Wooden) else None


def with_wood(job: Job, part: str, **given: Any) -> Job:
    """What one of these is made of: `wood`, `sawn`, `grain`, `sheet`."""
    made = wooden(job, part)
    if made is None:
        return job
    return decide(job, "cover" if part == "lid" else part, replace(made, **given))


def with_air(job: Job, **given: Any) -> Job:
    """The air round the box, or the wood's moisture: now, at the driest, at the dampest."""
    return revised(job, seasons=replace(job.design.section.seasons or Seasons(), **given))


def insert_mm(job: Job) -> tuple[float, float] | None:
    """Length and width (mm) of the insert in the lip of an upright rectangle; None of any other box, and of one that
    is sized from what it holds.

    Source: the opening is the insert and twice its play, less twice the lip.
    """
    cover, form = job.design.section.cover, job.design.form
    shape = form.shape
    if not isinstance(cover, Insert) or not isinstance(shape, Rectangle) or leans(job.design):
        return None
    if job.design.inside.contents:
        return None
    more = 2 * cover.ledge_mm - 2 * cover.play_mm
    walls = (0.0, 0.0)
    if shape.measure == "outside":
        thick = [job.design.thickness_of(side) for side in range(4)]
        walls = (thick[1] + thick[3], thick[0] + thick[2])
    return shape.length_mm - walls[0] + more, shape.width_mm - walls[1] + more


def ring_for_insert(job: Job, length_mm: float | None = None, width_mm: float | None = None) -> Job:
    """The upright rectangle so large that an insert of a size lies in its lip with its play; others as they are."""
    now, shape = insert_mm(job), job.design.form.shape
    if now is None or not isinstance(shape, Rectangle):
        return job
    longer = 0.0 if length_mm is None else length_mm - now[0]
    wider = 0.0 if width_mm is None else width_mm - now[1]
    return revised(
        job, shape=replace(shape, length_mm=shape.length_mm + longer, width_mm=shape.width_mm + wider)
    )
