"""The operations for what stands inside and what is glued up: dadoes, dividers, a liner, segments."""

import math
from collections.abc import Iterator, Sequence

from peristyle.core.lengths import Format
from peristyle.core.outlines import run
from peristyle.model.design import replace, side_name
from peristyle.model.job import Job
from peristyle.planning.cut import SAME_SETTING, Cut, same, with_short
from peristyle.planning.divider_plan import DividersPlan
from peristyle.planning.dividers import DadoPlan
from peristyle.planning.grooves import passes
from peristyle.planning.liner import LinerPlan, liner_design
from peristyle.planning.ring import RingPlan
from peristyle.planning.ring_cuts import bevels, crosscuts, mitered_ends, piece_rips, rips
from peristyle.planning.section import PanelPlan
from peristyle.planning.segments import CUT_ERROR_DEG, SegmentsPlan


def dado_cuts(job: Job, walls: RingPlan, dividers: DividersPlan, fmt: Format) -> Iterator[Cut]:
    """The dadoes, each from its side's start: equal settings on several sides together."""
    groups: dict[tuple[int, ...], list[DadoPlan]] = {}
    for dado in sorted(
        (dado for piece in dividers.pieces for dado in piece.dadoes), key=lambda d: (d.side, d.at_mm)
    ):
        stop = _stop(walls, dado)
        groups.setdefault(same(stop, dado.tilt_deg, dado.gauge_deg, dado.depth_mm), []).append(dado)
    if not groups or job.design.inside.dividers is None:
        return
    thick = job.design.inside.dividers.thickness_mm
    offsets = passes(thick, job.shop.saw.kerf_mm)
    low = 0.0 if dividers.in_liner else job.design.floor_mm
    end = fmt.length(low + job.design.inside.dividers.height_mm, unit=True)
    for members in groups.values():
        first = members[0]
        stop = _stop(walls, first)
        # A slanted cut is wider on the face than the divider is thick.
        widen = math.cos(math.radians(first.tilt_deg)) * math.cos(math.radians(first.gauge_deg))
        fences = tuple(stop + offset / widen for offset in offsets)
        names = ", ".join(side_name(dado.side) for dado in members)
        slant = f"tilt {fmt.angle(abs(first.tilt_deg))} toward the side's " if first.tilt_deg else ""
        slant += ("end, " if first.tilt_deg > 0 else "start, ") if slant else ""
        gauge = f"gauge {fmt.angle(abs(first.gauge_deg))}, " if first.gauge_deg else ""
        yield Cut(
            0, "dado", f"Dado in {names}",
            sides=tuple(dado.side for dado in members),
            tilt_deg=first.tilt_deg, gauge_deg=first.gauge_deg, stop_mm=stop, fences_mm=fences,
            depth_mm=first.depth_mm, count=len(members) * len(fences),
            setting=f"{slant}{gauge}{' · '.join(fmt.length(f) for f in fences)} {fmt.units} from the start, "
            f"depth {fmt.length(first.depth_mm, unit=True)}",
            how="Inside face down, the side's start against the stop"
            + (f"; {len(fences)} passes" if len(fences) > 1 else "")
            + f". Dividers reach {end} up: stop the dado there, or let it run on to the top edge.",
            cautions=with_short(("guard", "groove"), walls.sides[first.side].outside_mm),
        )  # fmt: skip


def _stop(walls: RingPlan, dado: DadoPlan) -> float:
    """From where the piece reaches furthest at its start, which lies at the stop, to the dado's near edge."""
    side, slab = walls.sides[dado.side], walls.slabs[dado.side]
    begin = run(slab, side.foot[0], walls.inner_bottom[dado.side - 1])
    return begin + dado.at_mm - min(x for x, _y in (*side.outer_face, *side.inner_face))


