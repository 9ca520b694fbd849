"""What cuts what: the tool of each operation, and how wide one pass of it is."""

from typing import Final, NamedTuple

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Keys
from peristyle.model.job import Job
from peristyle.model.tools import BandSaw, Bit, Blade, DadoSet, HandSaw, MiterSaw, Tool, Use, can, named

# What a step and its cautions call a tool.
_KINDS: Final[dict[type, str]] = {
    Blade: "table_saw", DadoSet: "table_saw", MiterSaw: "miter_saw", BandSaw: "band_saw", HandSaw: "hand_saw",
    Bit: "router_table",
}  # fmt: skip


class Cutter(NamedTuple):
    """What makes a cut: the kind of tool, the maker's name for it (none for the saw), how wide one pass can be."""

    tool: str
    name: str
    least_mm: float
    most_mm: float
    tilts: bool = True

    def takes(self, width_mm: float) -> float:
        """How wide one pass is (mm) of a cut that is to be so wide in all."""
        return min(self.most_mm, max(self.least_mm, width_mm))


def cutter(job: Job, use: Use) -> Cutter:
    """What is used for a cut; without a tool of its own the saw, for resawing what the shop has that reaches."""
    chosen = named(job.shop.tools, getattr(job.shop.uses, use))
    if chosen is None and use == "resaw":
        chosen = _band_saw(job) or (None if saw_passes(job) else _hand_saw(job))
    there = chosen is not None and can(chosen, use) and at_hand(job, chosen)
    made = of_tool(chosen) if chosen is not None and there else _usual(job, use)
    lid = job.design.section.lid
    return made._replace(least_mm=lid.kerf_mm, most_mm=lid.kerf_mm) if use == "lid" and lid else made


def at_hand(job: Job, tool: Tool) -> bool:
    """Whether the shop has the machine a tool goes on: blades and dado sets want a table saw."""
    return job.shop.saw.table_saw or not isinstance(tool, Blade | DadoSet)


def _usual(job: Job, use: Use) -> Cutter:
    """What cuts where no tool is chosen: the saw, or what takes its place in a shop without a table saw."""
    saw = the_saw(job, use)
    return saw if job.shop.saw.table_saw or saw.tool != "table_saw" else _instead(job, use)


# What takes a table saw's place, in the order makers would choose (common practice); by hand where there is none.
_INSTEAD: Final[dict[Use, tuple[type, ...]]] = {
    "resaw": (BandSaw, HandSaw), "rip": (BandSaw, HandSaw), "crosscut": (MiterSaw, HandSaw, BandSaw),
    "groove": (Bit,), "rabbet": (Bit,), "dado": (Bit,), "spline": (Bit,), "slot": (Bit, HandSaw),
    "lid": (BandSaw, HandSaw),
}  # fmt: skip
_HAND_KERF_MM: Final = 1.0  # what a hand saw that is not in the list takes (common practice)
_PLANE_MM: Final = (1.0, 50.0)  # how wide a plow plane's irons are (common practice)


def _instead(job: Job, use: Use) -> Cutter:
    known = [
        tool
        for kind in _INSTEAD.get(use, ())
        for tool in job.shop.tools
        if isinstance(tool, kind) and can(tool, use)
    ]
    wide = _wanted_mm(job, use)
    if wide is not None:
        bits = [tool for tool in known if isinstance(tool, Bit) and tool.width_mm <= wide + DEFAULT.length_mm]
        known = [*sorted(bits, key=lambda bit: -bit.width_mm), *(t for t in known if not isinstance(t, Bit))]
    if known:
        return of_tool(known[0])
    if use in ("groove", "rabbet"):
        return Cutter("plow_plane", "", *_PLANE_MM, False)
    if use in ("dado", "spline"):  # both cheeks sawn, what is between pared out
        return Cutter("hand_saw", "", *_PLANE_MM)
    return Cutter("hand_saw", "", _HAND_KERF_MM, _HAND_KERF_MM)


