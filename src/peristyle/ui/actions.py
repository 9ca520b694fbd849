"""Every action as data: id, words, keys, menu, what it is for. Menus and the help page come from here."""

from collections.abc import Iterator
from typing import Final, NamedTuple

from peristyle.export.formats import FORMATS
from peristyle.ui.stages import STAGES


class ActionSpec(NamedTuple):
    """One action. `call` names the window's method, with what it is given after colons.

    `menu` says where it stands, `rule` that a line stands before it.
    """

    id: str
    menu: str
    words: str
    keys: str
    call: str
    why: str
    rule: bool = False
    checkable: bool = False


def _exports() -> Iterator[ActionSpec]:
    """A row for each format, and each paper it is printed on."""
    rule = True
    for form in FORMATS:
        for row in form.rows:
            name = f"{form.id}_{row.paper}" if row.paper else form.id
            call = f"export_format:{form.id}:{row.paper}"
            yield ActionSpec(name, "&File", row.words, row.keys, call, row.why, rule)
            rule = False


def _stages() -> Iterator[ActionSpec]:
    for number, stage in enumerate(STAGES, 1):
        call = f"open_stage:{stage.id}"
        yield ActionSpec(f"stage_{stage.id}", "&View", stage.words, f"Ctrl+{number}", call, stage.why)


ACTIONS: Final = (
    ActionSpec("new", "&File", "&New box…", "Ctrl+N", "new_box", "Begin another box from one question"),
    ActionSpec(
        "again",
        "&File",
        "Be&gin another like it",
        "Ctrl+Shift+N",
        "again",
        "Another box with this one's settings, set-ups, minutes and notes",
    ),
    ActionSpec("open", "&File", "&Open…", "Ctrl+O", "open_file", "Open a design"),
    ActionSpec("save", "&File", "&Save", "Ctrl+S", "save", "Save the design", rule=True),
    ActionSpec("save_as", "&File", "Save &as…", "Ctrl+Shift+S", "save_as", "Save under another name"),
    *_exports(),
    ActionSpec(
        "batch", "&File", "A &batch…", "Ctrl+Shift+B", "batch", "Many boxes from many boards", rule=True
    ),
    ActionSpec(
        "search",
        "&File",
        "Searc&h the logs…",
        "Ctrl+Shift+F",
        "search",
        "Every entry of all your boxes that says it",
    ),
    ActionSpec("quit", "&File", "&Quit", "Ctrl+Q", "close", "Leave Peristyle", rule=True),
    ActionSpec("undo", "&Edit", "&Undo", "Ctrl+Z", "undo", "Take the last edit back"),
    ActionSpec("redo", "&Edit", "&Redo", "Ctrl+Shift+Z", "redo", "Do it again"),
    ActionSpec("rename", "&Edit", "Re&name box…", "F2", "rename", "Give the box another name", rule=True),
    ActionSpec(
        "front",
        "&Edit",
        "Make the picked side the &front",
        "Ctrl+F",
        "front_here",
        "The side that faces the room",
    ),
    ActionSpec(
        "close_here",
        "&Edit",
        "Close the &wrap at the picked corner",
        "Ctrl+W",
        "close_here",
        "The corner whose grain does not run on",
    ),
    ActionSpec(
        "next_side", "&Edit", "Pick the ne&xt side", "Ctrl+Right", "next_side", "Go round the ring", rule=True
    ),
    ActionSpec(
        "last_side",
        "&Edit",
        "Pick the &side before",
        "Ctrl+Left",
        "last_side",
        "Go round the ring the other way",
    ),
    ActionSpec(
        "next_corner",
        "&Edit",
        "Pick the next &corner",
        "Ctrl+Shift+Right",
        "next_corner",
        "Go from corner to corner",
    ),
    ActionSpec(
        "nothing", "&Edit", "Pick n&othing", "Ctrl+Shift+A", "pick_nothing", "Let go of what is picked"
    ),
    ActionSpec(
        "add_side",
        "&Edit",
        "A&dd a side at the picked one",
        "Ctrl+Shift+D",
        "add_side",
        "Break the picked side in two; the ring is then given by its sides and corners",
        rule=True,
    ),
    ActionSpec(
        "take_side",
        "&Edit",
        "&Take the picked side away",
        "Ctrl+Shift+T",
        "take_side",
        "Cut off the corner at the picked side's end",
    ),
    ActionSpec(
        "photograph",
        "&Edit",
        "&Photograph the board…",
        "Ctrl+Shift+I",
        "photograph",
        "Photographs of the sides' board made its picture",
        rule=True,
    ),
    ActionSpec(
        "tools",
        "&Edit",
        "Too&ls, woods and hardware…",
        "Ctrl+T",
        "tools",
        "What you own: tools, woods that no table has, hinges and other hardware",
        rule=True,
    ),
    ActionSpec(
        "setups", "&Edit", "S&et-ups…", "Ctrl+Shift+U", "setups", "Check a tool's scales with test pieces"
    ),
    ActionSpec(
        "sled", "&Edit", "T&he sled…", "Ctrl+Shift+L", "sled", "A sled for this box's bevels and your table"
    ),
    ActionSpec(
        "boards", "&Edit", "&Boards…", "Ctrl+B", "boards", "The boards of this box, and your own rack"
    ),
    ActionSpec(
        "offcuts",
        "&Edit",
        "&Keep the offcuts",
        "",
        "keep_offcuts",
        "What this box leaves of its board, onto your rack",
    ),
    *_stages(),
    ActionSpec(
        "at_saw",
        "&View",
        "&At the saw",
        "F5",
        "at_saw",
        "One step at a time, large, with a few keys",
        rule=True,
    ),
    ActionSpec("light", "&View", "&Light", "", "theme_light", "Dark on pale", rule=True, checkable=True),
    ActionSpec("dark", "&View", "&Dark", "", "theme_dark", "Pale on dark", checkable=True),
    ActionSpec(
        "desktop",
        "&View",
        "As the des&ktop",
        "",
        "theme_desktop",
        "Light or dark as the desktop has it",
        checkable=True,
    ),
    ActionSpec(
        "comma",
        "&View",
        "Decimal co&mma",
        "",
        "toggle_comma",
        "Show 186,5 in place of 186.5",
        rule=True,
        checkable=True,
    ),
    ActionSpec("full", "&View", "&Full screen", "F11", "toggle_full", "The whole screen for Peristyle"),
    ActionSpec(
        "keys_help", "&Help", "&Keys and gestures", "F1", "show_help", "What can be done, and with which keys"
    ),
    ActionSpec(
        "angles",
        "&Help",
        "&Sheet of angles…",
        "Shift+F1",
        "show_angles",
        "Every angle of regular rings, in all conventions",
    ),
    ActionSpec(
        "angles_pdf",
        "&Help",
        "&Export the sheet of angles…",
        "",
        "export_angles",
        "As PDF, to pin to the wall",
    ),
    ActionSpec("about", "&Help", "&About Peristyle", "", "show_about", "Version and licences"),
)


