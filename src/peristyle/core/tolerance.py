"""How near is near enough, said once."""

from typing import NamedTuple


class Tolerance(NamedTuple):
    """What counts as the same length (mm) and the same angle (degrees).

    A hundredth of a millimetre is the promise of the cut list; sums are compared far below it,
    so that two sizes that should agree but for rounding never raise a finding.
    """

    length_mm: float = 1e-7
    angle_deg: float = 1e-9


DEFAULT = Tolerance()
