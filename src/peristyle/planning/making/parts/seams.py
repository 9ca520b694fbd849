"""Hinges where two boards of a lid meet: between its two parts, or at a roof's ridge."""

import math
from collections.abc import Iterator
from typing import Final, NamedTuple

from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Point, dot
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Gable, Hinges, Split, side_name
from peristyle.planning.findings import Finding, Fix, reader
from peristyle.planning.making.kind import Phase, Settled
from peristyle.planning.making.parts.covers import COVERS, halves
from peristyle.planning.making.parts.rims import PAST_MM
from peristyle.planning.making.piece import Feature, Piece
from peristyle.planning.making.setting import SAME_SETTING, Setting, height, width
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.covers import parting_mm, roof_of
from peristyle.planning.section.hardware import Spot
from peristyle.planning.section.hinge_findings import BUTTS
from peristyle.planning.section.rim_findings import BESIDE_MM, NO_HINGES, PLACE

_LEAST_LEAF_MM: Final = 3.0  # of a leaf in the wood, to be screwed through (our rule)
_START: Final = "where the seam begins, along it"


class Seam(NamedTuple):
    """Where the fixed and the loose board of a lid meet: a level line under their upper arrises, from above.

    It runs from `start` `long_mm` along `along`; `across` points from it to the loose board. Both edges are plumb,
    `high_mm` high from `top_mm` down, and `gap_mm` apart.
    """

    fixed: Piece
    loose: Piece
    start: Point
    along: Point
    across: Point
    long_mm: float
    top_mm: float
    high_mm: float
    gap_mm: float

    def at(self, run: float, out: float, level: float) -> tuple[float, float, float]:
        """A point so far along the seam, so far toward the loose board, at a level."""
        (x, y), (ax, ay), (nx, ny) = self.start, self.along, self.across
        return x + ax * run + nx * out, y + ay * run + ny * out, level


def seam_of(plan: Settled) -> Seam | None:
    """The seam of a lid in two, or of a roof; None of any other, or where there is none."""
    if not plan.ring.stands:
        return None
    cover = plan.job.design.section.cover
    if isinstance(cover, Split):
        return _parting(plan, cover)
    return _ridge(plan, cover) if isinstance(cover, Gable) else None


def _parting(plan: Settled, cover: Split) -> Seam | None:
    parts, groove = halves(plan), plan.section.groove("lid")
    pieces = {piece.id: piece for piece in COVERS.pieces(plan)}
    fixed, loose = pieces.get("panel.lid.fixed"), pieces.get("panel.lid.loose")
    if parts is None or groove is None or fixed is None or loose is None:
        return None
    slab = plan.ring.slabs[cover.side % len(plan.ring.slabs)]
    u, a = (slab.ux, slab.uy), (-slab.uy, slab.ux)
    outs = parting_mm(plan.job.design, plan.ring, cover)

    def reach(outline: Points, out: float) -> tuple[float, float]:
        runs = [x * a[0] + y * a[1] for x, y in outline if abs(x * u[0] + y * u[1] - out) < 1e-6]
        return min(runs, default=0.0), max(runs, default=0.0)

    (low, high), (first, last) = (reach(part, out) for part, out in zip(parts, outs, strict=True))
    low, high = max(low, first), min(high, last)
    middle = (outs[0] + outs[1]) / 2
    start = (u[0] * middle + a[0] * low, u[1] * middle + a[1] * low)
    top = groove.rests_mm + fixed.thickness_mm
    return Seam(
        fixed, loose, start, a, (-u[0], -u[1]), high - low, top, fixed.thickness_mm, outs[0] - outs[1]
    )


def _ridge(plan: Settled, cover: Gable) -> Seam | None:
    roof = roof_of(plan.job.design, plan.ring.slabs)
    if roof is None:
        return None
    pieces = {piece.id: piece for piece in COVERS.pieces(plan)}
    fixed, loose = (pieces[f"roof.{side_name(roof.under_eaves[n])}"] for n in (1, 0))
    slab = plan.ring.slabs[roof.under_eaves[0]]
    x, y, top = loose.place.of((0.0, roof.slope_mm, 0.0))
    long = roof.long_mm + 2 * cover.ends_mm
    high = cover.thickness_mm / math.cos(math.radians(cover.pitch_deg))
    return Seam(fixed, loose, (x, y), slab.along[:2], (slab.ux, slab.uy), long, top, high, 0.0)


