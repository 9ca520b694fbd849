"""All angles of regular rings, for the wall."""

from peristyle.commands.console import Parser, angle, print_json, put
from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format, split_list


def run(words: list[str]) -> int:
    parser = Parser(
        prog="peristyle angle-sheet",
        description="All angles of regular rings, 3 to 24 sides, slopes in steps, for the wall.",
    )
    parser.add_argument("--slopes", default="0,5,10,15", metavar="S,…")
    parser.add_argument("--out", metavar="OUT.pdf", help="as PDF; without it as text")
    parser.add_argument("--paper", choices=("a4", "letter"), default="a4")
    parser.add_argument("--json", action="store_true")
    options = parser.parse_args(words)
    from peristyle.core.conventions import convention, sheet_of_angles

    slopes = [angle(text, "--slopes") or 0.0 for text in split_list(options.slopes, comma_parts=True)]
    if not all(-90 < slope < 90 for slope in slopes) or len(slopes) > 40:
        raise PeristyleError("--slopes: give up to 40 slopes under 90°, as in 0,5,10.")
    rows = sheet_of_angles(slopes)
    if options.out:
        from peristyle.export.anglesheet import angle_sheet

        put(options.out, angle_sheet(rows, options.paper))
    elif options.json:
        data = [
            {
                "sides": r.sides,
                "slope_deg": r.slope_deg,
                "interior_deg": r.corner.interior_deg,
                "dihedral_deg": r.corner.dihedral_deg,
                "miter_deg": r.corner.first.miter_deg,
                **convention(r.corner.first)._asdict(),
            }
            for r in rows
        ]
        print_json(data)
    else:
        fmt = Format()
        print("sides  slope    bevel      from face  miter      corner     half")
        for r in rows:
            cut = r.corner.first
            figures = (
                cut.bevel_deg,
                90 - cut.bevel_deg,
                cut.miter_deg,
                r.corner.interior_deg,
                r.corner.interior_deg / 2,
            )
            print(
                f"{r.sides:<7}{fmt.angle(r.slope_deg):<9}"
                + "".join(f"{fmt.angle(v, 3):<11}" for v in figures).rstrip()
            )
    return 0
