"""The questions the window asks. Loaded when the first one is asked: Qt's dialogs are slow to load."""

from typing import Literal

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QDialog,
    QFileDialog,
    QInputDialog,
    QMessageBox,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

FILTER = "Peristyle design (*.peristyle);;All files (*)"
TITLE = "Peristyle"


def _box(parent: QWidget, icon: QMessageBox.Icon, text: str) -> QMessageBox:
    """A question. Names in it are plain text, whatever they look like."""
    box = QMessageBox(icon, TITLE, text, parent=parent)
    box.setTextFormat(Qt.TextFormat.PlainText)
    return box


def warn(parent: QWidget, text: str) -> None:
    """Say what went wrong and what to do."""
    _box(parent, QMessageBox.Icon.Warning, text).exec()


def ask_unsaved(parent: QWidget, name: str) -> Literal["save", "discard", "stay"]:
    """What to do with changes that are not saved."""
    buttons = QMessageBox.StandardButton
    box = _box(parent, QMessageBox.Icon.Question, f"“{name}” has changes that are not saved.")
    box.setStandardButtons(buttons.Save | buttons.Discard | buttons.Cancel)
    box.setDefaultButton(buttons.Save)
    answer = box.exec()
    if answer == buttons.Save:
        return "save"
    return "discard" if answer == buttons.Discard else "stay"


def ask_changed(parent: QWidget, text: str) -> Literal["over", "other", "stay"]:
    """What to do where another window saved the same file, or it is marked as not to be written."""
    box = _box(parent, QMessageBox.Icon.Warning, text)
    over = box.addButton("Save over it", QMessageBox.ButtonRole.DestructiveRole)
    other = box.addButton("Save as…", QMessageBox.ButtonRole.AcceptRole)
    box.addButton(QMessageBox.StandardButton.Cancel)
    box.exec()
    chosen = box.clickedButton()
    if chosen is over:
        return "over"
    return "other" if chosen is other else "stay"


def ask_replace(parent: QWidget, name: str) -> bool:
    """Whether a file that is there already is to be replaced: asked where its ending was added to what was typed."""
    buttons = QMessageBox.StandardButton
    box = _box(parent, QMessageBox.Icon.Question, f"“{name}” is there already. Replace it?")
    box.setStandardButtons(buttons.Yes | buttons.Cancel)
    box.button(buttons.Yes).setText("Replace it")
    box.setDefaultButton(buttons.Cancel)
    return bool(box.exec() == buttons.Yes)


def ask_recover(parent: QWidget, name: str, file: str = "") -> Literal["take", "throw", "later"]:
    """What to do with work that a crash left; `file` is where it belongs, if anywhere."""
    buttons = QMessageBox.StandardButton
    where = f" ({file})" if file else ""
    box = _box(
        parent,
        QMessageBox.Icon.Question,
        f"Peristyle ended without saving “{name}”{where}. Take that work up again?",
    )
    box.setStandardButtons(buttons.Yes | buttons.No | buttons.Cancel)
    box.button(buttons.No).setText("Throw it away")
    box.button(buttons.Cancel).setText("Ask me later")
    answer = box.exec()
    if answer == buttons.Yes:
        return "take"
    return "throw" if answer == buttons.No else "later"


def open_name(parent: QWidget, folder: str) -> str:
    """A file to open; empty for none."""
    return QFileDialog.getOpenFileName(parent, "Open a design", folder, FILTER)[0]


def save_name(parent: QWidget, title: str, start: str, kinds: str = FILTER) -> str:
    """Where to write; empty for nowhere."""
    return QFileDialog.getSaveFileName(parent, title, start, kinds)[0]


def ask_name(parent: QWidget, now: str) -> str | None:
    """Another name for the box, None to leave it."""
    name, good = QInputDialog.getText(parent, "Rename box", "Name", text=now)
    return name.strip() if good and name.strip() else None


def show_page(parent: QWidget, title: str, html: str) -> None:
    """A page of help to read."""
    dialog = QDialog(parent)
    dialog.setWindowTitle(title)
    room = parent.screen().availableGeometry()
    dialog.resize(min(720, room.width() - 8), min(560, room.height() - 40))
    page = QTextBrowser(dialog)
    page.setHtml(html)
    page.setAccessibleName(title)
    QVBoxLayout(dialog).addWidget(page)
    dialog.exec()


def about(parent: QWidget, title: str, html: str) -> None:
    """Version and licences."""
    QMessageBox.about(parent, title, html)
