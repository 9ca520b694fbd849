"""What a finding says, why it matters, and the words on the buttons that mend it."""

from collections.abc import Sequence
from typing import Final

from peristyle.core.closing import MOST_NAMED
from peristyle.core.lengths import Format
from peristyle.model.design import side_name
from peristyle.planning.findings import Finding, Fix, Severity
from peristyle.words.finding_texts import TEXTS
from peristyle.words.fix_labels import LABELS
from peristyle.words.reading import fill, sentence

SEVERITY_WORDS: Final[dict[Severity, str]] = {
    "stop": "Cannot be built so",
    "caution": "Take care",
    "note": "Good to know",
}

# Names that stand for words.
_NAMES: Final[dict[str, str]] = {
    "groove_for_bottom": "the groove for the bottom",
    "groove_for_top": "the groove for the top",
    "groove_for_lid": "the groove for the lid",
    "bottom_edge": "the profile along the bottom",
    "top_edge": "the profile along the top",
    "lid_edges": "the profile round the lid’s joint",
    "base_edge": "the profile along the base’s upper edge",
    "under_edge": "the profile along the top’s lower edge",
    "rim_edge": "the profile inside the rim",
    "moulding": "the moulding",
    "inlay": "the inlay",
    "bore": "a handle’s screw",
    "handle": "the handle",
    "latch": "the latch",
    "fillets": "the fillets",
    "tray": "the tray",
    "bracket": "the brackets",
    "pilot": "a screw",
    "recess": "a plate that is let in",
    "finger_notch": "a finger hollow",
    "mortise": "a hinge",
    "pocket": "a magnet",
    "hinge_bore": "a hinge",
    "lowered": "the rim that is ripped lower",
    "gable": "the gable’s slope",
    "dado_for_divider": "a dado for a divider",
    "slot_for_key": "a slot for a key",
    "show_face": "show face",
    "edge_bottom": "the side's bottom edge",
    "edge_top": "the side's top edge",
    "edge_start": "the miter at its start",
    "edge_end": "the miter at its end",
    "edge": "a profile along an edge",
    "groove": "a panel's groove",
    "lid_kerf": "the lid line",
    "slot": "a key's slot",
    "dado": "a divider's dado",
    "rabbet": "a panel's rabbet",
    "opening": "an opening",
    "spline_groove": "a spline's groove",
    "groove_for_spline": "a groove for a spline",
    "chamfer_bit": "the chamfer bit",
    "shooting_board": "the shooting board",
    "miter_saw": "the miter saw",
    "table_saw": "the table saw",
}
_LINER: Final = "liner_"
UNTOLD: Final = "Something is wrong here that has no words yet: {}."


def _named(names: dict[str, str]) -> dict[str, str]:
    return {key: name if key == "cutter" else _NAMES.get(name, name) for key, name in names.items()}


_ALONE: Final = {"side": "side {side} at {it_mm:4}", "corner": "the corner after side {side} at {it_deg:4}"}


def _alone(numbers: dict[str, float], fmt: Format) -> str:
    """The values that close a ring by themselves, in a list."""
    rows = [(key.split("."), value) for key, value in numbers.items() if key.startswith("alone.")]
    shown = [
        fill(_ALONE[kind], fmt, {"it_mm": value, "it_deg": value}, {"side": side_name(int(index))})
        for (_alone, kind, index), value in rows[:MOST_NAMED]
    ]
    more = f" and {len(rows) - MOST_NAMED} more alike" if len(rows) > MOST_NAMED else ""
    return ", ".join(shown) + more


def line(finding: Finding, fmt: Format) -> str:
    """A finding on a line of its own: how grave it is, where, and the whole of it in words."""
    return f"{SEVERITY_WORDS[finding.severity]} ({finding.place.text}): {said(finding, fmt)}"


def refusals(findings: Sequence[Finding], fmt: Format) -> list[str]:
    """Why a box cannot be built as it is planned, a line each; none where it can."""
    return [line(finding, fmt) for finding in findings if finding.severity == "stop"]


def said(finding: Finding, fmt: Format) -> str:
    """The whole finding in words."""
    code = finding.code
    in_liner = code.startswith(_LINER) and code not in TEXTS
    if in_liner:
        code = code.removeprefix(_LINER)
    keys = [f"{code}/{finding.kind}" if finding.kind else code, *(f"{code}+{more}" for more in finding.more)]
    names = _named(finding.names) | {"alone": _alone(finding.numbers, fmt)}
    # A sentence that nobody wrote must not cost the window: what is wrong stands there all the same.
    texts = [TEXTS.get(key, UNTOLD.format(key.replace("_", " "))) for key in keys]
    text = " ".join(sentence(fill(text, fmt, finding.numbers, names)) for text in texts)
    return f"In the liner: {text[:1].lower()}{text[1:]}" if in_liner else text


def offered(fix: Fix, fmt: Format) -> str:
    """The words on a fix's button."""
    return fill(LABELS[fix.key], fmt, fix.numbers, _named(fix.names))
