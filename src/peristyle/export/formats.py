"""What a plan can be written as: one table for the menu and the command line."""

import json
from collections.abc import Callable
from typing import Final, NamedTuple

from peristyle.planning.plan import Plan


class Row(NamedTuple):
    """One row of the menu: its words, its keys, what is written, and on which paper where it is printed."""

    words: str
    keys: str
    why: str
    paper: str = ""


class ExportFormat(NamedTuple):
    """One format. `make` gives the file's bytes for a plan, a paper and a decimal mark."""

    id: str
    option: str
    ending: str
    says: str
    make: Callable[[Plan, str, str], bytes]
    rows: tuple[Row, ...]


# Each module is loaded when it is first used: the PDF library alone takes 0.2 s.


def _cut_list(plan: Plan, _paper: str, _decimal: str) -> bytes:
    from peristyle.export.cutlist import cut_list

    return cut_list(plan).encode()


def _by_setting(plan: Plan, _paper: str, decimal: str) -> bytes:
    from peristyle.export.settings import by_setting

    return by_setting(plan, decimal).encode()


def _sheet(plan: Plan, paper: str, decimal: str) -> bytes:
    from peristyle.export.sheet import shop_sheet

    return shop_sheet(plan, "letter" if paper == "letter" else "a4", decimal)


def _cards(plan: Plan, paper: str, decimal: str) -> bytes:
    from peristyle.export.cards import bench_cards

    return bench_cards(plan, "letter" if paper == "letter" else "a4", decimal)


def _json(plan: Plan, _paper: str, _decimal: str) -> bytes:
    from peristyle.export.planjson import as_data

    return (json.dumps(as_data(plan), indent=1, ensure_ascii=False) + "\n").encode()


def _template(plan: Plan, paper: str, _decimal: str) -> bytes:
    from peristyle.export.template import template_pdf

    return template_pdf(plan, "letter" if paper == "letter" else "a4")


def _template_svg(plan: Plan, _paper: str, _decimal: str) -> bytes:
    from peristyle.export.template import template_svg

    return template_svg(plan)


def _template_dxf(plan: Plan, _paper: str, _decimal: str) -> bytes:
    from peristyle.export.dxf import template_dxf

    return template_dxf(plan)


FORMATS: Final = (
    ExportFormat(
        "cut_list", "--cut-list", ".csv", "the cut list", _cut_list,
        (Row("Export &cut list…", "Ctrl+E", "Write the parts as CSV"),),
    ),
    ExportFormat(
        "by_setting", "--by-setting", ".csv", "the cut list by setting", _by_setting,
        (Row("Export c&ut list by setting…", "", "Write every setting with all that is cut at it, as CSV"),),
    ),
    ExportFormat(
        "sheet", "--sheet", ".pdf", "the shop sheet", _sheet,
        (
            Row("Export shop sheet, A&4…", "Ctrl+P", "Write the shop sheet as PDF on A4", "a4"),
            Row("Export shop sheet, &Letter…", "Ctrl+Shift+P", "Write the shop sheet as PDF on Letter", "letter"),
        ),
    ),
    ExportFormat(
        "cards", "--cards", ".pdf", "the cards for the bench", _cards,
        (
            Row("Export car&ds, A4…", "", "Write a card for each step as PDF on A4", "a4"),
            Row("Export cards, Le&tter…", "", "Write a card for each step as PDF on Letter", "letter"),
        ),
    ),
    ExportFormat(
        "template", "--template", ".pdf", "the templates, full size", _template,
        (
            Row("Export te&mplates, A4…", "", "Corners, parts, story stick at full size, as PDF on A4", "a4"),
            Row("E&xport templates, Letter…", "", "Corners, parts, stick at full size, as PDF on Letter", "letter"),
        ),
    ),
    ExportFormat(
        "template_svg", "--template-svg", ".svg", "the templates as a picture in millimetres", _template_svg,
        (Row("Export templates as S&VG…", "", "Corners, parts and story stick as a picture in millimetres"),),
    ),
    ExportFormat(
        "template_dxf", "--template-dxf", ".dxf", "the templates for a cutter, in millimetres", _template_dxf,
        (Row("Export templates as DX&F…", "", "Corners, parts and story stick for a cutter, in millimetres"),),
    ),
    ExportFormat(
        "plan", "--plan", ".json", "the whole plan", _json,
        (Row("Export the &plan…", "Ctrl+Shift+E", "Write pieces, steps and findings as JSON"),),
    ),
)  # fmt: skip


def format_of(name: str) -> ExportFormat:
    """A format by its id."""
    return next(form for form in FORMATS if form.id == name)
