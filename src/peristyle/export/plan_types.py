"""What a plan is as data, type by type: the builders in `planjson` are held to it, and the schema is made from it."""

from typing import Annotated, Any, Literal, NotRequired, TypedDict

from msgspec import Meta

from peristyle.core.lengths import Units
from peristyle.model.design import GrooveWay, Seat
from peristyle.model.stock import Method
from peristyle.planning.findings import Severity
from peristyle.planning.inside.dividers import Run
from peristyle.planning.making.setting import Setting
from peristyle.planning.making.step import Edge, Lies
from peristyle.planning.section.grooves import Arris
from peristyle.planning.stock.laying import Way
from peristyle.wood.looks import Plane

Point = Annotated[list[float], Meta(min_length=2, max_length=2)]
Vector = Annotated[list[float], Meta(min_length=3, max_length=3)]
Points = list[Point]


class OutlineData(TypedDict):
    """Outlines seen from above; vertex i lies at the end of side i. Empty where there is no ring or no inside."""

    outer_bottom_mm: Points
    outer_top_mm: Points
    inner_bottom_mm: Points
    inner_top_mm: Points


class EndData(TypedDict):
    """How one end is cut."""

    bevel_deg: Annotated[
        float, Meta(description="Blade tilt from square; positive: the show face is the longer.")
    ]
    miter_deg: Annotated[
        float, Meta(description="Gauge swing from square; positive: the face widens upward.")
    ]


class SideData(TypedDict):
    """One side; lengths at the bottom edge, `*_top_mm` at the top edge."""

    side: str
    outside_mm: Annotated[float, Meta(gt=0)]
    outside_top_mm: Annotated[float, Meta(gt=0)]
    inside_mm: Annotated[float | None, Meta(description="null where the walls leave no inside")]
    inside_top_mm: float | None
    thickness_mm: Annotated[float, Meta(gt=0)]
    height_mm: Annotated[float, Meta(gt=0, description="upright")]
    slope_deg: float
    slant_height_mm: Annotated[float, Meta(gt=0, description="height along the slant: what is ripped")]
    top_bevel_deg: Annotated[float, Meta(description="lean of the top edge's cut from square, as the slope")]
    bottom_bevel_deg: float
    start: EndData
    end: EndData
    outer_face_mm: Annotated[
        Points,
        Meta(
            description="flat pattern of the show face, from its bottom start corner, x along, y up the slant"
        ),
    ]
    inner_face_mm: Annotated[Points, Meta(description="flat pattern of the inner face in the same frame")]


class CornerData(TypedDict):
    """The corner at the end of the side of the same place in `sides`."""

    corner: str
    interior_deg: Annotated[float, Meta(description="seen from above")]
    dihedral_deg: Annotated[float, Meta(description="true angle between the faces")]
    joint_face_mm: Annotated[float, Meta(gt=0)]
    closing: bool
    lapped: bool


class LaidData(TypedDict):
    """Where one side lies on the board."""

    side: str
    board: int
    start_mm: float
    end_mm: float
    origin: Annotated[
        list[float], Meta(description="of the face's bottom start corner, along and across the board")
    ]
    way: Way
    show: Annotated[Plane, Meta(description="the plane of the board that the show face is cut from")]


class WrapData(TypedDict):
    """The sides on the board, show face up."""

    method: Method
    order: list[str]
    pieces: list[LaidData]
    loss_mm: list[float]
    runs_on: Annotated[list[bool], Meta(description="whether the grain runs over each corner")]
    grain_turn_deg: list[float]
    used_mm: Annotated[float, Meta(description="Σ lengths + all losses, without the end trim")]
    end_trim_mm: float
    needed_mm: Annotated[float, Meta(description="used_mm + end trim")]
    spare_mm: Annotated[float, Meta(description="left of the board; negative: too short by that much")]
    tiers: int
    closing_corner: str


class GrooveCutData(TypedDict):
    """A groove in the sides that share one setting."""

    sides: list[str]
    tilt_deg: float
    fences_mm: list[float]
    height_mm: float
    opening_mm: float
    arris: Arris


class GrooveData(TypedDict):
    """The groove for a panel; heights upright, at the inside face."""

    low_mm: float
    high_mm: float
    width_mm: float
    depth_mm: float
    wall_left_mm: float
    fences_mm: list[float]
    way: GrooveWay
    seat: Seat
    cuts: list[GrooveCutData]


class LidCutData(TypedDict):
    """How the lid is freed along the sides that share one setting."""

    sides: list[str]
    edge: Edge
    tilt_deg: float
    fence_mm: float


class LidData(TypedDict):
    """Where the lid is freed."""

    body_mm: float
    lid_mm: float
    line_mm: Annotated[float, Meta(description="centre of the kerf, from the bottom")]
    kerf_low_mm: float
    kerf_high_mm: float
    lost_mm: float
    fence_mm: float
    cuts: list[LidCutData]


