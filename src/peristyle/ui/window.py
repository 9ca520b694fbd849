"""The window: stages at the left, the drawing, the reckoning at the right, the frieze at the foot."""

from collections.abc import Callable
from functools import partial
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING, Any, Protocol

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QKeySequence, QResizeEvent
from PySide6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QMenu,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from peristyle import __version__
from peristyle.core.conventions import SheetRow, angles_html, sheet_of_angles
from peristyle.drawing.frieze import frieze_drawing
from peristyle.drawing.shapes import Pick
from peristyle.model.job import Job, revised
from peristyle.storage import examples, files
from peristyle.storage.recovery import RecoveryCopy
from peristyle.ui import theme as themes
from peristyle.ui import words
from peristyle.ui.actions import ACTIONS, help_html
from peristyle.ui.filing import FilingWindow
from peristyle.ui.session import Session
from peristyle.ui.settings import Settings
from peristyle.ui.widgets.reckoning import Reckoning
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.stages import StageColumn
from peristyle.ui.wood import WoodStore

if TYPE_CHECKING:
    from peristyle.ui.atsaw import AtSaw

_LEAST_VIEW = (470, 452)  # px: what a stage's drawing and its sizes need


class _View(Protocol):
    def dress(self, theme: themes.Theme) -> None: ...


