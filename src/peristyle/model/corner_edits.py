"""What strengthens the corners, added, left out or made another way: sound to begin with, in the shop's own tools."""

import math

from peristyle.core.lengths import MM_PER_INCH, Format
from peristyle.model.design import CornerBlocks, KeyKind, Keys, Splines, replace
from peristyle.model.job import Job, decide, decided, revised
from peristyle.model.starts import begun
from peristyle.model.tools import Bit, Blade, HandSaw, can


def with_keys(job: Job, on: bool) -> Job:
    """Straight keys at every corner, or none."""
    return revised(job, keys=keys_begun(job, "straight") if on else None)


def keys_begun(job: Job, kind: KeyKind) -> Keys:
    """Keys of a kind as they begin: straight ones as deep as the thinnest wall lets them; veneer in the thinnest cut
    the shop makes, 10 mm in and 10 mm down each face; dovetails of the shop's own bit.

    Source: common practice.
    """
    units, fmt = job.design.units, Format(job.design.units)
    wall = min(job.design.form.thicknesses_mm)
    plain: Keys = begun(Keys, units)
    if kind == "veneer":
        thin = [tool.kerf_mm for tool in job.shop.tools if isinstance(tool, HandSaw | Blade)]
        down = 10.0 if units == "mm" else MM_PER_INCH * 3 / 8
        return replace(
            plain, kind="veneer", thickness_mm=min(thin, default=0.7), leg_mm=down, edge_margin_mm=down
        )
    if kind == "dovetail":
        bits = [tool for tool in job.shop.tools if isinstance(tool, Bit) and tool.cuts == "dovetail"]
        wide, angle = (
            (bits[0].width_mm, bits[0].angle_deg) if bits else (plain.thickness_mm * 4, plain.angle_deg)
        )
        neck = wide / 3 / math.tan(math.radians(max(angle, 1.0)))  # two thirds of its width at the arris
        return replace(
            plain, kind="dovetail", thickness_mm=wide, angle_deg=angle,
            depth_mm=max(1.0, fmt.down(min(plain.depth_mm, neck, wall * 0.8))),
        )  # fmt: skip
    return replace(plain, depth_mm=max(1.0, fmt.down(min(plain.depth_mm, wall * 0.9))))


def with_key_kind(job: Job, part: str, kind: str) -> Job:
    """Keys of another kind, none, or back to what a kind begins with; heights, number and corners stay."""
    now: Keys | None = decided(job, part)
    if kind == "none":
        return decide(job, part, None)
    if now is not None and now.kind == kind:
        return job
    made = keys_begun(job, kind)  # type: ignore[arg-type]
    if now is not None:
        made = replace(
            made, count=now.count, placed=now.placed, positions_mm=now.positions_mm, corners=now.corners
        )
    return decide(job, part, made)


def splines_begun(job: Job) -> Splines:
    """Splines as they begin: a third of the way from the inside arris, as thick as a straight bit of the shop that
    leaves more than half of the wall, else a quarter of it; as deep as the wall lets them go, and short of grooves for
    panels. Source: common practice.
    """
    fmt = Format(job.design.units)
    plain: Splines = begun(Splines, job.design.units)
    wall = min(job.design.form.thicknesses_mm)
    bevel = math.pi / max(3, job.design.side_count)
    bit = _spline_bit(job)
    thick = bit.width_mm if bit else min(plain.thickness_mm, max(1.0, fmt.down(wall / 4)))
    margin = min(plain.wall_margin_mm, fmt.down(wall / 5))
    place = max(fmt.up(margin / math.cos(bevel) + thick / 2), fmt.down(wall / math.cos(bevel) / 3))
    top, bottom = job.design.section.top, job.design.section.bottom
    if not bit:  # it cannot stop short of a panel's groove: let it pass outside
        deep = max((panel.depth_mm for panel in (top, bottom) if panel), default=0.0)
        past = fmt.up((deep + 0.3) / math.cos(bevel) + thick / 2) if deep else place
        room = (wall - margin - (past + thick / 2) * math.cos(bevel)) / math.sin(bevel)
        place = max(place, past) if room >= 1.5 else place
    most = (wall - margin - (place + thick / 2) * math.cos(bevel)) / math.sin(bevel)
    short = margin if bit else 0.0
    made: Splines = replace(
        plain, thickness_mm=thick, wall_margin_mm=margin, place_mm=place,
        depth_mm=max(0.5, fmt.down(min(plain.depth_mm, most))),
        stop_bottom_mm=fmt.up(bottom.height_mm + bottom.thickness_mm + bottom.fit_mm + short) if bit and bottom else 0,
        stop_top_mm=fmt.up(top.height_mm + top.thickness_mm + top.fit_mm + short) if bit and top else 0,
    )  # fmt: skip
    return made


