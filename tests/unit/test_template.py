"""Templates measured as they come off the printer: rendered, and their lines found in the points of the picture."""

import io
import itertools
import math
import re
import subprocess
from pathlib import Path
from shutil import which

import ezdxf
import numpy as np
import pytest
from PIL import Image
from scipy.ndimage import maximum_filter, minimum_filter

from peristyle.cli import main
from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format
from peristyle.drawing.template import heights_of, templates
from peristyle.export.dxf import template_dxf
from peristyle.export.template import template_pdf, template_svg
from peristyle.model.design import Keys, Lid, Outline, Panel, Rectangle, Regular
from peristyle.model.job import job_of, revised
from peristyle.planning.plan import plan
from peristyle.storage import examples, files

BOX = job_of(
    shape=Rectangle(240.0, 160.0),
    height_mm=90.0,
    thicknesses_mm=(12.0,),
    keys=Keys(positions_mm=(20.0, 70.0), leg_mm=11.0),
)
DPI = 508  # 20 points to a millimetre

pytestmark = pytest.mark.skipif(which("pdftoppm") is None, reason="needs poppler-utils")


def printed(data: bytes, page: int) -> np.ndarray:
    """A page as it is printed: dark is True."""
    done = subprocess.run(
        ["pdftoppm", "-r", str(DPI), "-gray", "-f", str(page), "-l", str(page), "-"],
        input=data, capture_output=True, check=True,
    )  # fmt: skip
    return np.asarray(Image.open(io.BytesIO(done.stdout))) < 128


def runs(dark: np.ndarray) -> list[float]:
    """The middles of the runs of dark points, in mm."""
    edges = np.flatnonzero(np.diff(np.concatenate([[0], dark.astype(int), [0]])))
    return [(a + b) / 2 / (DPI / 25.4) for a, b in zip(edges[::2], edges[1::2], strict=True)]


def test_slots_and_ruler_are_where_they_are_on_the_box() -> None:
    """True to 0.1 mm, measured on the page."""
    data = template_pdf(plan(BOX))
    page = printed(data, 1)
    # The faces' outer edges run their whole height; the arris is half way between.
    columns = page.sum(axis=0) / (DPI / 25.4)
    edges = runs(columns > 85.0)
    assert edges[-1] - edges[0] == pytest.approx(2 * (11.0 + 14.0), abs=0.1)
    arris = (edges[0] + edges[-1]) / 2
    side = np.flatnonzero(page[:, round(edges[0] * DPI / 25.4)]) / (DPI / 25.4)
    gaps = np.flatnonzero(np.diff(side) > 0.1)  # the face's edge is the longest of what is dark there
    pieces = np.split(side, gaps + 1)
    bottom = max(pieces, key=len)[-1]
    # Down a line a little beside the arris: the slots' two sides each; their fill is pale.
    heights = [bottom - at for at in runs(page[:, round((arris + 5.0) * DPI / 25.4)])]
    measured = [at for at in heights if 10.0 < at < 80.0]
    assert sorted(measured) == pytest.approx([18.5, 21.5, 68.5, 71.5], abs=0.1)
    assert min(abs(at - 90.0) for at in heights) < 0.1
    assert min(abs(at) for at in heights) < 0.1
    # Across it: from one end of the slot to the other, two legs.
    row = round((bottom - 20.0) * DPI / 25.4)
    ends = [at for at in runs(page[row]) if abs(at - arris) > 1.0]
    assert min(abs(b - a - 22.0) for a in ends for b in ends) < 0.1
    # The ruler: of the long horizontal lines that of 100 mm.
    rows = page.sum(axis=1) / (DPI / 25.4)
    assert min(abs(length - 100.0) for length in rows) < 0.3


def test_a_large_template_is_tiled_and_overlaps() -> None:
    tall = plan(revised(BOX, height_mm=640.0))
    data = template_pdf(tall, "letter")
    count = len(re.findall(rb"/Type /Page\b", data))
    assert count == 2 * 3  # three pages high, the corner and the story stick
    one = template_pdf(plan(BOX))
    assert len(re.findall(rb"/Type /Page\b", one)) == 2


