"""The limits on what a design can hold, part of its types. Lengths are mm, angles degrees."""

from typing import Annotated, Final

from msgspec import Meta

MAX_MM: Final = 20_000.0
LEAST_MM: Final = 0.01  # what the cut list promises; no size is smaller
LEAST_KERF_MM: Final = 0.1
MAX_SIDES: Final = 360

Length = Annotated[float, Meta(ge=LEAST_MM, le=MAX_MM)]
Kerf = Annotated[float, Meta(ge=LEAST_KERF_MM, le=50)]
Allowance = Annotated[float, Meta(ge=0, le=MAX_MM)]
Position = Annotated[float, Meta(ge=0, le=MAX_MM)]
Play = Annotated[float, Meta(ge=0, le=100)]
Fit = Annotated[float, Meta(ge=0, le=10)]
Index = Annotated[int, Meta(ge=0, lt=MAX_SIDES)]
Name = Annotated[str, Meta(min_length=1, max_length=120)]
Percent = Annotated[float, Meta(ge=0, le=100)]
