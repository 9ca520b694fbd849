"""Rows of a CSV file that no spreadsheet takes for formulas."""

import re
from collections.abc import Iterable
from typing import Final

_FORMULA: Final = ("=", "+", "-", "@", "\t", "\r")
_NUMBER: Final = re.compile(r"[+-]?\d*\.?\d+")


def plain_cells(cells: Iterable[object]) -> list[object]:
    """The cells of a row; a text that a spreadsheet would run as a formula has an apostrophe before it."""
    return [_plain(cell) if isinstance(cell, str) else cell for cell in cells]


def _plain(text: str) -> str:
    return f"'{text}" if text.startswith(_FORMULA) and not _NUMBER.fullmatch(text) else text
