"""The values a maker can set at the corners: keys of both kinds, splines, corner blocks."""

from collections.abc import Callable
from typing import Final, NamedTuple

from peristyle.model.design import Keys, replace
from peristyle.model.fields import Field, part_field
from peristyle.model.job import Job, decide, decided
from peristyle.model.starts import begun


def _keys(job: Job, part: str) -> Keys:
    """The job's keys of one kind, or those it would begin with."""
    now: Keys | None = decided(job, part)
    made: Keys = begun(Keys, job.design.units)
    return now or made


def _key_count(part: str) -> Callable[[Job], float]:
    def count(job: Job) -> float:
        keys: Keys | None = decided(job, part)
        return float(len(keys.positions_mm) or keys.count) if keys else 0.0

    return count


class KeyFields(NamedTuple):
    """The sizes of one kind of keys."""

    thickness: Field
    depth: Field
    leg: Field
    number: Field
    edge: Field
    spacing: Field
    slant: Field
    flare: Field


def _key_fields(part: str) -> KeyFields:
    """The fields of the first or the second kind of keys."""

    def value(name: str) -> Callable[[Job], float]:
        return lambda job: getattr(decided(job, part), name, None) or 0.0

    def angle(name: str, label: str, why: str, low: float, high: float) -> Field:
        return Field(
            f"joints.{part}.{name}", lambda _d: label, why, value(name),
            lambda d, v: decide(d, part, replace(_keys(d, part), **{name: v})), low, high, False, "angle",
        )  # fmt: skip

    return KeyFields(
        thickness=part_field(
            part, "thickness_mm", "Key thickness", "As thick as its slot; a dovetail at its floor.", step=0.1
        ),
        depth=Field(
            f"joints.{part}.depth_mm", lambda _d: "Key depth", "Slot depth from the outer corner, straight in.",
            value("depth_mm"), lambda d, v: decide(d, part, replace(_keys(d, part), depth_mm=v, leg_mm=None)), step=0.5,
        ),
        leg=Field(
            f"joints.{part}.leg_mm", lambda _d: "Key leg", "Length of the slot down each face.",
            value("leg_mm"), lambda d, v: decide(d, part, replace(_keys(d, part), leg_mm=v)), step=0.5,
        ),
        number=Field(
            f"joints.{part}.count", lambda _d: "Keys a corner", "How many at each corner that has them.",
            _key_count(part),
            lambda d, v: decide(d, part, replace(_keys(d, part), count=int(v), positions_mm=())),
            1, 40, False, "count",
        ),
        edge=part_field(part, "edge_margin_mm", "Edge margin", "Clear wood between a key and the box's edges."),
        spacing=part_field(part, "spacing_mm", "Spacing", "From the middle of one key to that of the next."),
        slant=angle(
            "slant_deg", "Slant", "How the slots slant on the faces, the upper half the other way.", -45.0, 45.0
        ),
        flare=angle("angle_deg", "Bit angle", "By how much a dovetail bit's cheeks lean.", 0.0, 30.0),
    )  # fmt: skip


KEY_FIELDS: Final = {"keys": _key_fields("keys"), "other_keys": _key_fields("other_keys")}

SPLINE_THICKNESS: Final = part_field(
    "splines", "thickness_mm", "Spline thickness", "As wide as its groove.", step=0.1
)
SPLINE_DEPTH: Final = part_field(
    "splines", "depth_mm", "Groove depth", "Into each piece, square to the miter.", step=0.5
)
SPLINE_PLACE: Final = part_field(
    "splines", "place_mm", "Place", "Middle of the groove from the inside arris, along the joint.", step=0.5
)
SPLINE_APART: Final = part_field(
    "splines", "apart_mm", "Apart", "From the middle of one groove to that of the next.", step=0.5
)
SPLINE_LOW: Final = part_field(
    "splines", "stop_bottom_mm", "Stop below", "How far from the bottom it stops; 0 runs through."
)
SPLINE_HIGH: Final = part_field(
    "splines", "stop_top_mm", "Stop above", "How far from the top it stops; 0 runs through."
)
BLOCK_LEG: Final = part_field("corner_blocks", "leg_mm", "Block leg", "Along each inner face.", step=0.5)
BLOCK_BELOW: Final = part_field(
    "corner_blocks", "below_mm", "Under the rim", "How far under the body's rim it ends.", step=0.5
)


def key_position(job: Job, part: str, number: int, heights_mm: tuple[float, ...]) -> Field:
    """The height of one key of a kind (from the bottom); setting it pins all of that kind where they stand."""

    def put(changed: Job, value: float) -> Job:
        placed = [*heights_mm[:number], value, *heights_mm[number + 1 :]]
        return decide(changed, part, replace(_keys(changed, part), positions_mm=tuple(placed)))

    return Field(
        f"joints.{part}.positions_mm.{number + 1}", lambda _d: f"Height of key {number + 1}",
        "From the bottom edge to the middle of the key, at the arris.",
        lambda d: heights_mm[number], put, 0.0, job.design.form.height_mm,
    )  # fmt: skip
