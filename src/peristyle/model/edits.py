"""Parts added, left out or made another way: each edit gives a new design that is sound to begin with."""

from collections.abc import Callable
from fractions import Fraction
from typing import Final

from peristyle.core.errors import LengthError
from peristyle.core.lengths import parse_angle, split_list
from peristyle.model.design import (
    Alternating,
    Dividers,
    Feet,
    HeightOf,
    House,
    Lid,
    Liner,
    Opening,
    Panel,
    Rectangle,
    Regular,
    Segments,
    Thing,
    replace,
)
from peristyle.model.job import MAX_STOPS, Job, decide, decided, openings_within, revised
from peristyle.model.starts import begun
from peristyle.reference.machines import USUAL_ANGLES


def height_given(of: HeightOf) -> tuple[Callable[[Job], float], Callable[[Job, float], Job]]:
    """How one of the box's heights is read, and how it is made the one that is given."""

    def get(job: Job) -> float:
        glued = job.design.as_glued()
        return {
            "glued": glued.form.height_mm, "closed": glued.closed_mm, "body": glued.body_mm, "room": glued.room_mm,
        }[of]  # fmt: skip

    def put(job: Job, value: float) -> Job:
        return job if value == get(job) else revised(job, height_mm=value, height_of=of)

    return get, put


def with_held(job: Job, of: HeightOf) -> Job:
    """Another of the box's heights held, all of them as they are."""
    value = height_given(of)[0](job)
    return job if of == job.design.form.height_of else revised(job, height_mm=value, height_of=of)


def with_eaves(job: Job, cut: str) -> Job:
    """A house's eaves cut square or plumb."""
    if not isinstance(job.design.form.shape, House):
        return job
    return revised(job, shape=replace(job.design.form.shape, eaves="plumb" if cut == "plumb" else "square"))


def with_taper(job: Job, on: bool) -> Job:
    """Sizes at the top in place of a slope: a fifth larger to begin with; or the slope again."""
    shape = job.design.form.shape
    if isinstance(shape, Regular):
        return revised(job, shape=replace(shape, top_mm=round(shape.size_mm * 1.2, 1) if on else None))
    if isinstance(shape, Rectangle):
        tops = (round(shape.length_mm * 1.2, 1), round(shape.width_mm * 1.2, 1)) if on else (None, None)
        return revised(job, shape=replace(shape, top_length_mm=tops[0], top_width_mm=tops[1]))
    return job


def with_segments(job: Job, style: str, count: int | None = None, part: str = "bottom") -> Job:
    """A panel in one piece, of strips edge to edge, of two leaves that mirror each other, or as a pie or a ring of
    segments.
    """
    panel: Panel | None = decided(job, part)
    if panel is None:
        return job
    now = panel.segments or Segments(count=max(3, min(24, job.design.side_count)))
    if style in ("one", "leaves", "strips"):
        strips = max(2, min(40, count or 3)) if style == "strips" else 1
        return decide(job, part, replace(panel, segments=None, leaves=style == "leaves", strips=strips))
    made = replace(
        now, style="ring" if style == "ring" else "pie", count=max(3, count) if count else now.count
    )
    return decide(job, part, replace(panel, segments=made, leaves=False, strips=1))


# What a box may be asked to hold, to begin with. Play as in the trade (common practice): about 2 mm in all for
# blocks lifted by hand, under 1 mm for a deck under a push-fit lid.
HOLDS: Final = {
    "blocks": Thing(name="blocks", count=8, length_mm=24.0, width_mm=24.0, height_mm=40.0),
    "cards": Thing(name="cards", count=1, length_mm=90.0, width_mm=65.0, height_mm=18.0, play_mm=0.8),
    "papers": Thing(name="papers", count=1, length_mm=215.0, width_mm=155.0, height_mm=30.0, play_mm=4.0),
    "tile": Thing(name="insert", count=1, length_mm=108.0, width_mm=108.0, height_mm=7.0, play_mm=1.5),
    "round": Thing(name="jars", count=6, length_mm=50.0, width_mm=50.0, height_mm=40.0, round=True),
}
HOLDS_WORDS: Final = {
    "blocks": "blocks", "cards": "a deck of cards", "papers": "papers", "tile": "an insert in a lip",
    "round": "round things",
}  # fmt: skip


def holds(job: Job) -> str:
    """Which of HOLDS the box is sized from, `nothing` where it is sized by hand."""
    if not job.design.inside.contents:
        return "nothing"
    first = job.design.inside.contents[0]
    if first.round:
        return "round"
    return next((key for key, thing in HOLDS.items() if thing.name == first.name), "blocks")


def with_contents(job: Job, what: str) -> Job:
    """The box sized from what it holds, one of HOLDS, or `nothing`."""
    return revised(job, contents=() if what == "nothing" else (HOLDS[what],))


def with_another_kind(job: Job, what: str) -> Job:
    """One more kind of thing, one of HOLDS, beside those that are there."""
    return revised(job, contents=(*job.design.inside.contents, HOLDS[what]))


def without_last_kind(job: Job) -> Job:
    """The last kind of thing taken out."""
    return revised(job, contents=job.design.inside.contents[:-1])


def with_made(job: Job, on: bool) -> Job:
    """What the box holds made with it, or not: all that is not round."""
    made = tuple(replace(thing, made=on and not thing.round) for thing in job.design.inside.contents)
    return revised(job, contents=made)


