"""What the box holds, a line for each kind of thing."""

from peristyle.core.lengths import Format
from peristyle.planning.inside.contents import footprints
from peristyle.planning.plan import Plan


def contents_in_words(plan: Plan, fmt: Format) -> list[str]:
    """What the box holds, a line for each kind."""
    lines = []
    for block in plan.contents.blocks:
        thing = block.thing
        sizes = [thing.length_mm] if thing.round else [thing.length_mm, thing.width_mm]
        stands = f"{block.columns} × {block.rows}" if block.columns is not None else "packed together"
        if block.stood:
            stands += " with the others" if len(plan.contents.blocks) > 1 else ""
        layers = f", {thing.layers} layers" if thing.layers > 1 else ""
        lines.append(
            f"Holds {thing.count} {thing.name} of "
            + " × ".join(fmt.length(v) for v in (*sizes, thing.height_mm))
            + f" {fmt.units}, {stands}{layers}, {fmt.length(thing.play_mm, unit=True)} of play"
        )
    return [*lines, *layers_in_words(plan, fmt)]


def layers_in_words(plan: Plan, fmt: Format) -> list[str]:
    """Of things packed together what lies at which height, from the floor up: the order in which they go in."""
    told: dict[float, dict[str, int]] = {}
    for block in plan.contents.blocks:
        for _x, _y, z, *_far in footprints(block):
            level = told.setdefault(round(z, 3), {})
            level[block.thing.name] = level.get(block.thing.name, 0) + 1
    return [
        f"Packed: {'on the floor' if level == 0 else fmt.length(level, unit=True) + ' up'} "
        + ", ".join(f"{count} {name}" for name, count in sorted(told[level].items()))
        for level in sorted(told)
    ]
