"""The values a maker can set on the drawing of a lid that is not sawn free, of a false floor, and of the seasons."""

from collections.abc import Mapping
from typing import Final, Literal

from peristyle.model.design import (
    Cover,
    DropIn,
    EdgeName,
    Flat,
    Gable,
    Insert,
    LiftOff,
    Sliding,
    Split,
    replace,
)
from peristyle.model.edges import MOST_RADIUS_MM
from peristyle.model.fields import Field, Kind, PanelFields, limits_of, part_field, part_row
from peristyle.model.job import Job, revised
from peristyle.model.limits import MAX_MM
from peristyle.model.section_edits import COVERS, insert_mm, ring_for_insert


def _field(
    name: str, label: str, why: str, *, kind: Kind = "length", step: float = 0.5, to: str = ""
) -> Field:
    """A size of whatever lid there is; `to` is what a rabbet calls it."""

    def own(job: Job) -> str:
        cover = job.design.section.cover
        return to if to and isinstance(cover, DropIn | Insert) else name

    def get(job: Job) -> float:
        return float(getattr(job.design.section.cover, own(job), 0.0))

    def put(job: Job, value: float) -> Job:
        cover: Cover | None = job.design.section.cover
        if cover is None or own(job) not in cover.__struct_fields__:
            return job
        return revised(job, cover=replace(cover, **{own(job): value}))

    first = next(kind for kind in COVERS.values() if name in kind.__struct_fields__)
    low, high, above = limits_of(first, name)
    return Field(f"section.cover.{name}", lambda _d: label, why, get, put, low, high, above, kind, step)


THICKNESS: Final = _field("thickness_mm", "Lid thickness", "Of the lid's board, or of the roof's leaves.")
OVERHANG: Final = _field(
    "overhang_mm", "Lid stands out", "How far it stands out over the sides or the eaves."
)
PLUG: Final = _field("plug_mm", "Plug", "How far the plug reaches down into the box.")
FIT: Final = _field("fit_mm", "Lid's fit", "Room of the plug on each side, or what the groove is wider than the lid.",
                    step=0.05)  # fmt: skip
LEDGE: Final = _field("ledge_mm", "Lip", "How wide the lid lies on the wall.")
PLAY: Final = _field("play_mm", "Lid's play", "Room on each side.", step=0.1)
PROUD: Final = _field("proud_mm", "Lid stands proud", "How far it stands out of its rabbet; 0 is flush.")
HOLE: Final = _field(
    "hole_mm", "Hole", "A hole through its middle, for a finger or a pull; 0 is none.", step=1.0
)
GROOVE: Final = _field("height_mm", "Groove under the rim", "From the rim to the near edge of the groove.")
DEPTH: Final = _field("depth_mm", "Lid's groove", "How deep its grooves are.", to="ledge_mm")
NOTCH: Final = _field("notch_mm", "Finger hollow", "How wide; 0 is none.", step=1.0)
FIXED: Final = _field("fixed_mm", "Fixed part", "How much of the inside's width it covers.", step=1.0)
GAP: Final = _field("gap_mm", "Gap", "Between the two parts.", step=0.1)
PITCH: Final = _field("pitch_deg", "Pitch", "Of the roof.", kind="pitch", step=1.0)
ENDS: Final = _field("ends_mm", "Roof past the gables", "How far the leaves stand out over the gables.")


INLAY: Final = part_row(
    "inlay",
    ("inlay", "length_mm", "Inlay", "How long it is; of a round one its diameter.", 1.0),
    ("wide", "width_mm", "Inlay width", "How wide it is.", 1.0),
    ("thick", "thickness_mm", "Inlay thickness", "Before it is planed flush.", 0.5),
    ("pocket", "pocket_mm", "Inlay's pocket", "How deep it is let in: less than it is thick.", 0.5),
    ("along", "along_mm", "Inlay, along", "How far its middle lies from the face's own, along.", 1.0),
    ("across", "across_mm", "Inlay, across", "How far its middle lies from the face's own, across.", 1.0),
)
_HELD: Final = (
    (
        "in it",
        part_field("handle", "bites_mm", "Screw in the handle", "How much of a screw holds in it.", step=0.5),
    ),
    ("washer", part_field("handle", "washer_mm", "Washer", "How thick one is; 0 for none.", step=0.1)),
)
HANDLE: Final[Mapping[str, tuple[tuple[str, Field], ...]]] = {
    "wedge": (("handle", part_field("handle", "length_mm", "Handle", "How long it is.", step=1.0)),),
    "knob": (
        ("hole", part_field("handle", "bore_mm", "Knob's hole", "For its screw.", step=0.5)),
        ("screw", part_field("handle", "screw_mm", "Knob's screw", "How long it is.", step=1.0)),
        *_HELD,
    ),
    "pull": (
        ("apart", part_field("handle", "apart_mm", "Pull's screws", "How far apart they are.", step=1.0)),
        ("hole", part_field("handle", "bore_mm", "Pull's holes", "For its screws.", step=0.5)),
        ("screws", part_field("handle", "screw_mm", "Pull's screws' length", "How long they are.", step=1.0)),
        *_HELD,
    ),
}