def _spline_bit(job: Job) -> Bit | None:
    """The widest straight bit of the shop that leaves more than half of the thinnest wall."""
    wall = min(job.design.form.thicknesses_mm)
    bits = [
        t for t in job.shop.tools if isinstance(t, Bit) and can(t, "spline") and t.width_mm <= wall * 0.45
    ]
    return max(bits, key=lambda bit: bit.width_mm, default=None)


def with_splines(job: Job, on: bool) -> Job:
    """Splines in every miter, routed where the shop has a bit for it; or none."""
    bit = _spline_bit(job)
    if on and bit:
        job = revised(job, uses=replace(job.shop.uses, spline=bit.name))
    return revised(job, splines=splines_begun(job) if on else None)


def with_spline_count(job: Job, count: int) -> Job:
    """No splines, one in every joint, or two side by side with wood between them."""
    if count == 0:
        return with_splines(job, False)
    if job.design.joints.splines is None:
        job = with_splines(job, True)
    splines = job.design.joints.splines
    assert splines is not None
    apart = max(splines.apart_mm, Format(job.design.units).up(splines.thickness_mm + splines.wall_margin_mm))
    return revised(job, splines=replace(splines, count=count, apart_mm=apart))


def with_corner_blocks(job: Job, on: bool) -> Job:
    """A block in every corner, or none."""
    return revised(job, corner_blocks=begun(CornerBlocks, job.design.units) if on else None)


def kinds_at(job: Job, corner: int) -> str:
    """Which of the two kinds of keys a corner has: `keys`, `other`, `both` or `none`."""
    own = {
        name: keys is not None and (not keys.corners or corner in keys.corners)
        for name, keys in (("keys", job.design.joints.keys), ("other", job.design.joints.other_keys))
    }
    return "both" if all(own.values()) else next((name for name, on in own.items() if on), "none")


def with_kinds_at(job: Job, corner: int, which: str) -> Job:
    """A corner given one kind of keys or the other, both, or none. A second kind begins as dovetails, or as straight
    keys beside others, and only there.
    """
    first, second = job.design.joints.keys, job.design.joints.other_keys
    if which in ("other", "both") and second is None:
        kind: KeyKind = "straight" if first is not None and first.kind != "straight" else "dovetail"
        second = replace(keys_begun(job, kind), corners=(corner,))
    if which in ("keys", "both") and first is None:
        first = replace(keys_begun(job, "straight"), corners=(corner,))
    count = job.design.side_count
    job = decide(job, "keys", _given(first, corner, count, on=which in ("keys", "both")))
    return decide(job, "other_keys", _given(second, corner, count, on=which in ("other", "both")))


def _given(keys: Keys | None, corner: int, count: int, *, on: bool) -> Keys | None:
    """The keys with a corner of theirs added or taken away; none where they have no corner left."""
    if keys is None:
        return None
    now = set(keys.corners or range(count))
    now = now | {corner} if on else now - {corner}
    if not now:
        return None
    made: Keys = replace(keys, corners=() if len(now) == count else tuple(sorted(now)))
    return made


def key_moved(
    job: Job, part: str, heights_mm: tuple[float, ...], number: int, height_mm: float | None
) -> Job:
    """The heights of one kind of keys with one of them put elsewhere, taken away (None), or added (its number past the
    last).
    """
    keys: Keys = decided(job, part)
    placed = [*heights_mm[:number], *([] if height_mm is None else [height_mm]), *heights_mm[number + 1 :]]
    if not placed:
        return decide(job, part, None)
    return decide(job, part, replace(keys, positions_mm=tuple(sorted(placed)), count=len(placed)))
