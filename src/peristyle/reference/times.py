"""Minutes of the work until the maker's own are known, and what dries how long (from memory of common practice)."""

from typing import Final, NamedTuple


class Guess(NamedTuple):
    """Minutes for setting up once, and for every piece or pass."""

    set_up: float
    each: float


# Guesses, and marked as such wherever they are told: the maker's own log takes their place after three entries.
_GUESSES: Final[dict[str, Guess]] = {
    "plane": Guess(10, 4), "resaw": Guess(15, 6), "rip": Guess(6, 1.5), "trim": Guess(3, 1), "crosscut": Guess(5, 1),
    "bevel": Guess(12, 1.5), "strips": Guess(6, 1.5), "strip_bevel": Guess(12, 2), "heights": Guess(5, 1),
    "groove": Guess(8, 1), "rabbet": Guess(12, 1.5), "dado": Guess(8, 1), "try_bevel": Guess(6, 4), "mark": Guess(5, 1),
    "try_groove": Guess(4, 2), "dry_fit": Guess(5, 2), "panel": Guess(8, 4), "finish_inside": Guess(10, 5),
    "glue": Guess(20, 3), "rough_sand": Guess(5, 3), "keys": Guess(30, 0.7), "key_stock": Guess(10, 2),
    "key_glue": Guess(8, 1), "key_flush": Guess(4, 1.5), "lid": Guess(10, 3), "true_lid": Guess(4, 6),
    "level": Guess(4, 6), "hinge_mortise": Guess(15, 8), "hinge_hang": Guess(10, 8), "moulding": Guess(20, 3),
    "segment": Guess(12, 1.5), "segment_glue": Guess(10, 5), "divider": Guess(6, 1.5), "finish": Guess(20, 15),
    "spline_groove": Guess(12, 2), "spline_stock": Guess(8, 1), "liner_fit": Guess(6, 2), "edge": Guess(8, 2),
    "thin": Guess(10, 4), "opening": Guess(8, 3), "lining": Guess(10, 4), "board": Guess(8, 2), "leaf": Guess(8, 3),
    "divider_fit": Guess(2, 2),
    "floor_fit": Guess(2, 2),
    "sled_runner": Guess(10, 10), "sled_base": Guess(10, 15), "sled_lay": Guess(15, 5), "sled_fence": Guess(10, 10),
    "sled_trim": Guess(8, 4), "sled_screw": Guess(15, 15), "sled_tune": Guess(15, 15),
}  # fmt: skip
_ANY: Final = Guess(6, 3)


def guess(operation: str) -> Guess:
    """Minutes for an operation, guessed."""
    return _GUESSES.get(operation, _ANY)


# How long what was glued stays in its clamps, and until it may be worked on (hours).
GLUED: Final[dict[str, tuple[float, float]]] = {
    "glue": (1.0, 12.0), "segment_glue": (0.5, 4.0), "leaf_glue": (1.0, 6.0), "key_glue": (0.5, 6.0),
    "strip_glue": (1.0, 6.0), "panel_set": (1.0, 6.0), "plug_glue": (1.0, 6.0), "lid_fix": (1.0, 6.0),
    "roof_fix": (1.0, 12.0), "ledge_glue": (0.5, 4.0), "foot_glue": (0.5, 6.0), "corner_block_glue": (0.5, 6.0),
    "fillet_glue": (0.5, 4.0), "tray_glue": (0.5, 6.0), "tray_fit": (0.5, 6.0), "inlay_glue": (1.0, 6.0),
    "handle_glue": (0.5, 6.0), "magnet_glue": (0.0, 4.0), "lining_cover": (0.0, 2.0),
    "sled_lay": (1.0, 6.0), "sled_fence": (1.0, 6.0),
}  # fmt: skip


class Schedule(NamedTuple):
    """A finish: how many coats, minutes of work for one, hours it waits before the next; what is done between them, by
    keys of words; hours until it is handled.
    """

    coats: int
    minutes: float
    wait_h: float
    between: str
    cure_h: float


FINISHES: Final[dict[str, Schedule]] = {
    "oil": Schedule(2, 20, 12, "rub_320", 48), "lacquer": Schedule(3, 12, 2, "rub_320", 24),
    "thin_coats": Schedule(10, 8, 1, "rub_600_wet", 72), "shellac": Schedule(4, 12, 2, "rub_320", 24),
    "wax": Schedule(2, 15, 2, "buff", 12),
}  # fmt: skip