class MovementData(TypedDict):
    """What a panel does through the seasons, from the day it is made: wider at its dampest, narrower at its driest."""

    panel: str
    wood: str
    across_mm: float
    swells_mm: float
    shrinks_mm: float
    ring_opens_mm: float
    ring_closes_mm: float
    play_damp_mm: Annotated[float, Meta(description="room left on each side at the dampest")]
    play_dry_mm: float
    held_damp_mm: float
    held_dry_mm: Annotated[float, Meta(description="how far it is still held at the driest")]


class SectionData(TypedDict):
    """Everything vertical."""

    glued_mm: float
    finished_mm: float
    groove: GrooveData | None
    lid: LidData | None
    room_mm: Annotated[
        float, Meta(description="height between floor and top panel (or rim) once the lid is freed")
    ]
    top_groove: GrooveData | None
    lid_groove: Annotated[
        GrooveData | None,
        Meta(description="groove or rabbet of a lid that is not sawn free; or where it lies on the rim"),
    ]
    movements: list[MovementData]


class SegmentsData(TypedDict):
    """A panel glued up of segments."""

    count: int
    style: Literal["pie", "ring"]
    miter_deg: float
    apex_deg: float
    outer_mm: float
    inner_mm: float
    strip_mm: float
    length_mm: float
    last_joint_deg: float
    order: list[str]
    hole_mm: Annotated[float, Meta(ge=0, description="hole that a ring leaves, across its flats")]


class PanelData(TypedDict):
    """One panel."""

    name: str
    outline_mm: Points
    thickness_mm: float
    length_mm: float
    width_mm: float
    segments: SegmentsData | None


class KeyData(TypedDict):
    """One key at one corner."""

    corner: str
    number: Annotated[int, Meta(description="from the bottom, at its corner")]
    kind: Literal["straight", "veneer", "dovetail"]
    set: Literal["keys", "other_keys"]
    height_mm: Annotated[float, Meta(description="to the key's middle, from the bottom")]
    thickness_mm: float
    depth_mm: float
    leg_mm: float
    base_mm: float
    area_mm2: float
    breakthrough_mm: float
    tip_deg: Annotated[
        float, Meta(description="against square to the arris, positive where its floor lies higher")
    ]
    angle_deg: Annotated[float, Meta(description="in which its plane cuts the corner")]
    face_mm: Annotated[float, Meta(description="how wide it is at the arris")]


class KeepOutData(TypedDict):
    """A stretch of height where no key may be at a corner, and what is there."""

    corner: str
    low_mm: float
    high_mm: float
    what: str


class SplineData(TypedDict):
    """One spline in a miter."""

    corner: str
    number: int
    place_mm: Annotated[
        float, Meta(description="middle of its groove from the inside arris, along the joint")
    ]
    depth_mm: Annotated[float, Meta(description="of its groove in each piece")]
    thickness_mm: float
    width_mm: float
    length_mm: float
    low_mm: float
    high_mm: float
    stopped_low: bool
    stopped_high: bool
    most_mm: Annotated[list[float | None], Meta(description="how deep it could go in either piece")]


class CornerBlockData(TypedDict):
    """A block fitted into a corner from inside."""

    corner: str
    leg_mm: float
    base_mm: float
    deep_mm: float
    low_mm: float
    high_mm: float
    length_mm: float


class WayData(TypedDict):
    """What one way of holding a corner glues."""

    way: Literal["none", "straight", "veneer", "dovetail", "spline", "block"]
    chosen: bool
    miter_mm2: float
    miter_grain: Literal["end", "long"]
    long_grain_mm2: float
    grain_off_deg: float


class StrengthData(TypedDict):
    """One corner held each way: the chosen as they are, others as they would begin."""

    corner: str
    ways: list[WayData]


class KeySettingData(TypedDict):
    """The slots that share one setting."""

    fence_mm: float
    heights_mm: list[float]
    passes_mm: list[float]
    slots: int
    depth_mm: float
    cradle_deg: float
    edge: Edge
    corners: list[str]
    tip_deg: float
    set: Literal["keys", "other_keys"]


class MendData(TypedDict):
    """One value that a fix sets."""

    address: str
    value: Any


class FindingData(TypedDict):
    """What is wrong, or worth knowing, and what would mend it."""

    code: str
    severity: Severity
    where: str
    text: str
    numbers: dict[str, float]
    fixes: list[str]
    mends: list[list[MendData]]


class StoodData(TypedDict):
    """One thing packed with others: its lowest corner and its far one; along, across, up from the floor."""

    low: list[float]
    high: list[float]


class BlockData(TypedDict):
    """Things of one kind, standing together."""

    name: str
    count: int
    columns: Annotated[int | None, Meta(description="null for round things packed together")]
    rows: Annotated[int | None, Meta(description="null for round things packed together")]
    layers: int
    x_mm: float
    y_mm: float
    length_mm: float
    width_mm: float
    spots_mm: Annotated[Points, Meta(description="middles of the things of one layer")]
    stood_mm: Annotated[
        list[StoodData], Meta(description="of things packed together each one, from the floor up")
    ]


