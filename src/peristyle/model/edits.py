"""Parts added, left out or made another way: each edit gives a new design that is sound to begin with."""

from typing import Final

from peristyle.core.errors import LengthError
from peristyle.core.lengths import MM_PER_INCH, parse_angle, split_list
from peristyle.model.design import (
    MAX_STOPS,
    Alternating,
    Design,
    Dividers,
    House,
    Keys,
    Lid,
    Liner,
    Panel,
    Rectangle,
    Regular,
    Segments,
    Thing,
    replace,
)
from peristyle.model.starts import begun
from peristyle.reference.machines import USUAL_ANGLES


def with_eaves(design: Design, cut: str) -> Design:
    """A house's eaves cut square or plumb."""
    if not isinstance(design.shape, House):
        return design
    return replace(design, shape=replace(design.shape, eaves="plumb" if cut == "plumb" else "square"))


def with_taper(design: Design, on: bool) -> Design:
    """Sizes at the top in place of a slope: a fifth larger to begin with; or the slope again."""
    shape = design.shape
    if isinstance(shape, Regular):
        return replace(design, shape=replace(shape, top_mm=round(shape.size_mm * 1.2, 1) if on else None))
    if isinstance(shape, Rectangle):
        tops = (round(shape.length_mm * 1.2, 1), round(shape.width_mm * 1.2, 1)) if on else (None, None)
        return replace(design, shape=replace(shape, top_length_mm=tops[0], top_width_mm=tops[1]))
    return design


def with_segments(design: Design, style: str, count: int | None = None, part: str = "bottom") -> Design:
    """A panel in one piece, or glued up as a pie or a ring of segments."""
    panel: Panel | None = getattr(design, part)
    if panel is None:
        return design
    now = panel.segments or Segments(count=max(3, min(24, design.side_count)))
    if style == "one":
        return replace(design, **{part: replace(panel, segments=None)})
    made = replace(now, style="ring" if style == "ring" else "pie", count=count or now.count)
    return replace(design, **{part: replace(panel, segments=made)})


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


def holds(design: Design) -> str:
    """Which of HOLDS the box is sized from, `nothing` where it is sized by hand."""
    if not design.contents:
        return "nothing"
    first = design.contents[0]
    if first.round:
        return "round"
    return next((key for key, thing in HOLDS.items() if thing.name == first.name), "blocks")


def with_contents(design: Design, what: str) -> Design:
    """The box sized from what it holds, one of HOLDS, or `nothing`."""
    return replace(design, contents=() if what == "nothing" else (HOLDS[what],))


def with_another_kind(design: Design, what: str) -> Design:
    """One more kind of thing, one of HOLDS, beside those that are there."""
    return replace(design, contents=(*design.contents, HOLDS[what]))


def without_last_kind(design: Design) -> Design:
    """The last kind of thing taken out."""
    return replace(design, contents=design.contents[:-1])


def with_liner(design: Design, on: bool) -> Design:
    """A liner that leaves 5 mm of room over it, or none."""
    if not on:
        return replace(design, liner=None)
    height = max(5.0, _near(design, design.room_mm - 5, 1.0))
    return replace(design, liner=begun(Liner, design.units, height_mm=height))


def _near(design: Design, value_mm: float, step_mm: float) -> float:
    """The size on the maker's rule nearest to it: in steps of `step_mm`, or of 1/16 or 1/32 inch; never 0."""
    step = (MM_PER_INCH / (16 if step_mm >= 1 else 32)) if design.units == "in" else step_mm
    return max(step, round(value_mm / step) * step)


def with_dividers(design: Design, across: int, along: int) -> Design:
    """So many dividers each way; none takes them out."""
    if across == 0 and along == 0:
        return replace(design, dividers=None)
    return replace(
        design, dividers=replace(design.dividers or begun(Dividers, design.units), across=across, along=along)
    )


def with_sides(design: Design, count: int) -> Design:
    """The same box with another number of sides, keeping its size across as near as can be.

    Values given for single sides (thickness, slope) go back to the first side's, because they
    would stand at other corners.
    """
    shape = design.shape
    if isinstance(shape, Regular):
        new: Regular | Alternating = replace(shape, sides=count)
    elif isinstance(shape, Alternating) and count % 2 == 0 and count >= 4:
        new = replace(shape, sides=count)
    else:
        size = shape.length_mm if isinstance(shape, Rectangle) else design.height_mm * 2
        new = Regular(sides=count, size_mm=size, measure="across_flats")
    return replace(
        design,
        shape=new,
        thicknesses_mm=design.thicknesses_mm[:1],
        slopes_deg=design.slopes_deg[:1],
        front=min(design.front, count - 1),
        closing_corner=None if design.closing_corner is None else min(design.closing_corner, count - 1),
    )


def with_lid(design: Design, on: bool) -> Design:
    """A lid sawn free, about a quarter of the height, or none."""
    if not on:
        return replace(design, lid=None)
    return replace(design, lid=begun(Lid, design.units, height_mm=_near(design, design.height_mm / 4, 1.0)))


def with_panel(design: Design, part: str, on: bool) -> Design:
    """A grooved bottom or top panel that suits the sides (groove a third to a half of the wall), or none."""
    if not on:
        return replace(design, **{part: None})
    wall = min(design.thicknesses_mm)
    depth = min(_near(design, wall * 0.4, 0.5), wall / 2)
    return replace(design, **{part: begun(Panel, design.units, depth_mm=depth)})


def with_keys(design: Design, on: bool) -> Design:
    """Straight keys at every corner, as deep as the thinnest wall allows, or none."""
    return replace(design, keys=begun(Keys, design.units) if on else None)


def with_machine(design: Design, kind: str) -> Design:
    """The bevels cut on another machine, with the angles such a bit or block usually gives."""
    return replace(design, saw=replace(design.saw, kind=kind, stops_deg=USUAL_ANGLES.get(kind, ())))


def with_stops(design: Design, text: str, *, comma_parts: bool = False) -> Design:
    """The angles the maker's own bits or blocks give: `11.25; 22.5; 30`. Raises LengthError.

    `comma_parts` says that a comma is never a decimal mark here, as on the command line.
    """
    angles = sorted({parse_angle(word) for word in split_list(text, comma_parts=comma_parts)})
    if not angles or len(angles) > MAX_STOPS or not all(0 < angle < 90 for angle in angles):
        raise LengthError(
            f"“{text.strip()[:24]}” are not the angles it gives: type one to {MAX_STOPS} between 0 and 90, "
            "such as 22.5; 30; 45."
        )
    return replace(design, saw=replace(design.saw, stops_deg=tuple(angles)))
