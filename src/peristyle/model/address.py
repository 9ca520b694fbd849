"""One address: a value's name, words and type, and its text, read and written as a maker types it."""

import math
import re
from collections.abc import Callable
from decimal import Decimal
from functools import cache
from typing import Any, Final, NamedTuple

from msgspec import NODEFAULT
from msgspec import inspect as kinds

from peristyle.core.errors import LengthError, PeristyleError
from peristyle.core.lengths import (
    Format,
    Units,
    parse_angle,
    parse_count,
    parse_length,
    parse_pitch,
    split_list,
)
from peristyle.model.job import Job

_YES: Final = ("yes", "on", "true", "1")
_NO: Final = ("no", "off", "false", "none", "0")
# The name of the address says the unit: a bare number is in millimeters, whatever the box is planned in.
_BARE: Final = re.compile(r"[+-]?\d+(?:[.,]\d+)?")
_NOISE: Final = 1e-9
_OPEN: Final = ("none", "?", "")


@cache
def struct_of(kind: type) -> kinds.StructType:
    """A part's type, with the limits of its values."""
    info = kinds.type_info(kind)
    assert isinstance(info, kinds.StructType)
    return info


Get = Callable[[Job], Any]
Put = Callable[[Job, Any], Job]


class Address(NamedTuple):
    """One value: its name, what it is, how it is read and written, and the type that holds its limits.

    `default` is what a new part begins with, NODEFAULT where it must be given.
    """

    id: str
    words: str
    kind: kinds.Type
    get: Get
    put: Put
    default: Any = NODEFAULT

    @property
    def unit(self) -> str:
        """mm, deg, count, yes or no, a list, text, or the choices there are."""
        bare = _bare(self.kind)
        many = isinstance(bare, kinds.VarTupleType)
        inner = _bare(bare.item_type) if isinstance(bare, kinds.VarTupleType) else bare
        match inner:
            case kinds.LiteralType(values=values):
                word = " | ".join(map(str, values))
            case kinds.BoolType():
                word = "yes | no"
            case kinds.IntType():
                word = "count"
            case kinds.FloatType():
                last = self.id.rsplit(".", 1)[-1].split("_")
                word = "deg" if "deg" in last else "mm" if "mm" in last else "number"
            case _:
                word = "text"
        return f"list of {word}" if many else word

    @property
    def limits(self) -> tuple[float | None, float | None]:
        """The least and the greatest it can be, None where there is none."""
        bare = _bare(self.kind)
        if isinstance(bare, kinds.VarTupleType):
            bare = _bare(bare.item_type)
        if not isinstance(bare, kinds.FloatType | kinds.IntType):
            return None, None
        low = bare.ge if bare.ge is not None else bare.gt
        return low, bare.le if bare.le is not None else bare.lt


def _bare(kind: kinds.Type) -> kinds.Type:
    """The type of a value that may be left out."""
    if isinstance(kind, kinds.UnionType):
        return next(t for t in kind.types if not isinstance(t, kinds.NoneType))
    return kind


def _may_be_open(kind: kinds.Type) -> bool:
    return isinstance(kind, kinds.UnionType) and any(isinstance(t, kinds.NoneType) for t in kind.types)


def _plain_number(text: str, address: Address) -> float:
    """A number without a unit, a price: either decimal mark."""
    try:
        value = float(text.replace(",", "."))
    except ValueError as error:
        raise PeristyleError(f"{address.id}: “{text[:24]}” is no number.") from error
    if not math.isfinite(value):
        raise PeristyleError(f"{address.id}: “{text[:24]}” is no number.")
    return value


def written(address: Address, job: Job) -> str:
    """The value as it would be typed: read again it is the same."""
    return write(address.get(job), address, job.design.units)


def write(value: Any, address: Address, units: Units) -> str:
    """A value of an address as text."""
    match value:
        case None:
            return "none"
        case bool():
            return "yes" if value else "no"
        case tuple():
            return "; ".join(write(item, address, units) for item in value) or "none"
        case float():
            return _number(value, address, units)
        case _:
            return str(value)


def _number(value: float, address: Address, units: Units) -> str:
    """In full, so that nothing is lost; in inches as a fraction where it is one."""
    near = round(value, 4)  # 68.10000000000001 is a sum of 68.1, not a size anybody set
    plain = f"{Decimal(repr(near if abs(near - value) < _NOISE else value)):f}".removesuffix(".0")
    if "number" in address.unit:
        return plain
    if "deg" in address.unit:
        return f"{plain}°"
    if units == "in":
        shown = Format(units).length(value, unit=True)
        if parse_length(shown, units) == value:
            return shown
    return f"{plain} mm"


def read(text: str, kind: kinds.Type, address: Address, units: Units) -> Any:
    """The value that a text says, of this type; limits are for whoever asks. Raises LengthError, PeristyleError."""
    clean = text.strip()
    if _may_be_open(kind) and clean.lower() in _OPEN:
        return None
    bare = _bare(kind)
    match bare:
        case kinds.VarTupleType():
            if clean.lower() in _OPEN:
                return ()
            if isinstance(_bare(bare.item_type), kinds.LiteralType):
                return tuple(
                    read(part, bare.item_type, address, units) for part in clean.replace(",", ";").split(";")
                )
            try:  # one value alone may have a blank in it, or a decimal comma
                return (read(clean, bare.item_type, address, units),)
            except LengthError:
                return tuple(read(part, bare.item_type, address, units) for part in split_list(clean))
        case kinds.BoolType():
            if clean.lower() not in (*_YES, *_NO):
                raise PeristyleError(f"{address.id}: “{clean[:24]}” is neither yes nor no.")
            return clean.lower() in _YES
        case kinds.IntType():
            return parse_count(clean)
        case kinds.FloatType():
            if "number" in address.unit:
                return _plain_number(clean, address)
            if "deg" not in address.unit:
                bare_mm = address.id.endswith("_mm") and _BARE.fullmatch(clean)
                return parse_length(clean, "mm" if bare_mm else units)
            rise = address.id.endswith(("slope_deg", "pitch_deg"))
            return parse_pitch(clean) if rise else parse_angle(clean)
        case kinds.LiteralType(values=values):
            wanted = clean.lower().replace("-", "_").replace(" ", "_")
            return wanted if wanted in values else clean
        case _:
            return text
