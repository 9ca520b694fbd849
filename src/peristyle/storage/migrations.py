"""Files of earlier versions brought up to date, as plain data, before they are held against the types."""

from typing import Any, Final

# Where what version 1 kept in one flat design lives since; what stays in the design itself is not listed.
_MOVED: Final[dict[str, tuple[str, ...]]] = {
    **dict.fromkeys(("shape", "height_mm", "thicknesses_mm", "slopes_deg", "front"), ("design", "form")),
    **dict.fromkeys(("bottom", "top", "lid"), ("design", "section")),
    "keys": ("design", "joints"),
    **dict.fromkeys(("contents", "lining_mm", "dividers", "liner"), ("design", "inside")),
    **dict.fromkeys(("board", "closing_corner"), ("stock",)),
    "saw": ("shop",),
}
_KERF: Final = "kerf_mm"  # the board's, when there was one blade and nothing else to keep it


def from_1(raw: dict[str, Any]) -> dict[str, Any]:
    """A file of version 1 as one of version 2. What cannot be understood is left, for its faults to be told."""
    flat = raw.get("design")
    if not isinstance(flat, dict):
        return {**{key: value for key, value in raw.items() if key != "design"}, "job": {"design": flat}}
    job: dict[str, Any] = {"design": {"form": {}}}
    for name, value in flat.items():
        at = job
        for part in _MOVED.get(name, ("design",)):
            at = at.setdefault(part, {})
        at[name] = value
    board = flat.get("board")
    if isinstance(board, dict) and _KERF in board:
        job["stock"]["board"] = {key: value for key, value in board.items() if key != _KERF}
        saw = flat.get("saw", {})
        if isinstance(saw, dict):
            job.setdefault("shop", {})["saw"] = {**saw, _KERF: board[_KERF]}
    rest = {key: value for key, value in raw.items() if key not in ("design", "version")}
    return {**rest, "version": 2, "job": job}


def path_in_1(path: str) -> str:
    """Where a value lies in a file of version 1, from where it would lie in one of version 2."""
    if path == f"job.shop.saw.{_KERF}":
        return f"design.board.{_KERF}"
    for name, parts in _MOVED.items():
        head = ".".join(("job", *parts, name))
        if path == head or path.startswith(f"{head}."):
            return f"design.{name}{path[len(head) :]}"
    return path.removeprefix("job.")