def help_html() -> str:
    """The help page: gestures, then every action with its keys."""
    gestures = (
        (
            "Change a size",
            "click it on the drawing, or Tab to it; type 186.5, 6 5/8in, 18 cm or =250+2; Enter",
        ),
        ("Step a size", "arrow up and down; Shift or Page keys for ten steps"),
        ("Leave a size as it was", "Esc"),
        ("Move a line", "drag it: lid line, groove, key, the strip on its board"),
        ("Pick a side or corner", "click it anywhere, most easily in the frieze at the foot"),
        (
            "Add a key, or take the picked one out",
            "Insert and Delete in Corners; double-click a corner to add one there",
        ),
        ("Remove a mark on the board", "click it, then Delete"),
        ("Leave a length open in an outline", "type ? and it is worked out"),
        ("Take a measured value back", "Delete in the table of Fit"),
        ("Turn the solid box", "drag it, or use the arrow keys when it has the focus"),
        ("Pull the box apart", "the slider over it, or + and − when it has the focus"),
    )
    rows = "".join(f"<tr><td><b>{what}</b></td><td>{how}</td></tr>" for what, how in gestures)
    for action in ACTIONS:
        if action.keys:
            words = action.words.replace("&", "")
            rows += f"<tr><td><b>{words}</b></td><td>{action.keys}: {action.why[:1].lower()}{action.why[1:]}</td></tr>"
    return f"<table cellpadding='4'>{rows}</table>"