def sunk_mm(own: Hinges, seam: Seam) -> float:
    """How deep a leaf is let into either edge, so that the two lie in the gap: 0 where the gap holds them."""
    deep = own.thick_mm - seam.gap_mm / 2
    return deep if deep > SAME_SETTING else 0.0


def seam_spots(own: Hinges, seam: Seam) -> tuple[Spot, ...]:
    """Where they lie along the seam: the outer ones as far in as asked, those between evenly."""
    first, last = own.inset_mm, seam.long_mm - own.inset_mm - own.length_mm
    if own.count == 1:
        first = last = (seam.long_mm - own.length_mm) / 2
    step = (last - first) / max(1, own.count - 1)
    return tuple(Spot(n + 1, 0, first + n * step, first + n * step + own.length_mm) for n in range(own.count))


def seam_features(own: Hinges, seam: Seam) -> Iterator[tuple[str, Feature]]:
    """The mortises in both edges, from the upper face down."""
    deep, within = sunk_mm(own, seam), own.leaf_mm - own.out_mm
    if not deep:
        return
    for piece, way in ((seam.fixed, -1.0), (seam.loose, 1.0)):
        # As far over the upper face as the leaf's own rise past it: what is drawn out of the wood cuts nothing.
        outs = (-way * PAST_MM, way * (seam.gap_mm / 2 + deep))
        levels = (seam.top_mm + PAST_MM + deep, seam.top_mm - within)
        for spot in seam_spots(own, seam):
            ends = tuple(
                tuple(
                    piece.place.back(seam.at(run, out, level))
                    for out, level in (
                        (outs[0], levels[0]), (outs[1], levels[0]), (outs[1], levels[1]), (outs[0], levels[1]),
                    )
                )
                for run in (spot.begins_mm, spot.ends_mm)
            )  # fmt: skip
            yield (
                piece.id,
                Feature(f"{piece.id}.hinge.{spot.number}", "mortise", "show", in_mm=within, ends=ends),
            )


def seam_steps(own: Hinges, seam: Seam) -> Iterator[tuple[Phase, Step]]:
    """Scrap first, both edges, then hung, taken off, finished, hung again."""
    if own.pattern != "butt":
        return
    deep, within = sunk_mm(own, seam), own.leaf_mm - own.out_mm
    numbers = {
        "count": float(own.count), "out_mm": own.out_mm, "barrel_mm": own.barrel_mm, "within_mm": within,
        "thick_mm": own.thick_mm, "sunk_mm": deep, "screw_mm": own.screw_mm, "half_mm": deep / 2,
        "screws": float(2 * own.count * own.screws), "gap_mm": seam.gap_mm,
    }  # fmt: skip
    pieces, names = (seam.fixed.id, seam.loose.id), {"side": ""}
    lines = [
        Setting("stop", mm, "mm", _START, "the knife line")
        for spot in seam_spots(own, seam)
        for mm in (spot.begins_mm, spot.ends_mm)
    ]
    if deep:
        yield "last", make("try_hinge", (), tool="scrap", says=("try_hinge.seam",), numbers=numbers)
    yield "last", make(
        "hinge_mortise", pieces, "seam", tool="by_hand", makes=[feature.id for _p, feature in seam_features(own, seam)],
        settings=(*lines, width(within), *((height(deep),) if deep else ())), passes=2 * own.count,
        says=("hinge_mortise.seam", "hinge_mortise.seam_sunk" if deep else "hinge_mortise.seam_flat"),
        numbers=numbers, names=names, title="hinge_mortise.seam",
    )  # fmt: skip
    for phase, operation in _HUNG:
        yield phase, make(operation, pieces, tool="by_hand", says=(operation,), numbers=numbers, names=names)