class ContentsData(TypedDict):
    """What the contents need inside, with their play; blocks seen from above, the box's middle at 0."""

    length_mm: float
    width_mm: float
    height_mm: float
    room_mm: float
    blocks: list[BlockData]


class LinerData(TypedDict):
    """A liner."""

    sides: list[SideData]
    base_mm: float
    headroom_mm: float
    board_needed_mm: float


class DadoData(TypedDict):
    """The dado of one end of a divider."""

    side: str
    at_mm: Annotated[
        float, Meta(description="from the start of the inner face's bottom edge to the near edge of the dado")
    ]
    tilt_deg: Annotated[
        float, Meta(description="blade from square; positive: toward the side's end as it goes in")
    ]
    gauge_deg: Annotated[
        float,
        Meta(description="swing from square to the bottom edge; positive: toward the side's end as it rises"),
    ]
    depth_mm: Annotated[float, Meta(description="at the deeper edge: the blade's height")]


class DividerData(TypedDict):
    """A divider in its two dadoes."""

    name: str
    run: Run
    length_mm: float
    height_mm: float
    thickness_mm: float
    start_mm: float
    notches_mm: list[float]
    top_length_mm: Annotated[float, Meta(description="length at its top edge, where walls lean")]
    dadoes: list[DadoData]
    outline_mm: Annotated[Points, Meta(description="its foot seen from above")]
    leans_deg: list[float]


class CompartmentsData(TypedDict):
    """The rooms between dividers."""

    widths_mm: list[float]
    depths_mm: list[float]


class RoofData(TypedDict):
    """The angles of a house."""

    pitch_deg: float
    ridge_bevel_deg: float
    eaves_bevel_deg: float
    wall_top_bevel_deg: float
    overhang_mm: float
    laid_on: bool
    wall_mm: float
    roof_mm: float


class EdgeData(TypedDict):
    """One edge of a piece."""

    id: str
    bevel_deg: float
    miter_deg: float | None


class PlaceData(TypedDict):
    """Where a piece stands in the box: its origin and axes."""

    origin: Vector
    x: Vector
    y: Vector
    z: Vector


class ArcData(TypedDict):
    """A part of an outline that goes round a centre, counter-clockwise."""

    to: Point
    center: Point


class FeatureData(TypedDict):
    """What is cut into a face: an outline there, a profile along a path, or what lies between two ends in space."""

    id: str
    kind: str
    face: Literal["show", "inside"]
    depth_mm: float
    path: NotRequired[Points]
    profile: NotRequired[Points]
    outline: NotRequired[list[Annotated[list[float], Meta(min_length=2, max_length=2)] | ArcData]]
    ends: NotRequired[list[list[Annotated[list[float], Meta(min_length=3, max_length=3)]]]]


class PieceData(TypedDict):
    """One piece, in its own frame."""

    id: str
    part: str
    name: str
    stock: str
    thickness_mm: float
    length_mm: float
    width_mm: float
    grain_deg: float
    show_face: Points
    inside_face: Points
    edges: list[EdgeData]
    features: list[FeatureData]
    place: PlaceData


class AfterData(TypedDict):
    """A step that comes before, and why."""

    step: str
    why: str


class StepData(TypedDict):
    """One step of the work."""

    id: str
    operation: str
    tool: str
    tool_name: Annotated[
        str, Meta(description="the maker's own name for it; empty for the saw, tape, the hand")
    ]
    cut_mm: Annotated[float | None, Meta(description="how wide one pass of the tool cuts")]
    title: str
    pieces: list[str]
    makes: list[str]
    after: list[AfterData]
    lies: Lies
    edge: Edge | None
    settings: list[Setting]
    passes: Annotated[int, Meta(ge=1)]
    setting: str
    how: str
    cautions: list[str]


class PlanData(TypedDict):
    """What `peristyle plan FILE --json` prints. Lengths in mm, angles in degrees, unrounded."""

    format: Literal["peristyle-plan"]
    version: Literal[2]
    name: str
    units: Units
    buildable: Annotated[bool, Meta(description="No finding says stop.")]
    height_mm: Annotated[float, Meta(gt=0, description="Height of the closed box as glued.")]
    finished_height_mm: Annotated[float, Meta(description="After the lid is freed and trued.")]
    standing_height_mm: Annotated[
        float, Meta(description="The same with feet and banding: as the box stands.")
    ]
    front: str
    outline: OutlineData
    sides: list[SideData]
    corners: list[CornerData]
    wrap: WrapData
    section: SectionData
    panels: list[PanelData]
    keys: list[KeyData]
    key_settings: list[KeySettingData]
    keep_outs: list[KeepOutData]
    splines: list[SplineData]
    corner_blocks: list[CornerBlockData]
    strength: list[StrengthData]
    findings: list[FindingData]
    contents: ContentsData | None
    liner: LinerData | None
    dividers: list[DividerData]
    compartments: CompartmentsData
    roof: RoofData | None
    pieces: list[PieceData]
    cut_already: list[PieceData]
    steps: list[StepData]