def crosses(page: np.ndarray) -> list[tuple[float, float]]:
    """The middles (mm from the page's upper left) of crosses 6 mm wide and high, that end in white."""
    arm, past = round(2.8 * DPI / 25.4), round(3.4 * DPI / 25.4)
    across = minimum_filter(page, size=(1, 2 * arm + 1), mode="constant")
    down = minimum_filter(page, size=(2 * arm + 1, 1), mode="constant")
    found = [
        (r, c)
        for r, c in zip(*np.nonzero(across & down), strict=True)
        if not any(page[r + dr, c + dc] for dr, dc in ((past, 0), (-past, 0), (0, past), (0, -past)))
    ]
    middles: list[tuple[float, float]] = []
    for r, c in found:
        at = (float(c) / DPI * 25.4, float(r) / DPI * 25.4)
        if all(math.dist(at, other) > 2.0 for other in middles):
            near = [p for p in found if math.dist(p, (r, c)) < DPI / 25.4]
            row, column = (sum(p[axis] for p in near) / len(near) for axis in (0, 1))
            middles.append((column / DPI * 25.4, row / DPI * 25.4))
    return sorted(middles, key=lambda at: (round(at[1]), at[0]))


def test_tiled_pages_are_joined_by_their_crosses() -> None:
    """Cross laid on cross, what both pages show lies on itself, and the face's edge is as high as the box."""
    high = 640.0
    data = template_pdf(plan(revised(BOX, height_mm=high)), "letter")
    pages = [printed(data, number) for number in (1, 2, 3)]  # from the top down
    marks = [crosses(page) for page in pages]
    ends: list[float] = []
    for number, (upper, lower) in enumerate(itertools.pairwise(pages)):
        (x0, y0), (x1, y1) = marks[number][-2], marks[number + 1][0]  # the left one of two
        # The same stretch of both: 4 mm over and under the crosses, from beside them to the other end.
        shifted = [round(at * DPI / 25.4) for at in (y0, y1, x0, x1)]
        reach = round(4.0 * DPI / 25.4)
        a = upper[shifted[0] - reach : shifted[0] + reach]
        b = np.roll(lower[shifted[1] - reach : shifted[1] + reach], shifted[2] - shifted[3], axis=1)
        thick = maximum_filter(a, size=5)
        assert (b & ~thick).sum() <= 0.02 * b.sum()
        ends.append(y0 - y1)
    # Down the face's outer edge, page after page.
    columns = pages[1].sum(axis=0) / (DPI / 25.4)
    edge = runs(columns > 200.0)[0]
    dark = []
    for number, page in enumerate(pages):
        x = round((edge + marks[number][0][0] - marks[1][0][0]) * DPI / 25.4)
        line = np.flatnonzero(page[:, x - 2 : x + 3].any(axis=1)) / (DPI / 25.4)
        gaps = np.flatnonzero(np.diff(line) > 0.1)
        dark.append(max(np.split(line, gaps + 1), key=len))
    top, bottom = dark[0][0], dark[2][-1]
    # Its ends are those of the outline's own stroke: half of it stands out at either.
    stroke = np.count_nonzero(
        columns[round((edge - 1.0) * DPI / 25.4) : round((edge + 1.0) * DPI / 25.4)] > 200.0
    )
    bottom -= stroke / (DPI / 25.4)
    assert bottom + ends[0] + ends[1] - top == pytest.approx(high, abs=0.1)


def test_a_template_for_each_kind_of_corner() -> None:
    odd = revised(BOX, shape=Outline((120.0, 160.0, None, None), (100.0, 80.0, 105.0, 75.0)))
    made = templates(plan(odd), Format("mm"))
    assert len(made) == 4 + 1
    assert len(templates(plan(BOX), Format("mm"))) == 1 + 1
    open_ring = revised(BOX, shape=Outline((100.0, 100.0, 100.0, 300.0), (90.0,) * 4))
    with pytest.raises(PeristyleError, match="no box yet"):
        template_pdf(plan(open_ring))