def _wanted_mm(job: Job, use: Use) -> float | None:
    """How wide the narrowest cut of a use is; None where it takes any width."""
    design = job.design
    wide: list[float] = []
    if use == "groove":
        panels = (design.section.bottom, design.section.top)
        wide = [
            panel.thickness_mm + panel.fit_mm
            for panel in panels
            if panel is not None and panel.seat == "groove"
        ]
    elif use == "dado" and design.inside.dividers is not None:
        wide = [design.inside.dividers.thickness_mm]
    elif use == "spline" and design.joints.splines is not None:
        wide = [design.joints.splines.thickness_mm]
    elif use == "slot" and design.joints.keys is not None:
        wide = [design.joints.keys.thickness_mm]
    return min(wide, default=None)


def _band_saw(job: Job) -> BandSaw | None:
    """The band saw that reaches through the board on edge, None without one: boards are resawn there, not on the
    table saw (common practice).
    """
    wide = job.stock.board.width_mm
    return next((tool for tool in job.shop.tools if isinstance(tool, BandSaw) and tool.high_mm >= wide), None)


def _hand_saw(job: Job) -> HandSaw | None:
    return next((tool for tool in job.shop.tools if isinstance(tool, HandSaw)), None)


def saw_passes(job: Job) -> int:
    """In how many passes the table saw resaws the board: one, two from both edges, 0 where it does not reach."""
    wide, high = job.stock.board.width_mm, job.shop.table.blade_high_mm
    if not job.shop.saw.table_saw:
        return 0
    return 1 if wide <= high + DEFAULT.length_mm else 2 if wide <= 2 * high + DEFAULT.length_mm else 0


def the_saw(job: Job, use: Use) -> Cutter:
    """The saw itself, whatever else could be used."""
    saw = job.shop.saw
    miter = saw.kind == "miter_saw" and use == "crosscut"
    return Cutter("miter_saw" if miter else "table_saw", "", saw.kerf_mm, saw.kerf_mm)


def key_cutter(job: Job, keys: Keys) -> Cutter | None:
    """What cuts the slots of keys; None where the shop has nothing for it.

    A dovetail is cut by a bit of its own width and angle. Veneer goes into the cut of what is used for slots, or of
    the widest other tool that is thin enough.
    """
    if keys.kind == "dovetail":
        bits = (tool for tool in job.shop.tools if isinstance(tool, Bit) and tool.cuts == "dovetail")
        found = next(
            (
                bit
                for bit in bits
                if abs(bit.width_mm - keys.thickness_mm) < 0.005
                and abs(bit.angle_deg - keys.angle_deg) < 0.005
            ),
            None,
        )
        return of_tool(found) if found else None
    own = cutter(job, "slot")
    if (
        keys.kind == "veneer"
        and not job.shop.uses.slot
        and own.least_mm > keys.thickness_mm + DEFAULT.length_mm
    ):
        name = fitting(job, "slot", keys.thickness_mm)
        return of_tool(tool) if name and (tool := named(job.shop.tools, name)) else None
    return own


def of_tool(tool: Tool) -> Cutter:
    """How wide a tool of the shop cuts, and whether it tilts."""
    kind = _KINDS[type(tool)]
    if isinstance(tool, DadoSet):
        return Cutter(kind, tool.name, tool.least_mm, tool.most_mm)
    wide: float = tool.width_mm if isinstance(tool, Bit) else tool.kerf_mm  # type: ignore[union-attr]
    return Cutter(kind, tool.name, wide, wide, isinstance(tool, Blade))


def fitting(job: Job, use: Use, width_mm: float, *, tilted: bool = False) -> str | None:
    """The name of the tool that makers would choose for a cut so wide: that which does it in the fewest passes.

    The empty name is the saw; None where nothing in the shop is narrow enough.
    """
    shop = (of_tool(tool) for tool in job.shop.tools if can(tool, use) and at_hand(job, tool))
    known = [_usual(job, use), *shop]
    good = [
        one for one in known if one.least_mm <= width_mm + DEFAULT.length_mm and (one.tilts or not tilted)
    ]
    return max(good, key=lambda one: one.takes(width_mm)).name if good else None
