"""What the box holds, a line for each kind of thing."""

from peristyle.core.lengths import Format
from peristyle.planning.plan import Plan


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
