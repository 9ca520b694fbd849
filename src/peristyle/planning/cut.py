"""One operation at one setting, and what all operations share."""

from typing import Any, Final, Literal

from msgspec import Struct

from peristyle.model.design import side_name

Operation = Literal[
    "plane", "rip", "groove", "trim", "crosscut", "bevel", "dado", "dry_fit", "segment", "segment_glue",
    "panel", "glue", "keys", "lid", "divider", "halve", "liner_fit",
]  # fmt: skip
Part = Literal["box", "liner", "divider", "segment"]
End = Literal["start", "end", "both"]

SAME_SETTING: Final = 0.005  # mm or degrees
SHORT_MM: Final = 300.0  # under this a piece goes on a sled (common practice)


class Cut(Struct, frozen=True):
    """One operation at one setting.

    `tilt_deg` is the blade from square, `gauge_deg` the swing from a square crosscut, `stop_mm`
    from the stop to the blade at the face that lies up, `fence_mm` from the fence to the near side of the
    blade (one for each pass), `depth_mm` the height of the blade. None where a setting has no
    part in it. `sides` are numbers of sides in the order they are cut, of the liner where `part` says
    so; `items` those of the plan's dividers or panels that are cut.
    """

    number: int
    operation: Operation
    title: str
    part: Part = "box"
    sides: tuple[int, ...] = ()
    items: tuple[int, ...] = ()
    end: End | None = None
    tilt_deg: float | None = None
    gauge_deg: float | None = None
    stop_mm: float | None = None
    fences_mm: tuple[float, ...] = ()
    depth_mm: float | None = None
    on_end: bool = False
    face_up: Literal["show", "inside"] = "show"
    count: int = 1
    setting: str = ""
    how: str = ""
    cautions: tuple[str, ...] = ()

    def as_dict(self) -> dict[str, Any]:
        """The cut as the plan's JSON has it."""
        return {
            "number": self.number,
            "operation": self.operation,
            "title": self.title,
            "part": self.part,
            "sides": [side_name(i) for i in self.sides],
            "end": self.end,
            "tilt_deg": self.tilt_deg,
            "gauge_deg": self.gauge_deg,
            "stop_mm": self.stop_mm,
            "fences_mm": list(self.fences_mm),
            "depth_mm": self.depth_mm,
            "on_end": self.on_end,
            "face_up": self.face_up,
            "count": self.count,
            "setting": self.setting,
            "how": self.how,
            "cautions": list(self.cautions),
        }


def same(*values: float) -> tuple[int, ...]:
    """A key that is the same for settings nobody can tell apart at the saw."""
    return tuple([round(v / SAME_SETTING) for v in values])


def with_short(cautions: tuple[str, ...], length_mm: float) -> tuple[str, ...]:
    """The cautions of a step, with that for short pieces where it applies, and the one that ends every list."""
    short = ("short_piece",) if length_mm < SHORT_MM else ()
    return (*cautions, *short, "manual")