def test_the_story_stick_has_every_height() -> None:
    made = plan(revised(BOX, bottom=Panel(), lid=Lid(), keys=Keys(positions_mm=(30.0,))))
    found = heights_of(made)
    assert [at for at, what in found if what == "straight key"] == pytest.approx([28.5, 31.5])
    assert {what for _at, what in found} >= {
        "bottom edge",
        "top edge",
        "lid line",
        "groove (bottom)",
        "straight key",
    }
    assert found == sorted(found)


def test_svg_is_in_millimetres() -> None:
    text = template_svg(plan(revised(BOX, shape=Regular(6, 120.0), slopes_deg=(12.0,)))).decode()
    wide, high = re.search(
        r'width="([\d.]+)mm" height="([\d.]+)mm" viewBox="0 0 ([\d.]+) ([\d.]+)"', text
    ).groups()[:2]  # type: ignore[union-attr]
    assert f'viewBox="0 0 {wide} {high}"' in text
    assert "polygon" in text
    points = [
        tuple(map(float, pair.split(",")))
        for pair in re.search(r'<polygon points="([^"]+)"', text)[1].split()
    ]  # type: ignore[index]
    assert len(points) == 4


def test_from_the_command_line(tmp_path, capsys) -> None:  # type: ignore[no-untyped-def]
    path = tmp_path / "box.peristyle"
    files.save(path, examples.load("Star-chart box"))
    assert (
        main(
            [
                "export",
                str(path),
                "--template",
                str(tmp_path / "t.pdf"),
                "--template-svg",
                str(tmp_path / "t.svg"),
            ]
        )
        == 0
    )
    assert (tmp_path / "t.pdf").read_bytes().startswith(b"%PDF")
    assert b"<svg" in (tmp_path / "t.svg").read_bytes()
    capsys.readouterr()


def test_parts_are_laid_out_at_full_size() -> None:
    """A gable and its hole, measured on the page; a box of plain parts has none."""
    house = plan(examples.load("Key house"))
    words = [made.words for made in templates(house, Format("mm"))]
    assert [text.split(": ")[1] for text in words[:-1]] == ["Side A, Side C.", "Side B, Side D."]
    page = printed(template_pdf(house), 2)
    columns = page.sum(axis=0) / (DPI / 25.4)
    left, right = (f(at for at in runs(columns > 110.0)) for f in (min, max))
    assert right - left == pytest.approx(110.0, abs=0.1)
    # Up the middle: the point, the hole of 22 round 88, the bottom edge.
    ups = runs(page[:, round((left + right) / 2 * DPI / 25.4) - 40])  # two millimetres beside it
    bottom = max(at for at in ups if at < max(ups) - 10.0)
    heights = sorted(bottom - at for at in ups)
    for wanted in (
        88.0 - math.sqrt(11.0**2 - 2.0**2),
        88.0 + math.sqrt(11.0**2 - 2.0**2),
        170.0 - 2.0 * math.tan(math.radians(42.0)),
    ):
        assert min(abs(at - wanted) for at in heights) < 0.15, wanted
    assert len(templates(plan(revised(BOX, keys=None)), Format("mm"))) == 1


def test_dxf_is_read_back_in_millimetres(tmp_path: Path) -> None:
    """By a reader of its own kind, and by its group codes: the gable's outline, point by point."""
    house = plan(examples.load("Key house"))
    data = template_dxf(house)
    path = tmp_path / "t.dxf"
    path.write_bytes(data)
    document = ezdxf.filemanagement.readfile(path)
    assert document.units == ezdxf.units.MM
    shapes = [
        [(round(x, 4), round(y, 4)) for x, y in line.get_points("xy")]
        for line in document.modelspace().query("LWPOLYLINE")
    ]
    side = next(piece for piece in house.pieces if piece.id == "side.B")
    wanted = [(x - min(p[0] for p in side.trimmed[0]), y) for x, y in side.trimmed[0]]
    moved = [[(x - min(p[0] for p in one), y - min(p[1] for p in one)) for x, y in one] for one in shapes]
    assert any(len(one) == 5 and np.allclose(sorted(one), sorted(wanted), atol=1e-3) for one in moved)
    codes = data.decode().splitlines()
    at = codes.index("$INSUNITS")
    assert codes[at + 2].strip() == "4"
