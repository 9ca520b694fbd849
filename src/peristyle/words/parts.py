"""What the box holds and what is made for it, a line for each."""

from peristyle.core.lengths import Format
from peristyle.planning.dividers import dadoes_in_words
from peristyle.planning.making.setting import SAME_SETTING
from peristyle.planning.plan import Plan
from peristyle.words.steps import glue_order


def contents_in_words(plan: Plan, fmt: Format) -> list[str]:
    """What the box holds, a line for each kind."""
    lines = []
    for block in plan.contents.blocks:
        thing = block.thing
        sizes = [thing.length_mm] if thing.round else [thing.length_mm, thing.width_mm]
        stands = f"{block.columns} × {block.rows}" if block.columns is not None else "packed together"
        layers = f", {thing.layers} layers" if thing.layers > 1 else ""
        lines.append(
            f"Holds {thing.count} {thing.name} of "
            + " × ".join(fmt.length(v) for v in (*sizes, thing.height_mm))
            + f" {fmt.units}, {stands}{layers}, {fmt.length(thing.play_mm, unit=True)} of play"
        )
    return lines


def parts_in_words(plan: Plan, fmt: Format) -> list[str]:
    """Panels, liner, dividers and segments, a line for each, in the maker's units."""
    lines = [
        f"Panel, {p.name}: {fmt.length(p.length_mm)} × {fmt.length(p.width_mm)} "
        f"× {fmt.length(p.thickness_mm, unit=True)}"
        for p in plan.section.panels
    ]
    for wall in plan.liner.ring.sides if plan.liner else ():
        lines.append(
            f"Liner {wall.name}: {fmt.length(wall.outside_mm)} × {fmt.length(wall.slant_mm)} × "
            f"{fmt.length(wall.thickness_mm, unit=True)}, bevels {fmt.angle(wall.start.bevel_deg)} and "
            f"{fmt.angle(wall.end.bevel_deg)}"
        )
    for divider in plan.dividers.pieces:
        leaning = abs(divider.top_length_mm - divider.length_mm) > SAME_SETTING
        top = f" ({fmt.length(divider.top_length_mm)} at its top edge)" if leaning else ""
        lines.append(
            f"Divider {divider.name}: {fmt.length(divider.length_mm)}{top} × {fmt.length(divider.height_mm)} × "
            f"{fmt.length(divider.thickness_mm, unit=True)}; {dadoes_in_words(divider, fmt)}"
        )
    for panel in plan.section.panels:
        if panel.segments:
            part = panel.segments
            strip = f"{fmt.length(part.strip_mm)} wide and {fmt.length(part.length_mm, unit=True)} long"
            lines.append(
                f"Panel, {panel.name}, of {part.count} segments: edges {fmt.length(part.outer_mm)} and "
                f"{fmt.length(part.inner_mm)}, gauge {fmt.angle(part.miter_deg)}, strip {strip}; "
                + "; ".join(glue_order(part.count))
            )
    return lines
