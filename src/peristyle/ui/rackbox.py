"""The boards of a box and the maker's own rack: a list, and what there is to say of the one picked."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

from PySide6.QtWidgets import QFileDialog, QMenu, QPushButton, QWidget

from peristyle.core.errors import PeristyleError
from peristyle.model import addresses, rack
from peristyle.model.address import Address
from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.model.starts import begun
from peristyle.model.stock import Board, Stock
from peristyle.ui.listform import ListAndForm
from peristyle.ui.session import Session
from peristyle.ui.theme import LIGHT, Theme
from peristyle.words.boards import board_line

_HIDDEN = (
    "marks",
    "method",
    "creep_mm",
    "resaw",
    "shift_mm",
    "picture",
    "back_picture",
    "face",
    "turned",
    "across_mm",
)


class Rackbox(ListAndForm):
    """Edits a copy of the job's boards; nothing is changed until it is closed with OK.

    `mine` are the boards of the maker's own rack; `keep` takes a picture file in and gives its name, `keep_pixels` a
    picture made of photographs.
    """

    def __init__(
        self,
        parent: QWidget,
        session: Session,
        mine: tuple[Board, ...],
        keep: Callable[[Path], str],
        keep_pixels: Callable[[Any], str] = lambda _pixels: "",
        theme: Theme = LIGHT,
    ) -> None:
        self.mine, self._keep_picture = list(mine), keep
        self._keep_pixels, self._theme = keep_pixels, theme
        super().__init__(parent, session, "Boards")
        self._fill(0)
        room = parent.screen().availableGeometry()
        self.resize(min(820, room.width() - 8), min(560, room.height() - 40))

    def _buttons(self) -> list[QPushButton]:
        self._use = self._button("Sides from this one", self._use_it)
        self._remove = self._button("Take it off", self._take_off)
        another = self._button("Another figure", self._another)
        pictured = self._button("Its picture…", partial(self._picture, "picture"))
        backed = self._button("Picture of its back…", partial(self._picture, "back_picture"))
        shot = self._button("Photograph it…", partial(self._photograph, False))
        shot_back = self._button("Photograph its back…", partial(self._photograph, True))
        fetch = QPushButton("From my rack")
        self._fetch = QMenu(fetch)
        self._fetch.aboutToShow.connect(self._fill_fetch)
        fetch.setMenu(self._fetch)
        keep = self._button("Onto my rack", self._keep)
        return [
            self._button("Add a board", self._add), self._use, self._remove, another, shot, shot_back, pictured, backed,
            fetch, keep
        ]  # fmt: skip

    def _button(self, text: str, do: Callable[[], None]) -> QPushButton:
        button = QPushButton(text)
        button.clicked.connect(lambda _on=False: do())
        return button

    def _rows(self) -> int:
        return 1 + len(self.job.stock.rack)

    def _board(self, row: int) -> Board:
        return self.job.stock.board if row <= 0 else self.job.stock.rack[row - 1]

    def _line(self, row: int) -> str:
        return ("Sides: " if row == 0 else "") + board_line(self._board(row), self._format)

    def _places(self) -> list[Address]:
        row = self._list.currentRow()
        head = "stock.board." if row <= 0 else f"stock.rack.{row}."
        return [
            one for one in addresses.addresses(self.job)
            if one.id.startswith(head) and one.id.count(".") == head.count(".")
            and one.id.rsplit(".", 1)[1] not in _HIDDEN
        ]  # fmt: skip

    def _row_of(self, place: Address) -> int:
        return 0 if place.id.startswith("stock.board.") else int(place.id.split(".")[2])

    def _show(self) -> None:
        super()._show()
        picked = self._list.currentRow() > 0
        self._use.setEnabled(picked)
        self._remove.setEnabled(picked)

    def _change(self, change: Callable[[Stock], Stock], row: int) -> None:
        try:
            job = replace(self.job, stock=change(self.job.stock))
            self.job = addresses.sound(job)
        except PeristyleError as error:
            self._wrong.setText(str(error))
            return
        self._wrong.setText("")
        self._fill(row)

    def _add(self) -> None:
        board = begun(
            Board, self.job.design.units, seed=self.job.stock.board.seed + len(self.job.stock.rack) + 1
        )
        self._change(lambda stock: rack.added(stock, board), self._rows())

    def _use_it(self) -> None:
        name = self._board(self._list.currentRow()).name
        self._change(lambda stock: rack.chosen(stock, name), 0)

    def _take_off(self) -> None:
        row = self._list.currentRow()
        name = self._board(row).name
        self._change(lambda stock: rack.removed(stock, name), row - 1)

    def _otherwise(self, board: Board) -> None:
        row = self._list.currentRow()

        def change(stock: Stock) -> Stock:
            made: Stock = replace(stock, board=board)
            if row > 0:
                made = replace(stock, rack=(*stock.rack[: row - 1], board, *stock.rack[row:]))
            return made

        self._change(change, row)

    def _another(self) -> None:
        board = self._board(self._list.currentRow())
        self._otherwise(replace(board, seed=(board.seed + 1) % 2**31))

    def _picture(self, which: str) -> None:
        name = QFileDialog.getOpenFileName(
            self, "A picture of the board", "", "Pictures (*.png *.jpg *.jpeg)"
        )[0]
        if name:
            self.take_picture(which, Path(name))

    def take_picture(self, which: str, path: Path) -> None:
        """A picture of the picked board, straight and to scale; what it is not is said."""
        try:
            digest = self._keep_picture(path)
        except (PeristyleError, OSError) as error:
            self._wrong.setText(str(error))
            return
        self._otherwise(replace(self._board(self._list.currentRow()), **{which: digest}))

    def _photograph(self, back: bool) -> None:
        # Put off: few boards are photographed each time.
        from peristyle.ui.photobox import photographed

        board = self._board(self._list.currentRow())
        made = photographed(self, board, self._format, self._theme, self._keep_pixels, back=back)
        if made is not None:
            self._otherwise(made)

    def _fill_fetch(self) -> None:
        self._fetch.clear()
        for board in self.mine:
            self._fetch.addAction(board_line(board, self._format)).triggered.connect(
                lambda _on=False, board=board: self._change(
                    lambda stock: rack.added(stock, board), self._rows()
                )
            )
        if not self.mine:
            self._fetch.addAction("Nothing there yet").setEnabled(False)

    def _keep(self) -> None:
        board = self._board(self._list.currentRow())
        self.mine = list(rack.put_with(tuple(self.mine), board))
        self._wrong.setText(f"“{board.name}” goes onto your rack with OK.")


def edited(
    parent: QWidget,
    session: Session,
    mine: tuple[Board, ...],
    keep: Callable[[Path], str],
    keep_pixels: Callable[[Any], str],
    theme: Theme,
) -> tuple[Job, tuple[Board, ...]] | None:
    """The job and the maker's own rack as they were left; None where it was given up."""
    box = Rackbox(parent, session, mine, keep, keep_pixels, theme)
    return (box.job, tuple(box.mine)) if box.exec() else None