class Window(FilingWindow):
    """One design in one window. What it needs is handed to it."""

    def __init__(self, session: Session, wood: WoodStore, settings: Settings, recovery: RecoveryCopy) -> None:
        super().__init__(session, wood, settings, recovery)
        session.decimal = settings.decimal
        self.theme = themes.wanted(settings.theme)
        self._dress_application()  # before any control is made: each then need not change its clothes
        self._actions: dict[str, QAction] = {}
        self._views: dict[str, QWidget] = {}
        self._areas: dict[str, QScrollArea] = {}
        self._stage = ""
        self.setAcceptDrops(True)
        self.setMinimumSize(600, 400)
        self._build()
        self._menus()
        session.filed.connect(self._filed)
        session.said.connect(self.say)
        session.asked.connect(self._run)
        self.dress(self.theme)
        self.open_stage("size")
        self.frieze.setFocus()
        self._filed()

    def _build(self) -> None:
        self.stages = StageColumn(self.session)
        self.stages.chosen.connect(self.open_stage)
        self._stack = QStackedWidget()
        self.reckoning = Reckoning(self.session, self.wood)
        session = self.session
        self.frieze = Sheet(
            session, self.wood, lambda: frieze_drawing(session.plan, session.format), "Frieze", margin_px=18.0
        )
        self.frieze.setFixedHeight(136)
        self.frieze.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.frieze.setToolTip("The sides unrolled, as seen from outside: click a side or a corner")
        middle = QHBoxLayout()
        middle.setContentsMargins(0, 0, 0, 0)
        middle.setSpacing(0)
        middle.addWidget(self.stages)
        middle.addWidget(self._stack, 1)
        middle.addWidget(self.reckoning)
        whole = self._whole = QWidget()
        layout = QVBoxLayout(whole)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addLayout(middle, 1)
        layout.addWidget(self.frieze)
        self._at_saw: AtSaw | None = None
        self.setCentralWidget(whole)
        self.statusBar().setSizeGripEnabled(False)

    def take_photographs(self, paths: tuple[Path, ...]) -> None:
        """In the Log stage they are of the work, everywhere else of the board."""
        view = self._views.get(self._stage)
        attach = getattr(view, "attach", None)
        if attach is None:
            super().take_photographs(paths)
        else:
            attach(paths[0])
            if len(paths) > 1:
                self.say("An entry of the log takes one photograph: the first one goes with it.")

    def resizeEvent(self, event: QResizeEvent) -> None:
        """In a low window the frieze takes less."""
        super().resizeEvent(event)
        self.frieze.setFixedHeight(136 if self.height() >= 690 else 104 if self.height() >= 600 else 78)
        if self._at_saw is not None and self._at_saw.isVisible():
            self._at_saw.cover()

    def _menus(self) -> None:
        menus: dict[str, QMenu] = {}
        for spec in ACTIONS:
            menu = menus.get(spec.menu)
            if menu is None:
                menu = menus[spec.menu] = self.menuBar().addMenu(spec.menu)
            if spec.rule:
                menu.addSeparator()
            action = QAction(spec.words, self)
            action.setCheckable(spec.checkable)
            if spec.keys:
                action.setShortcut(QKeySequence(spec.keys))
            action.setStatusTip(spec.why)
            action.triggered.connect(partial(self._run, spec.call))
            menu.addAction(action)
            self._actions[spec.id] = action
            if spec.id == "open":
                self._recent = menu.addMenu("Open &recent")
                self._recent.aboutToShow.connect(self._fill_recent)
                shelf = menu.addMenu("&Examples")
                for name in examples.names():
                    shelf.addAction(name, partial(self.open_example, name))
        self._mark_theme()
        self._actions["comma"].setChecked(self.session.decimal == ",")

    def _run(self, call: str, _checked: bool = False) -> None:
        method, *given = call.split(":")
        getattr(self, method)(*given)

    def action(self, name: str) -> QAction:
        """An action by its id."""
        return self._actions[name]

    # --- what is shown

    def open_stage(self, stage: str) -> None:
        """Show a stage, made on its first visit so that the window opens fast.

        What is half typed is taken first; where it cannot be read the stage stays.
        """
        if self._at_saw is not None and self._at_saw.isVisible():
            self._leave_saw()  # a stage that is asked for is shown, not changed out of sight
        if self._stage and not self.session.take_typed():
            self.stages.open(self._stage)
            return
        self._stage = stage
        view = self._views.get(stage)
        if view is None:
            # Each stage's module is loaded with it: the first paint must not wait for all of them.
            module = import_module(f"peristyle.ui.views.{stage}")
            view = self._views[stage] = module.View(self.session, self.wood)
            view.setMinimumSize(*_LEAST_VIEW)
            # A small window scrolls a drawing rather than crowd it.
            area = self._areas[stage] = QScrollArea()
            area.setWidget(view)
            area.setWidgetResizable(True)
            area.setFrameShape(QScrollArea.Shape.NoFrame)
            area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            self._stack.addWidget(area)
            self._dress_view(view)
        self._stack.setCurrentWidget(self._areas[stage])
        self.stages.open(stage)

    def view(self, stage: str) -> QWidget:
        """The view of a stage that has been opened."""
        return self._views[stage]

    def _dress_view(self, view: QWidget) -> None:
        dressed: _View = view  # type: ignore[assignment]  # every view has dress()
        dressed.dress(self.theme)

    def dress(self, theme: themes.Theme) -> None:
        """Take on a theme everywhere."""
        if theme != self.theme:
            self.theme = theme
            self._dress_application()
        for view in self._views.values():
            self._dress_view(view)
        for part in (self.stages, self.reckoning, self.frieze):
            part.dress(theme)
        if self._at_saw is not None:
            self._at_saw.dress(theme)

    def _dress_application(self) -> None:
        app = QApplication.instance()
        if isinstance(app, QApplication):
            themes.apply(app, self.theme)

    def _filed(self) -> None:
        """Title, undo words and the recovery copy follow each edit."""
        session = self.session
        name = files.shown(session.path.name) if session.path else session.job.design.name
        # “[*]” is where Qt marks what is unsaved; in a name it is only a name.
        self.setWindowTitle(f"{' '.join(name.split()).replace('[*]', '[*][*]')}[*] – Peristyle")
        self.setWindowModified(session.unsaved)
        for key, word, label in (
            ("undo", "&Undo", session.undo_label),
            ("redo", "&Redo", session.redo_label),
        ):
            self._actions[key].setEnabled(label is not None)
            said = label.replace("&", "&&") if label else ""
            self._actions[key].setText(f"{word}: {said[:1].lower()}{said[1:]}" if label else word)
        self.keep_aside()

    # --- edits

    def undo(self) -> None:
        """Take the last edit back; what is half typed is put back first."""
        self.session.put_typed_back()
        self.session.undo()

    def redo(self) -> None:
        """Do it again."""
        self.session.put_typed_back()
        self.session.redo()

    def rename(self) -> None:
        """Ask for another name."""
        name = self.ask.ask_name(self, self.session.job.design.name)
        if name is not None:
            whole = " ".join(name.encode("utf-8", "replace").decode().split())[:120]
            self._change("Rename the box", lambda d: revised(d, name=whole or d.design.name))

    def _change(self, label: str, change: Callable[[Job], Job]) -> None:
        self.session.change(label, change)

    def front_here(self) -> None:
        """The picked side becomes the front."""
        chosen = self.session.selection
        if chosen is None or chosen.kind != "side":
            self.say("Pick a side first: click it in the frieze.")
            return
        self._change("Choose the front", lambda d: revised(d, front=chosen.index))

    def close_here(self) -> None:
        """The wrap closes at the picked corner."""
        chosen = self.session.selection
        if chosen is None or chosen.kind != "corner":
            self.say("Pick a corner first: click it in the frieze.")
            return
        self._change("Move the closing corner", lambda d: revised(d, closing_corner=chosen.index))

    def _go(self, kind: str, step: int) -> None:
        self.session.put_typed_back()
        count = self.session.job.design.side_count
        chosen = self.session.selection
        at = chosen.index + step if chosen is not None and chosen.kind == kind else 0
        self.session.select(Pick("side" if kind == "side" else "corner", at % count))
        names = words.sides_list if kind == "side" else words.corners_list
        self.say(f"{kind.capitalize()} {names(self.session.plan)[at % count]}")

    def _change_sides(self, add: bool) -> None:
        self.open_stage("size")
        view: Any = self._views["size"]
        view.change_sides(add)

    def add_side(self) -> None:
        """Break the picked side in two."""
        self._change_sides(True)

    def take_side(self) -> None:
        """Cut off the corner at the picked side's end."""
        self._change_sides(False)

    def next_side(self) -> None:
        """Pick the next side round the ring."""
        self._go("side", 1)

    def last_side(self) -> None:
        """Pick the side before."""
        self._go("side", -1)

    def next_corner(self) -> None:
        """Pick the next corner."""
        self._go("corner", 1)

    def pick_nothing(self) -> None:
        """Let go of what is picked."""
        self.session.select(None)

    # --- view

    def at_saw(self) -> None:
        """The whole window for one step at a time; again, or Esc, to come back."""
        if not self.session.take_typed():
            return
        if self._at_saw is None:
            # Loaded when it is first wanted.
            from peristyle.ui.atsaw import AtSaw

            # It lies over the stages and does not take their place: they stay shown, and know where they were.
            self._at_saw = AtSaw(self.session, self.wood, self._whole)
            self._at_saw.left.connect(self._leave_saw)
            self._at_saw.dress(self.theme)
        if self._at_saw.isVisible():
            self._leave_saw()
        else:
            self._at_saw.cover()

    def _leave_saw(self) -> None:
        if self._at_saw is not None:
            self._at_saw.hide()
        self.frieze.setFocus()

    def set_theme(self, choice: str) -> None:
        """Light, dark, or as the desktop."""
        self._settings.theme = choice
        self._mark_theme()
        self.dress(themes.wanted(choice))

    def _mark_theme(self) -> None:
        for choice in ("light", "dark", "desktop"):
            self._actions[choice].setChecked(self._settings.theme == choice)

    def theme_light(self) -> None:
        """Dark on pale."""
        self.set_theme("light")

    def theme_dark(self) -> None:
        """Pale on dark."""
        self.set_theme("dark")

    def theme_desktop(self) -> None:
        """As the desktop."""
        self.set_theme("desktop")

    def toggle_comma(self) -> None:
        """Decimal comma or point."""
        self.session.decimal = "," if self.session.decimal == "." else "."
        self._settings.decimal = self.session.decimal
        self._actions["comma"].setChecked(self.session.decimal == ",")
        self.session.changed.emit()

    def toggle_full(self) -> None:
        """Full screen and back."""
        self.setWindowState(self.windowState() ^ Qt.WindowState.WindowFullScreen)

    def show_help(self) -> None:
        """Keys and gestures, from the same table as the menus."""
        self.ask.show_page(self, "Keys and gestures", help_html())

    def _angle_rows(self) -> tuple[SheetRow, ...]:
        """Upright, the box's own slope, and the usual steps."""
        slopes = sorted({0.0, 5.0, 10.0, 15.0, 20.0, *self.session.job.design.form.slopes_deg})
        return sheet_of_angles(slopes)

    def show_angles(self) -> None:
        """Every angle of regular rings, to read."""
        self.ask.show_page(self, "Sheet of angles", angles_html(self._angle_rows(), self.session.format))

    def export_angles(self) -> None:
        """The sheet of angles as PDF."""
        # The PDF library takes 0.2 s to import.
        from peristyle.export.anglesheet import angle_sheet

        self._export("Export the sheet of angles", ".pdf", lambda: angle_sheet(self._angle_rows()))

    def show_about(self) -> None:
        """Version and licences."""
        self.ask.about(
            self, "About Peristyle",
            f"<b>Peristyle {__version__}</b><p>Plans mitered boxes, from the board to the cut list."
            "<p>MIT licence. The typeface is shipped under the SIL Open Font License 1.1; the window "
            "is made with Qt under the LGPL 3.",
        )  # fmt: skip
