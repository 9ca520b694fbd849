"""A window on one file: opening, saving, exporting, the copy kept aside, and the questions they ask."""

import os
from collections.abc import Callable
from functools import partial
from importlib import import_module
from pathlib import Path
from types import ModuleType

from PySide6.QtCore import QDir, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import QApplication, QMainWindow, QMenu

from peristyle.core.clock import stamp
from peristyle.core.errors import PeristyleError
from peristyle.export.formats import format_of
from peristyle.model.again import again
from peristyle.model.design import replace
from peristyle.model.job import Job, Shop, revised
from peristyle.model.rack import put_with
from peristyle.model.stock import Board
from peristyle.planning.stock.reckoned import offcuts
from peristyle.planning.time.minutes import own_minutes
from peristyle.storage import examples, files, pictures, rack, toolbox
from peristyle.storage.recovery import Orphan, RecoveryCopy
from peristyle.ui import theme as themes
from peristyle.ui.session import Session
from peristyle.ui.settings import Settings
from peristyle.ui.wood import WoodStore
from peristyle.ui.worker import Worker
from peristyle.words.boards import board_line

_KEEP_MS = 1500


_PHOTOGRAPHS = (".png", ".jpg", ".jpeg", ".tif", ".tiff", ".webp")


class FilingWindow(QMainWindow):
    """What any window on a design does with its file. The window itself says what is shown."""

    theme: themes.Theme
    _recent: QMenu

    def __init__(self, session: Session, wood: WoodStore, settings: Settings, recovery: RecoveryCopy) -> None:
        super().__init__()
        self.session, self.wood = session, wood
        self._settings, self._recovery = settings, recovery
        self._keep = QTimer(self)
        self._keep.setSingleShot(True)
        self._keep.setInterval(_KEEP_MS)
        self._keep.timeout.connect(self._keep_soon)
        self._copying = Worker("copy", self)
        self._told: set[str] = set()  # troubles said once
        self._said_of: Job | None = None  # the box that the line at the foot is about
        session.changed.connect(self._forget_said)
        session.filed.connect(self.look_for_pictures)
        wood.held = lambda: session.dragging
        self.look_for_pictures()

    def open_stage(self, stage: str) -> None:
        """Show a stage of the work."""
        raise NotImplementedError

    def say(self, text: str) -> None:
        """One line at the foot, announced to assistive technology."""
        self._said_of = self.session.job
        self.statusBar().showMessage(text, 12_000)
        # Put off: their enumerations are many, and a window opens in silence.
        from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent

        event = QAccessibleAnnouncementEvent(self.statusBar(), text)
        QAccessible.updateAccessibility(event)

    def _forget_said(self) -> None:
        """What was said of the box as it was goes with the next change of it."""
        if self._said_of is not None and self._said_of is not self.session.job:
            self._said_of = None
            self.statusBar().clearMessage()

    def keep_aside(self) -> None:
        """A copy is kept while anything is unsaved, soon after each edit."""
        if not self.session.unsaved:
            self._keep.stop()
            self._copying.settle()  # what is being written must not outlive it
            self._recovery.drop()
        elif not self._keep.isActive():
            self._keep.start()

    def _keep_soon(self) -> None:
        """Write the copy off the window's thread: a disk takes its time to have it for certain."""
        session = self.session
        if session.unsaved:
            work = partial(self._recovery.keep, session.job, session.path, session.stamp)
            self._copying.do(work, lambda _kept: None, self._not_kept)

    def _keep_copy(self) -> bool:
        """Write the copy now; False where the disk will not take it, which is said once."""
        session = self.session
        self._copying.settle()
        if session.unsaved:
            try:
                self._recovery.keep(session.job, session.path, session.stamp)
            except PeristyleError as error:
                self._not_kept(error)
                return False
        return True

    def _not_kept(self, error: Exception) -> bool:
        """Say so, once; True where the disk is to blame."""
        if isinstance(error, PeristyleError):
            self._say_once(
                "copy", f"No copy of unsaved work can be kept ({error}). Save often; all else goes on."
            )
        return isinstance(error, PeristyleError)

    def _say_once(self, what: str, text: str) -> None:
        if what not in self._told:
            self._told.add(what)
            self.say(text)

    def say_what_cannot_be_kept(self) -> None:
        """Once, at the start or when it becomes so: settings or copies that have no place on this disk."""
        if self._recovery.trouble:
            self._say_once(
                "copy",
                f"No copy of unsaved work can be kept ({self._recovery.trouble}). Save often; all else goes on.",
            )
        elif self._settings.trouble:
            self._say_once("settings", f"Settings are not kept: {self._settings.trouble}. All else goes on.")

    def take_up(self, found: Orphan) -> None:
        """Go on with work that a crash left; its old copy goes once this window keeps its own."""
        self.session.start_recovered(found.job, found.path, found.stamp)
        if self._keep_copy():
            found.discard()
        else:
            found.release()

    @property
    def ask(self) -> ModuleType:
        """The dialogs, loaded when the first question is asked: the window opens without them."""
        return import_module("peristyle.ui.dialogs")

    def _wrong(self, error: PeristyleError) -> None:
        self.ask.warn(self, str(error))

    def may_leave(self) -> bool:
        """Take what is typed, ask about unsaved changes; False to stay."""
        if not self.session.take_typed():
            return False
        if not self.session.unsaved:
            return True
        answer = self.ask.ask_unsaved(self, self.session.job.design.name)
        return self.save() if answer == "save" else bool(answer == "discard")

    def new_box(self) -> None:
        """Ask the one question and begin."""
        if not self.session.take_typed():
            return
        # Put off: a window opens without it.
        from peristyle.ui.newbox import NewBox

        own = self.session.path is not None
        units = self.session.job.design.units if own else self._settings.units
        dialog = NewBox(units, self.wood, self.theme, self)
        if dialog.exec() and dialog.job and self.may_leave():
            self._settings.units = dialog.units
            mine = self.my_tools()
            job = dialog.job
            if mine is not None:
                job = revised(job, uses=mine.uses)
                kept = {
                    "species": mine.species,
                    "hardware": mine.hardware,
                    "setups": mine.setups,
                    "hours": mine.hours,
                    "timed": mine.timed,
                    "table": mine.table,
                }
                job = replace(job, shop=replace(job.shop, spread=mine.spread, **kept))
            self.session.start(job)
            self.open_stage("size")

    def again(self) -> None:
        """Begin another box from this one: settings, set-ups, minutes and notes are taken over."""
        if not self.session.take_typed() or not self.may_leave():
            return
        job = again(self.session.job, own_minutes([self.session.job]), stamp())
        try:  # it has no file yet that could hold them
            pictures.carried(pictures.pictures_of(job), self._pictures, self.wood.folders)
        except (PeristyleError, OSError) as error:
            self.say(f"Its pictures stay behind: {error}")
        self.session.start(job)
        self.open_stage("size")
        self.say(f"“{job.design.name}” begins: nothing of it is done or measured yet.")

    def my_tools(self) -> Shop | None:
        """The maker's own tools, None where none were kept yet or they cannot be read: that is said."""
        try:
            return toolbox.load(self._settings.folder)
        except PeristyleError as error:
            self._say_once("tools", str(error))
            return None

    def tools(self) -> None:
        """The tools: the box's copy is changed, and where they are the maker's own they are kept for other boxes."""
        if not self.session.take_typed():
            return
        # Put off: a window opens without it.
        from peristyle.ui.toolbox import edited

        made = edited(self, self.session, self.my_tools())
        if made is None:
            return
        job, own = made
        if job != self.session.job:
            self.session.edit("Change the tools", job)
        if not own:
            self.say("The tools of this box are changed; your own stay as they were.")
            return
        try:
            toolbox.save(self._settings.folder, job.shop)
        except (PeristyleError, OSError) as error:
            self.say(f"Your tools are not kept for other boxes: {error}")

    def setups(self, kind: str = "", tool: str = "") -> None:
        """Checks of the tools, the one of a kind for a tool shown first.

        What is kept is in force in the box's shop, and among the maker's own where those are his.
        """
        if not self.session.take_typed():
            return
        # Put off: a window opens without it.
        from peristyle.ui.setupbox import edited

        job = edited(self, self.session, self.wood, self.theme, kind, tool)
        if job is None or job == self.session.job:
            return
        mine, before = self.my_tools(), self.session.job.shop
        self.session.edit("Set up the tools", job)
        if mine is not None and (mine.saw, mine.tools) != (before.saw, before.tools):
            self.say("The set-up is in force for this box; your own tools are others.")
            return
        try:
            toolbox.save(self._settings.folder, job.shop)
        except (PeristyleError, OSError) as error:
            self.say(f"Your tools are not kept for other boxes: {error}")

    def record(self) -> None:
        """The box's record as PDF, where the maker wants it."""
        if not self.session.take_typed():
            return
        # Put off: a window opens without it.
        from peristyle.export.record import record

        places = self.session.places
        self._write_pdf(
            "record",
            partial(
                record, self.session.plan, decimal=self.session.format.decimal,
                given=lambda name: pictures.read(name, places),
            ),
        )  # fmt: skip

    def search(self) -> None:
        """The logs of all the maker's boxes; the one an entry is picked of is opened."""
        if not self.session.take_typed():
            return
        # Put off: a window opens without it.
        from peristyle.ui.searchbox import SearchBox

        own = [self.session.path] if self.session.path else []
        box = SearchBox(self, [*own, *self._settings.recent])
        found = box.chosen if box.exec() else None
        if found is not None and (found == self.session.path or self.open_path(found)):
            self.open_stage("log")

    def sled(self) -> None:
        """The sled for this box's bevels, read beside its drawing; as a sheet where the maker wants it."""
        if not self.session.take_typed():
            return
        # Put off: a window opens without it.
        from peristyle.ui.sledbox import SledBox

        try:
            box = SledBox(self, self.session, self.wood, self.theme)
        except PeristyleError as error:
            self.say(str(error))
            return
        box.exec()
        if box.job != self.session.job:
            self.session.edit("Measure the saw's table", box.job)
        if box.sheet_wanted:
            from peristyle.export.sled import sled_sheet

            self._write_pdf(
                "sled", partial(sled_sheet, self.session.plan, decimal=self.session.format.decimal)
            )

    def _write_pdf(self, what: str, make: Callable[[], bytes]) -> None:
        """A sheet under a name that is asked for."""
        path = self._asked_name(f"Save the {what}", ".pdf", "PDF (*.pdf)")
        if path is None:
            return
        try:
            files.write_atomically(path, make())
        except (PeristyleError, OSError) as error:
            self.say(f"The {what} is not written: {error}")
            return
        self.say(f"The {what} is in {files.shown(path)}.")

    def boards(self) -> None:
        """The boards of the box, and the maker's own rack."""
        if not self.session.take_typed():
            return
        # Put off: a window opens without it.
        from peristyle.ui.rackbox import edited

        readable = True
        try:
            mine = rack.load(self._settings.folder)
        except PeristyleError as error:
            self._say_once("boards", str(error))
            mine, readable = (), False
        made = edited(
            self, self.session, mine, lambda path: pictures.keep(path, self._pictures),
            lambda pixels: pictures.keep_pixels(pixels, self._pictures), self.theme,
        )  # fmt: skip
        if made is None:
            return
        job, kept = made
        if job != self.session.job:
            self.session.edit("Change the boards", job)
        if kept != mine and not readable:
            self.say("Nothing was put on your rack: its file cannot be read, and is left as it is.")
        elif kept != mine:
            self._keep_rack(kept)

    def batch(self) -> None:
        """Many boxes from many boards, in a window of its own."""
        if not self.session.take_typed():
            return
        # Put off: a window opens without it.
        from peristyle.ui.batchbox import Batchbox

        try:
            mine = rack.load(self._settings.folder)
        except PeristyleError as error:
            self._say_once("boards", str(error))
            mine = ()

        def keep(offcuts: tuple[Board, ...]) -> bool:
            kept = rack.load(self._settings.folder)
            for board in offcuts:
                kept = put_with(kept, board)
            return self._keep_rack(kept)

        box = Batchbox(self, self.theme, self.session.format, mine, keep)
        if self.session.path is not None:
            box.add_job(self.session.path)
        box.exec()

    def photograph(self) -> None:
        """The sides' board photographed."""
        self._photograph_from(())

    def _photograph_from(self, paths: tuple[Path, ...]) -> None:
        if not self.session.take_typed():
            return
        # Put off: a window opens without it.
        from peristyle.ui.photobox import from_file, photographed

        board = self.session.job.stock.board
        made = photographed(
            self, board, self.session.format, self.theme,
            lambda pixels: pictures.keep_pixels(pixels, self._pictures), tuple(from_file(path) for path in paths),
            back=board.face == "back",
        )  # fmt: skip
        if made is not None:
            self.session.edit("Photograph the board", revised(self.session.job, board=made))

    def take_photographs(self, paths: tuple[Path, ...]) -> None:
        """Photographs that were dropped on the window: of the sides' board, where nothing else asks for them."""
        self._photograph_from(paths)

    def _keep_rack(self, boards: tuple[Board, ...]) -> bool:
        """The maker's own rack as it is to be, with its pictures; False, the reason said, where that cannot be."""
        try:
            names = [name for board in boards for name in (board.picture, board.back_picture)]
            pictures.carried(names, self._pictures, self.wood.folders)
            rack.save(self._settings.folder, boards)
        except (PeristyleError, OSError) as error:
            self.say(f"Your rack is not kept for other boxes: {error}")
            return False
        return True

    def keep_offcuts(self) -> None:
        """What this box leaves of its board goes onto the maker's own rack."""
        left = offcuts(self.session.plan)
        if not left:
            self.say("This box leaves nothing of its board that is worth keeping.")
            return
        try:
            mine = rack.load(self._settings.folder)
        except PeristyleError as error:
            self.say(str(error))
            return
        for board in left:
            mine = put_with(mine, board)
        if self._keep_rack(mine):
            self.say("On your rack: " + "; ".join(board_line(board, self.session.format) for board in left))

    @property
    def _pictures(self) -> Path:
        """The maker's own folder of pictures of boards."""
        return self._settings.folder / pictures.NAME

    def look_for_pictures(self) -> None:
        """Where the pictures of this job may be: in its file, beside it, or in the maker's own folder."""
        path = self.session.path
        self.wood.folders = self.session.places = pictures.places(path, self._pictures)
        self.session.own_pictures = self._pictures
        job = self.session.job
        of_boards = pictures.board_pictures(job)
        gone = [name for name in pictures.pictures_of(job) if not pictures.there(name, self.wood.folders)]
        boards = [name for name in gone if name in of_boards]
        if boards:
            many = "A picture of a board is" if len(boards) == 1 else f"{len(boards)} pictures of boards are"
            self._say_once(f"pictures {boards}", f"{many} not in the file: grown wood is shown in its place.")
        elif gone:
            self._say_once(f"pictures {gone}", "Photographs of the log are not in the file.")

    def open_example(self, name: str) -> None:
        """Open a shipped example; saving it asks for a name."""
        if self.may_leave():
            self.session.start(examples.load(name))

    def open_file(self) -> None:
        """Choose a file and open it."""
        if not self.session.take_typed():
            return
        name = self.ask.open_name(self, self._folder())
        if name:
            self.open_path(Path(name))

    def open_path(self, path: Path) -> bool:
        """Open a file; what was open stays when it cannot be read."""
        if not self.may_leave():
            return False
        try:
            self.session.open(path)
        except PeristyleError as error:
            self._settings.forget(path)
            self._wrong(error)
            return False
        if self.session.path is not None:
            self._settings.remember(self.session.path)
        self.say_what_cannot_be_kept()
        self.say_whose_tools()
        return True

    def say_whose_tools(self) -> None:
        """A box planned with other tools than the maker's own says so, for its numbers go by them."""
        mine, shop = self.my_tools(), self.session.job.shop
        if mine is None or (mine.saw, mine.tools) == (shop.saw, shop.tools):
            return
        fmt = self.session.format
        theirs, own = (fmt.length(one.saw.kerf_mm, unit=True) for one in (shop, mine))
        kerfs = f" Its saw takes {theirs}, yours {own}."
        self.say(
            "This box was planned with other tools than your own."
            + (kerfs if mine.saw.kerf_mm != shop.saw.kerf_mm else "")
            + " Edit, Tools offers yours."
        )

    def _folder(self) -> str:
        return str(self.session.path.parent) if self.session.path else QDir.homePath()

    def save(self) -> bool:
        """Save where it came from; ask where if it has no file yet."""
        if not self.session.take_typed():
            return False
        return self.save_to(self.session.path) if self.session.path else self.save_as()

    def save_as(self) -> bool:
        """Ask for a name and save."""
        if not self.session.take_typed():
            return False
        path = self._asked_name("Save the design", files.SUFFIX, self.ask.FILTER)
        return path is not None and self.save_to(path)

    def _asked_name(self, title: str, suffix: str, kinds: str, what: str = "") -> Path | None:
        """Where to write, its ending added where it was not typed, or None for nowhere.

        A name has many dots: `Tray 6.5 in` is no file of the kind `5 in`. The dialog asked about the name
        that was typed; what the added ending would replace is asked about here.
        """
        name = self.session.job.design.name.replace("/", "-").strip(". ")[:80] or "box"
        typed = self.ask.save_name(
            self, title, str(Path(self._folder()) / (f"{name} {what}".strip() + suffix)), kinds
        )
        if not typed:
            return None
        path = Path(typed)
        if path.suffix.lower() != suffix:
            path = path.with_name(path.name + suffix)
            if os.path.lexists(path) and not self.ask.ask_replace(self, files.shown(path.name)):
                return None
        return path

    def save_to(self, path: Path, *, over: bool = False) -> bool:
        """Save at `path`; where another wrote there since, or it is protected, ask before saving over it."""
        try:
            self.session.save(path, over=over)
        except (files.FileChanged, files.FileProtected) as error:
            answer = self.ask.ask_changed(self, str(error))
            if answer == "other":
                return self.save_as()
            return self.save_to(path, over=True) if answer == "over" else False
        except PeristyleError as error:
            self._wrong(error)
            return False
        self._settings.remember(files.absolute(path))
        self.say(f"Saved {files.shown(path.name)}.")
        self.look_for_pictures()
        self.say_what_cannot_be_kept()
        return True

    def _fill_recent(self) -> None:
        self._recent.clear()
        for path in self._settings.recent:
            name = files.shown(path.name).replace("&", "&&")
            self._recent.addAction(name, partial(self.open_path, path)).setToolTip(files.shown(path))
        if self._recent.isEmpty():
            self._recent.addAction("Nothing yet").setEnabled(False)

    def _export(self, title: str, suffix: str, make: Callable[[], bytes], what: str = "") -> None:
        if not self.session.take_typed():
            return
        path = self._asked_name(title, suffix, f"*{suffix}", what)
        if path is not None:
            self.export_to(path, make)

    def export_to(self, path: Path, make: Callable[[], bytes], *, over: bool = False) -> None:
        """Write what `make` gives to `path`, whole or not at all; never over the design itself."""
        if not self.session.take_typed():
            return
        own = self.session.path
        if own is not None and files.same_file(own, path):
            self.ask.warn(self, f"“{files.shown(path.name)}” is the design itself: choose another name.")
            return
        wrong: PeristyleError | None = None
        QApplication.setOverrideCursor(Qt.CursorShape.WaitCursor)
        try:
            files.write_atomically(path, make(), over=over)
            self.say(f"Wrote {files.shown(path.name)}.")
        except PeristyleError as error:
            wrong = error
        finally:
            QApplication.restoreOverrideCursor()
        if isinstance(wrong, files.FileProtected):
            if self.ask.ask_changed(self, str(wrong)) == "over":
                self.export_to(path, make, over=True)
        elif wrong is not None:
            self._wrong(wrong)

    def export_format(self, name: str, paper: str = "") -> None:
        """Write the plan in a format of the table."""
        form = format_of(name)
        self._export(
            f"Export {form.says}", form.ending, lambda: self.bytes_of(name, paper), form.id.split("_")[0]
        )

    def bytes_of(self, name: str, paper: str = "") -> bytes:
        """The plan in a format, as the bytes of its file."""
        return format_of(name).make(self.session.plan, paper, self.session.decimal)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """A file may be dropped on the window."""
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Open the first file dropped; photographs go where the stage has a use for them."""
        local = [Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()]
        shots = tuple(path for path in local if path.suffix.lower() in _PHOTOGRAPHS)
        if shots:
            event.acceptProposedAction()
            QTimer.singleShot(0, self, partial(self.take_photographs, shots))
            return
        for url in event.mimeData().urls():
            if url.isLocalFile():
                event.acceptProposedAction()
                # After the drop has ended: a question must not hold up the other program.
                QTimer.singleShot(0, self, partial(self.open_path, Path(url.toLocalFile())))
                return

    def closeEvent(self, event: QCloseEvent) -> None:
        """Leave only with what is unsaved settled."""
        if self.may_leave():
            self._keep.stop()
            self.wood.close()
            self._copying.close()
            self._recovery.close()
            event.accept()
        else:
            event.ignore()
