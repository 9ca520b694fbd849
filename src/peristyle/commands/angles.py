"""The angles of one corner, or of every corner of a ring."""

import argparse

from peristyle.commands.console import Parser, angle, length_reader, print_json, sides
from peristyle.core.lengths import Format


def run(words: list[str]) -> int:
    parser = Parser(prog="peristyle angles", description="The angles of one corner, in every convention.")
    parser.add_argument("--sides", help="a regular ring of so many sides")
    parser.add_argument("--interior", help="the corner's angle seen from above, in place of --sides")
    parser.add_argument("--slope", default="0", help="lean from upright, positive outward")
    parser.add_argument("--slope2", help="lean of the second side, if another")
    parser.add_argument("--thickness", help="thickness of the sides, for the joint face")
    parser.add_argument("--thickness2", help="thickness of the second side, if another")
    parser.add_argument("--outline", metavar="L@C,…", help="every corner of a ring of sides and corners")
    parser.add_argument("--slopes", metavar="S,…", help="every corner of a ring, one lean for each side")
    parser.add_argument("--thicknesses", metavar="T,…", help="one thickness for each side")
    line = parser.add_mutually_exclusive_group()
    line.add_argument("--inside", action="store_true", help="the outline's lengths measure the inside")
    line.add_argument("--outside", action="store_true", help="… the outside (this if neither is said)")
    parser.add_argument("--units", choices=("mm", "in"), default="mm")
    parser.add_argument("--json", action="store_true")
    options = parser.parse_args(words)
    if options.outline or options.slopes or options.thicknesses:
        return _ring_angles(options)
    from peristyle.core.conventions import as_data, as_text, corner_angles

    length = length_reader(options.units)
    found = corner_angles(
        sides=None if options.sides is None else sides(options.sides),
        interior_deg=angle(options.interior, "--interior"),
        slope_deg=angle(options.slope, "--slope") or 0.0,
        slope2_deg=angle(options.slope2, "--slope2"),
        thickness_mm=length(options.thickness, "--thickness"),
        thickness2_mm=length(options.thickness2, "--thickness2"),
    )
    if options.json:
        print_json(as_data(found))
    else:
        print(as_text(found, Format(options.units)))
    return 0


def _ring_angles(options: argparse.Namespace) -> int:
    """The angles of every corner of a ring, as `angles` gives them for one."""
    # A whole ring needs the model: not the quickest answer, but the same planes.
    from peristyle.commands.reading import ring_from_options
    from peristyle.core.conventions import ring_as_data, ring_as_text

    corners = ring_from_options(options)
    if options.json:
        print_json(ring_as_data(corners))
    else:
        print(ring_as_text(corners, Format(options.units)))
    return 0