def _profile(part: str, label: str, why: str) -> Field:
    return part_field(part, "size_mm", label, why, step=0.5)


EDGES: Final[Mapping[EdgeName, Field]] = {
    "bottom_edge": _profile("bottom_edge", "Bottom edge", "How large the profile along the bottom edge is."),
    "top_edge": _profile("top_edge", "Top edge", "How large the profile along the top edge is."),
    "lid_edges": _profile("lid_edges", "Edges of the lid's joint", "How large the profile on both rims is."),
    "base_edge": _profile(
        "base_edge", "Base, upper edge", "How large the profile on the base's upper edge is."
    ),
    "under_edge": _profile(
        "under_edge", "Top, lower edge", "How large the profile on the top's lower edge is."
    ),
    "rim_edge": _profile("rim_edge", "Rim inside", "How large the profile inside the rim is."),
}


def _insert(name: Literal["length_mm", "width_mm"]) -> Field:
    """A size of the slate, the glass or the lattice at hand, which the box is made to."""
    at, word = (0, "length") if name == "length_mm" else (1, "width")
    return Field(
        f"section.cover.insert_{name}",
        lambda _d: f"Insert's {word}",
        "Of the slate, the glass or the lattice at hand: the box is made to it.",
        lambda job: (insert_mm(job) or (0.0, 0.0))[at],
        lambda job, mm: ring_for_insert(job, **{name: mm}),
    )


INSERT_LENGTH: Final = _insert("length_mm")
INSERT_WIDTH: Final = _insert("width_mm")

# What stands on the section of each kind of lid, beside what its groove or rabbet shows enlarged.
SHOWN: Final[Mapping[type, tuple[tuple[str, Field], ...]]] = {
    LiftOff: (("thick", THICKNESS), ("stands out", OVERHANG), ("plug", PLUG), ("fit", FIT)),
    DropIn: (("hole", HOLE), ("stands proud", PROUD)),
    Insert: (("hole", HOLE), ("stands proud", PROUD)),
    Flat: (("thick", THICKNESS), ("stands out", OVERHANG)),
    Split: (("thick", THICKNESS), ("stands out", OVERHANG), ("fixed part", FIXED), ("gap", GAP)),
    Sliding: (("groove down", GROOVE), ("finger", NOTCH)),
    Gable: (("thick", THICKNESS), ("over eaves", OVERHANG), ("past gables", ENDS), ("pitch", PITCH)),
}
LID: Final = PanelFields(GROOVE, DEPTH, THICKNESS, PLAY, FIT, PROUD, OVERHANG)


FALSE_HEIGHT: Final = part_field(
    "false_floor", "height_mm", "Hidden room", "How high the compartment under the false floor is.", step=0.5
)
FALSE_THICKNESS: Final = part_field(
    "false_floor", "thickness_mm", "False floor thickness", "Of the loose board.", step=0.5
)


def moulding_point(number: int, what: str) -> Field:
    """How far up or how far in a point of the sides' moulding lies, or the radius on to the next."""
    names = {"up": "ups_mm", "in": "ins_mm", "arc": "arcs_mm"}
    words = {"up": "how far up the face", "in": "how far in from the face",
             "arc": "the radius to the next: 0 straight, over 0 bulging out, under 0 hollow"}  # fmt: skip
    name = names[what]

    def get(job: Job) -> float:
        made = job.design.section.moulding
        values = getattr(made, name) if made else ()
        return float(values[number]) if number < len(values) else 0.0

    def put(job: Job, value: float) -> Job:
        made = job.design.section.moulding
        if made is None:
            return job
        values = list(getattr(made, name))
        values += [0.0] * (number + 1 - len(values))
        values[number] = value
        return revised(job, moulding=replace(made, **{name: tuple(values)}))

    low, high = (-MOST_RADIUS_MM, MOST_RADIUS_MM) if what == "arc" else (0.0, MAX_MM)
    return Field(
        f"section.moulding.{name}.{number + 1}", lambda _d: f"Point {number + 1}: {words[what]}",
        f"Of point {number + 1} of the moulding, {words[what]}.", get, put, low, high, False, "length", 0.5,
    )  # fmt: skip