def divider_cuts(job: Job, dividers: DividersPlan, fmt: Format) -> Iterator[Cut]:
    """Dividers to length, and the halving slots where they cross."""
    own = job.design.inside.dividers
    if own is None:
        return
    lengths: dict[tuple[int, ...], list[int]] = {}
    halved: dict[tuple[int, ...], list[int]] = {}
    for number, piece in enumerate(dividers.pieces):
        lengths.setdefault(same(piece.length_mm, piece.top_length_mm, *piece.leans_deg), []).append(number)
        if piece.notches_mm:
            halved.setdefault((int(piece.run == "along"), *same(*piece.notches_mm)), []).append(number)
    for members in lengths.values():
        piece = dividers.pieces[members[0]]
        longest = max(piece.length_mm, piece.top_length_mm)
        leans = [fmt.angle(abs(lean)) for lean in piece.leans_deg]
        leaning = any(abs(lean) > SAME_SETTING for lean in piece.leans_deg)
        gauge = f", ends swung {' and '.join(dict.fromkeys(leans))}" if leaning else ""
        longer = "top edge" if piece.top_length_mm > piece.length_mm else "foot"
        yield Cut(
            0, "divider", "Cut " + _names(dividers, members), "divider", items=tuple(members),
            tilt_deg=0.0, gauge_deg=max(abs(lean) for lean in piece.leans_deg), stop_mm=longest,
            fences_mm=(piece.height_mm,), depth_mm=piece.thickness_mm, count=len(members),
            setting=f"{fmt.length(longest)} × {fmt.length(piece.height_mm)} {fmt.units}, "
            f"{fmt.length(piece.thickness_mm, unit=True)} thick{gauge}",
            how="Ends square to the faces. "
            + (f"The length is at its {longer}. " if leaning else "")
            + "Plane it until it slides into its dadoes by hand: glue swells it.",
            cautions=with_short(("guard", "stop_clear"), longest),
        )  # fmt: skip
    for members in halved.values():
        piece = dividers.pieces[members[0]]
        edge = "foot" if piece.run == "along" else "top edge"
        slots = tuple(
            notch + offset
            for notch in piece.notches_mm
            for offset in passes(own.thickness_mm, job.shop.saw.kerf_mm)
        )
        yield Cut(
            0, "halve", "Halve " + _names(dividers, members), "divider", items=tuple(members),
            tilt_deg=0.0, gauge_deg=0.0, fences_mm=slots, depth_mm=piece.height_mm / 2,
            count=len(members) * len(slots),
            setting=f"slots at {' · '.join(fmt.length(f) for f in slots)} {fmt.units} from its start, "
            f"{fmt.length(piece.height_mm / 2, unit=True)} deep",
            how=f"From the {edge}, half the height, so that those across drop over those along. Measured along "
            "its foot; try the slot on an offcut of the divider.",
            cautions=with_short(("guard",), piece.length_mm),
        )  # fmt: skip


def _names(dividers: DividersPlan, members: Sequence[int]) -> str:
    words = ", ".join(dividers.pieces[number].name for number in members)
    return f"dividers {words}" if len(members) > 1 else f"divider {words}"


def liner_cuts(
    job: Job, liner: LinerPlan, order: Sequence[int], dividers: DividersPlan, fmt: Format
) -> Iterator[Cut]:
    """The liner's own sides, from a board of its own, and fitting it into the box."""
    ring, part, own = liner.ring, job.design.inside.liner, liner_design(job)
    if not ring.sides or part is None:
        return
    steps = [
        *rips(own, ring, fmt),
        *crosscuts(own, ring, order, fmt),
        *piece_rips(own, ring, fmt),
        *mitered_ends(own, ring, fmt),
        *bevels(own, ring, order, fmt),
        *(dado_cuts(job, ring, dividers, fmt) if dividers.in_liner else ()),
    ]
    for cut in steps:
        yield replace(cut, title=f"Liner: {cut.title[:1].lower()}{cut.title[1:]}", part="liner")
    room = fmt.length(abs(liner.headroom_mm), unit=True)
    edge = "top panel" if job.design.section.top else "rim"
    over = f"past the {edge}" if liner.headroom_mm < 0 else f"below the {edge}"
    yield Cut(
        0, "liner_fit", "Fit the liner", "liner",
        setting=f"{fmt.length(part.gap_mm, unit=True)} of room each side, {room} {over}",
        how="Tape it dry inside the finished box before any glue: it must drop in by its own weight and come out "
        "by hand. Plane its outside where it binds.",
        cautions=("glue", "manual"),
    )  # fmt: skip


def segment_cuts(number: int, panel: PanelPlan, part: SegmentsPlan, fmt: Format) -> Iterator[Cut]:
    """The segments off their strip, then the glue-up in its order."""
    shape = "triangles" if part.inner_mm == 0 else "trapezoids"
    hole = (
        f" The ring leaves a hole {fmt.length(part.hole_mm, unit=True)} across its flats: let in a panel of its own."
        if part.inner_mm > 0
        else ""
    )
    edges = fmt.length(part.outer_mm) + (
        f" outer, {fmt.length(part.inner_mm)} inner" if part.inner_mm else ""
    )
    yield Cut(
        0, "segment", f"Cut {part.count} segments for the {panel.name}", "segment", items=(number,),
        panels=(panel.name,), tilt_deg=0.0, gauge_deg=part.miter_deg, stop_mm=part.outer_mm, fences_mm=(part.strip_mm,),
        depth_mm=panel.thickness_mm, count=part.count,
        setting=f"gauge {fmt.angle(part.miter_deg)}, edge {edges} {fmt.units}",
        how=f"{shape.capitalize()} from a strip {fmt.length(part.strip_mm)} wide and "
        f"{fmt.length(part.length_mm, unit=True)} long, turned about for every cut.{hole}",
        cautions=("guard", "small_piece", "stop_clear", "manual"),
    )  # fmt: skip
    gap = part.outer_mm / 2 / math.sin(math.pi / part.count) * math.radians(part.last_joint_deg)
    yield Cut(
        0, "segment_glue", f"Glue up the {panel.name} from its segments", "segment", items=(number,),
        panels=(panel.name,),
        count=part.count,
        setting=f"{len(part.order)} steps; leave the last joint dry",
        how="; ".join(part.order).capitalize()
        + f". With {fmt.angle(CUT_ERROR_DEG, 1)} of error in each of {2 * part.count} cuts the last joint would stand "
        f"{fmt.length(gap, unit=True)} open at the rim: that is what truing the halves takes away.",
        cautions=("glue", "manual"),
    )  # fmt: skip