_HUNG: Final[tuple[tuple[Phase, str], ...]] = (
    ("last", "hinge_hang"), ("last", "hinge_off"), ("finish", "hinge_again"),
)  # fmt: skip


def seam_findings(plan: Settled, own: Hinges, seam: Seam) -> Iterator[Finding]:
    """What would keep the loose board from turning, or its leaves from lying in the edges."""
    fmt = reader(plan.job.design)

    def stop(code: str, numbers: dict[str, float], *fixes: Fix) -> Finding:
        return Finding(code, "stop", PLACE, numbers, (*fixes, NO_HINGES))

    def sized(key: str, name: str, value: float) -> Fix:
        return Fix(key, ((f"section.hinges.{name}", value),), {name: value})

    if own.pattern != "butt":
        yield stop("seam_butts", {}, BUTTS)
        return
    within = own.leaf_mm - own.out_mm
    if within > seam.high_mm - BESIDE_MM + DEFAULT.length_mm:
        narrow = fmt.down(seam.high_mm - BESIDE_MM + own.out_mm)
        fits = narrow - own.out_mm >= _LEAST_LEAF_MM
        numbers = {"within_mm": within, "high_mm": seam.high_mm}
        yield stop("seam_leaf_wide", numbers, *([sized("hinge_leaf", "leaf_mm", narrow)] if fits else []))
    elif within < _LEAST_LEAF_MM:
        wide = fmt.up(own.out_mm + _LEAST_LEAF_MM)
        fits = wide - own.out_mm <= seam.high_mm - BESIDE_MM
        fixes = [sized("hinge_leaf", "leaf_mm", wide)] if fits else []
        yield stop("hinge_leaf_narrow", {"within_mm": max(0.0, within)}, *fixes)
    if own.out_mm < own.barrel_mm / 2:
        numbers = {"out_mm": own.out_mm, "barrel_mm": own.barrel_mm}
        yield stop("seam_barrel_in", numbers, sized("hinge_out", "out_mm", fmt.up(own.barrel_mm / 2)))
    if seam.gap_mm > 2 * own.thick_mm + DEFAULT.length_mm:
        gap = fmt.down(2 * own.thick_mm)
        fix = Fix("seam_gap", (("section.cover.gap_mm", gap),), {"gap_mm": gap})
        yield stop("seam_gap_wide", {"gap_mm": seam.gap_mm, "leaves_mm": 2 * own.thick_mm}, fix)
    room = seam.long_mm - 2 * BESIDE_MM
    places = seam_spots(own, seam)
    if places[0].begins_mm < BESIDE_MM - DEFAULT.length_mm or (
        len(places) > 1 and places[1].begins_mm < places[0].ends_mm + BESIDE_MM
    ):
        most = max(1, math.floor((room + BESIDE_MM) / (own.length_mm + BESIDE_MM)))
        changes = (
            ("section.hinges.inset_mm", fmt.up(BESIDE_MM)),
            ("section.hinges.count", min(own.count, most)),
        )
        moved = Fix("hinge_inset", changes, {"inset_mm": fmt.up(BESIDE_MM)})
        numbers = {"room_mm": max(0.0, room), "long_mm": own.length_mm}
        yield stop("seam_no_room", numbers, *([moved] if room >= own.length_mm else []))
    deepest = min(_depth_mm(piece, seam) for piece in (seam.fixed, seam.loose)) - BESIDE_MM
    if own.screw_mm + sunk_mm(own, seam) > deepest:
        short = fmt.down(deepest - sunk_mm(own, seam))
        yield stop("seam_screw_long", {"screw_mm": own.screw_mm, "wide_mm": deepest + BESIDE_MM},
                   *([sized("hinge_screw", "screw_mm", short)] if short > _LEAST_LEAF_MM else []))  # fmt: skip


def _depth_mm(piece: Piece, seam: Seam) -> float:
    """How much wood lies behind a board's edge, level and square to it."""
    nx, ny = seam.across
    outs = [dot(piece.place.of((x, y, 0.0)), (nx, ny, 0.0)) for x, y in piece.show_face]
    return max(outs) - min(outs)