def with_liner(job: Job, on: bool) -> Job:
    """A liner that leaves 5 mm of room over it, or none."""
    if not on:
        return revised(job, liner=None)
    height = max(5.0, _near(job, job.design.as_glued().room_mm - 5, 1.0))
    return revised(job, liner=begun(Liner, job.design.units, height_mm=height))


def _near(job: Job, value_mm: float, step_mm: float) -> float:
    """The size on the maker's rule nearest to it: in steps of `step_mm`, or of 1/16 or 1/32 inch; never 0."""
    if job.design.units == "mm":
        return max(step_mm, round(value_mm / step_mm) * step_mm)
    step = Fraction(254, 160 if step_mm >= 1 else 320)  # exact, so that it is the size a maker would type
    return float(max(step, round(value_mm / step) * step))


def with_dividers(job: Job, across: int, along: int) -> Job:
    """So many dividers each way; none takes them out."""
    if across == 0 and along == 0:
        return revised(job, dividers=None)
    return revised(
        job,
        dividers=replace(
            job.design.inside.dividers or begun(Dividers, job.design.units), across=across, along=along
        ),
    )


def with_sides(job: Job, count: int) -> Job:
    """The same box with another number of sides, keeping its size across as near as can be.

    Values given for single sides (thickness, slope) go back to the first side's, because they
    would stand at other corners.
    """
    shape = job.design.form.shape
    if isinstance(shape, Regular):
        new: Regular | Alternating = replace(shape, sides=count)
    elif isinstance(shape, Alternating) and count % 2 == 0 and count >= 4:
        new = replace(shape, sides=count)
    else:
        size = shape.length_mm if isinstance(shape, Rectangle) else job.design.form.height_mm * 2
        new = Regular(sides=count, size_mm=size, measure="across_flats")
    return revised(
        job,
        shape=new,
        thicknesses_mm=job.design.form.thicknesses_mm[:1],
        slopes_deg=job.design.form.slopes_deg[:1],
        front=min(job.design.form.front, count - 1),
        openings=openings_within(job, count),
        closing_corner=None if job.stock.closing_corner is None else min(job.stock.closing_corner, count - 1),
    )


def with_lid(job: Job, on: bool) -> Job:
    """A lid sawn free, about a quarter of the height, or none."""
    if not on:
        return revised(job, lid=None)
    return revised(
        job,
        lid=begun(Lid, job.design.units, height_mm=_near(job, job.design.as_glued().form.height_mm / 4, 1.0)),
    )


def with_panel(job: Job, part: str, on: bool) -> Job:
    """A grooved bottom or top panel that suits the sides (groove a third to a half of the wall), or none."""
    if not on:
        return decide(job, part, None)
    wall = min(job.design.form.thicknesses_mm)
    depth = min(_near(job, wall * 0.4, 0.5), wall / 2)
    return decide(job, part, begun(Panel, job.design.units, depth_mm=depth))


def with_seat(job: Job, part: str, seat: str) -> Job:
    """A panel in a groove, let into a rabbet, or none; what it has besides stays."""
    if seat == "none":
        return with_panel(job, part, False)
    job = job if decided(job, part) is not None else with_panel(job, part, True)
    changed: Panel = replace(decided(job, part), seat=seat)
    return decide(job, part, changed)


def with_machine(job: Job, kind: str) -> Job:
    """The bevels cut on another machine, with the angles such a bit or block usually gives."""
    return revised(job, saw=replace(job.shop.saw, kind=kind, stops_deg=USUAL_ANGLES.get(kind, ())))


def with_stops(job: Job, text: str, *, comma_parts: bool = False) -> Job:
    """The angles the maker's own bits or blocks give: `11.25; 22.5; 30`. Raises LengthError.

    `comma_parts` says that a comma is never a decimal mark here, as on the command line.
    """
    angles = sorted({parse_angle(word) for word in split_list(text, comma_parts=comma_parts)})
    if not angles or len(angles) > MAX_STOPS or not all(0 < angle < 90 for angle in angles):
        raise LengthError(
            f"“{text.strip()[:24]}” are not the angles it gives: type one to {MAX_STOPS} between 0 and 90, "
            "such as 22.5; 30; 45."
        )
    return revised(job, saw=replace(job.shop.saw, stops_deg=tuple(angles)))


def with_feet(job: Job, kind: str) -> Job:
    """Feet of a kind, or `none`."""
    if kind == "none":
        return revised(job, feet=None)
    now = job.design.section.feet or begun(Feet, job.design.units)
    changed: Feet = replace(now, kind=kind)
    return revised(job, feet=changed)


def opening_in(job: Job, side: int) -> int | None:
    """The number of the first opening in a side, None where it has none."""
    return next((n for n, one in enumerate(job.design.section.openings) if one.side == side), None)


def with_opening(job: Job, side: int, kind: str) -> Job:
    """An opening of a kind in a side, in place of the first there; `none` takes it out."""
    openings = list(job.design.section.openings)
    number = opening_in(job, side)
    if kind == "none":
        if number is not None:
            del openings[number]
    elif number is None:
        half = job.design.as_glued().form.height_mm / 2
        made: Opening = begun(Opening, job.design.units, side=side, kind=kind, up_mm=_near(job, half, 1.0))
        openings.append(made)
    else:
        changed: Opening = replace(openings[number], kind=kind)
        openings[number] = changed
    return revised(job, openings=tuple(openings))


def with_both(job: Job, side: int, on: bool) -> Job:
    """The same opening in the side across, or not."""
    number = opening_in(job, side)
    if number is None:
        return job
    openings = list(job.design.section.openings)
    openings[number] = replace(openings[number], both=on)
    return revised(job, openings=tuple(openings))
