"""Templates as DXF, in millimetres: for a cutter that is told what to cut, or a drawing program."""

import io
from typing import Final

from ezdxf.enums import TextEntityAlignment
from ezdxf.filemanagement import new
from ezdxf.units import MM

from peristyle.drawing.shapes import Label, Path
from peristyle.export.template import wanted
from peristyle.planning.plan import Plan

_PT_MM: Final = 25.4 / 72
_APART_MM: Final = 10.0
LAYERS: Final = {"OUTLINE": 7, "HIDDEN": 8, "TEXT": 3}  # names, and the colours that such files count
_ALIGN: Final = {
    "middle": TextEntityAlignment.MIDDLE_CENTER, "left": TextEntityAlignment.MIDDLE_LEFT,
    "right": TextEntityAlignment.MIDDLE_RIGHT,
}  # fmt: skip


def template_dxf(plan: Plan) -> bytes:
    """All templates side by side, true to size: outlines, what is hidden, and words, each on a layer of its own.

    Raises PeristyleError where there is nothing to draw.
    """
    document = new("R2010", setup=True, units=MM)
    for name, color in LAYERS.items():
        document.layers.add(name, color=color, linetype="DASHED" if name == "HIDDEN" else "CONTINUOUS")
    space = document.modelspace()
    x = 0.0
    for drawing in wanted(plan):
        dx, dy = x - drawing.bounds[0], -drawing.bounds[1]
        for shape in drawing.shapes:
            if isinstance(shape, Path):
                points = [(px + dx, py + dy) for px, py in shape.points]
                layer = "HIDDEN" if shape.dash else "OUTLINE"
                space.add_lwpolyline(points, close=shape.closed, dxfattribs={"layer": layer})
            elif isinstance(shape, Label):
                size = shape.size * 0.85 * _PT_MM
                right, up = (along * 0.75 * _PT_MM for along in shape.shift)
                at = (shape.at[0] + dx + right, shape.at[1] + dy + up)
                text = space.add_text(shape.text, height=size, dxfattribs={"layer": "TEXT"})
                text.set_placement(at, align=_ALIGN[shape.anchor])
        x += drawing.bounds[2] - drawing.bounds[0] + _APART_MM
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()
