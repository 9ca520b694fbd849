"""The maker's tools besides the saw that cuts the bevels, and which of them is used for what."""

from typing import Annotated, Final, Literal

from msgspec import Meta, Struct

from peristyle.model.limits import LEAST_KERF_MM, MAX_MM, Length, Name

MOST_TOOLS: Final = 60

Width = Annotated[float, Meta(ge=LEAST_KERF_MM, le=50)]
Chosen = Annotated[str, Meta(max_length=120)]
Angle = Annotated[float, Meta(ge=0, le=89)]
Cuts = Literal["straight", "slotting", "dovetail", "chamfer", "round_over"]
Works = Literal["drum_sander", "planer", "hand_plane"]
Holds = Literal["band", "bar", "corner"]
Use = Literal[
    "plane", "resaw", "rip", "crosscut", "groove", "rabbet", "dado", "slot", "spline", "lid", "glue"
]


class Blade(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="blade"):
    """Another blade for the saw: thinner, or ground flat."""

    name: Name = "Thin blade"
    kerf_mm: Width = 1.8


class DadoSet(
    Struct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="dado_set"
):
    """Blades and chippers on the saw's arbor, as wide together as they are shimmed."""

    name: Name = "Dado set"
    least_mm: Width = 6.0
    most_mm: Width = 20.0


class MiterSaw(
    Struct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="miter_saw"
):
    """A miter saw for crosscuts: how far it swings to either side."""

    name: Name = "Miter saw"
    kerf_mm: Width = 2.4
    swing_deg: Angle = 50.0


class BandSaw(
    Struct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="band_saw"
):
    """A band saw, and how high it saws."""

    name: Name = "Band saw"
    kerf_mm: Width = 0.8
    high_mm: Length = 150.0


class HandSaw(
    Struct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="hand_saw"
):
    """A saw worked by hand."""

    name: Name = "Fine hand saw"
    kerf_mm: Width = 0.6


class Bit(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="bit"):
    """A bit for the router table; a dovetail bit has its width at its end."""

    name: Name = "Straight bit 6"
    cuts: Cuts = "straight"
    width_mm: Width = 6.0
    angle_deg: Angle = 0.0


class Thicknesser(
    Struct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="thicknesser"
):
    """What boards are surfaced with: the least length it takes, what it snipes at each end, a light pass."""

    name: Name = "Drum sander"
    works: Works = "drum_sander"
    least_mm: Annotated[float, Meta(ge=0, le=MAX_MM)] = 60.0
    snipe_mm: Annotated[float, Meta(ge=0, le=MAX_MM)] = 0.0
    pass_mm: Annotated[float, Meta(gt=0, le=10)] = 0.4


class Clamp(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="clamp"):
    """Clamps of a kind: how many, and how far they open; a band, how far it goes round."""

    name: Name = "Band clamp"
    holds: Holds = "band"
    count: Annotated[int, Meta(ge=1, le=200)] = 2
    opens_mm: Length = 4000.0


Tool = Blade | DadoSet | MiterSaw | BandSaw | HandSaw | Bit | Thicknesser | Clamp

# A sensible few to begin with. A light pass of about 0.4 mm on a drum sander is common practice.
STARTING: Final[tuple[Tool, ...]] = (
    Blade(),
    DadoSet(),
    BandSaw(),
    HandSaw(),
    Bit(),
    Bit(name="Straight bit 4", width_mm=4.0),
    Bit(name="Dovetail bit", cuts="dovetail", width_mm=12.0, angle_deg=14.0),
    Thicknesser(),
    Thicknesser(name="Planer", works="planer", least_mm=300.0, snipe_mm=60.0, pass_mm=1.0),
    Clamp(),
    Clamp(name="Bar clamps", holds="bar", count=6, opens_mm=600.0),
)


class Uses(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Which tool does what, by its name; without one the saw, a plane, or tape."""

    plane: Chosen = ""
    resaw: Chosen = ""
    rip: Chosen = ""
    crosscut: Chosen = ""
    groove: Chosen = ""
    rabbet: Chosen = ""
    dado: Chosen = ""
    slot: Chosen = ""
    spline: Chosen = ""
    lid: Chosen = ""
    glue: Chosen = ""


# What can do an operation, in the order makers would choose (common practice); the saw, a plane or tape comes first.
CAN: Final[dict[Use, tuple[type, ...]]] = {
    "plane": (Thicknesser,),
    "resaw": (BandSaw, HandSaw),
    "rip": (Blade, BandSaw),
    "crosscut": (Blade, MiterSaw),
    "groove": (Bit, DadoSet, Blade),
    "rabbet": (Bit, DadoSet),
    "dado": (Bit, DadoSet, Blade),
    "slot": (Blade, Bit, HandSaw),
    "spline": (Bit, Blade, DadoSet),
    "lid": (Blade, BandSaw, HandSaw),
    "glue": (Clamp,),
}


def can(tool: Tool, use: Use) -> bool:
    """Whether a tool of this kind does such an operation at all: of bits, a straight or a slotting one."""
    return isinstance(tool, CAN[use]) and not (
        isinstance(tool, Bit) and tool.cuts not in ("straight", "slotting")
    )


def named(tools: tuple[Tool, ...], name: str) -> Tool | None:
    """The tool of that name, None where there is none."""
    return next((tool for tool in tools if tool.name == name), None)
