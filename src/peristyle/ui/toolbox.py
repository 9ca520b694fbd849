"""The maker's tools, woods and hardware: a list, and what there is to say of the one picked."""

from functools import partial
from typing import get_args

from PySide6.QtWidgets import QLabel, QMenu, QPushButton, QWidget

from peristyle.model import addresses, hardware_edits
from peristyle.model.address import Address
from peristyle.model.design import replace
from peristyle.model.job import MOST_WOODS, Job, OwnSpecies, Shop, decided, revised
from peristyle.model.kept import HARDWARE, MOST_KEPT, HardwareName, Kept, kept_as
from peristyle.model.kept_addresses import with_kept
from peristyle.model.starts import begun
from peristyle.model.tools import MOST_TOOLS, Tool
from peristyle.ui.listform import ListAndForm
from peristyle.ui.session import Session
from peristyle.words import tools as words

_SAW, _WOODS, _HARDWARE = "shop.saw.", "shop.species.", "shop.hardware."


class Toolbox(ListAndForm):
    """Edits a copy of the job's tools, woods and hardware; nothing is changed until it is closed with OK."""

    def __init__(self, parent: QWidget, session: Session, mine: Shop | None) -> None:
        super().__init__(parent, session, "Tools, woods and hardware")
        self._mine = mine
        # Whether the tools shown are the maker's own, to be kept for other boxes too.
        self.own = mine is None or (mine.saw, mine.tools) == (self.job.shop.saw, self.job.shop.tools)
        if self.own and mine is not None:
            self._with_woods(mine)
        self._say_whose()
        self._fill(0)
        room = parent.screen().availableGeometry()
        self.resize(min(860, room.width() - 8), min(520, room.height() - 40))

    def _buttons(self) -> list[QPushButton]:
        add = QPushButton("Add…")
        menu = QMenu(add)
        for kind in get_args(Tool):
            menu.addAction(words.KINDS[kind]).triggered.connect(partial(self._add, kind))
        menu.addSeparator()
        menu.addAction("a wood of your own").triggered.connect(lambda _on=False: self._add_wood())
        menu.addSeparator()
        for what in hardware_edits.to_keep(self.job):
            action = menu.addAction(f"the {words.HARDWARE[what]} of this box")
            action.triggered.connect(partial(self._keep, what))
        for what in HARDWARE:
            menu.addAction(words.HARDWARE[what]).triggered.connect(partial(self._add_hardware, what))
        add.setMenu(menu)
        self._remove = QPushButton("Take it out")
        self._remove.clicked.connect(lambda _on=False: self._take_out())
        return [add, self._remove]

    def _say_whose(self) -> None:
        """Where the box was planned with other tools than the maker's, say so and offer those."""
        if self.own:
            return
        told = QLabel("This box was planned with other tools than your own.")
        mine = QPushButton("Take my own")
        mine.clicked.connect(lambda _on=False: self._take_mine())
        self._note.addWidget(told, 1)
        self._note.addWidget(mine)

    def _take_mine(self) -> None:
        assert self._mine is not None
        self.job = revised(self.job, saw=self._mine.saw, tools=self._mine.tools)
        self._with_woods(self._mine)
        self.own = True
        self._fill(0)

    def _with_woods(self, mine: Shop) -> None:
        """The maker's own woods and hardware beside those of the box: they are kept together from here on."""
        known = {one.name for one in self.job.shop.species}
        more = tuple(one for one in mine.species if one.name not in known)
        both = (*self.job.shop.species, *more)[:MOST_WOODS]
        names = {one.name for one in self.job.shop.hardware}
        kept = (*self.job.shop.hardware, *(one for one in mine.hardware if one.name not in names))[:MOST_KEPT]
        self.job = replace(self.job, shop=replace(self.job.shop, species=both, hardware=kept))

    def _rows(self) -> int:
        shop = self.job.shop
        return 1 + len(shop.tools) + len(shop.species) + len(shop.hardware)

    def _wood(self, row: int) -> int:
        """Which of the woods a row of the list is; below 0 where it is the saw or a tool."""
        return row - 1 - len(self.job.shop.tools)

    def _kept(self, row: int) -> int:
        """Which of the hardware a row of the list is; below 0 where it is something else."""
        return self._wood(row) - len(self.job.shop.species)

    def _line(self, row: int) -> str:
        """What a row of the list says: the saw first, then the tools, the woods, the hardware."""
        if row == 0:
            saw = self.job.shop.saw
            return (
                f"The saw: {saw.kind.replace('_', ' ')}, kerf {self._format.length(saw.kerf_mm, unit=True)}"
            )
        if (number := self._kept(row)) >= 0:
            return words.hardware(self.job.shop.hardware[number], self._format)
        if (number := self._wood(row)) >= 0:
            return words.wood(self.job.shop.species[number], self._format)
        tool = self.job.shop.tools[row - 1]
        return f"{tool.name}: {words.line(tool, self._format)}"

    def _places(self) -> list[Address]:
        """The values of what is picked."""
        row = self._list.currentRow()
        wood, kept = self._wood(row), self._kept(row)
        head = _SAW if row <= 0 else f"{_WOODS}{wood + 1}." if wood >= 0 else f"shop.tools.{row}."
        head = f"{_HARDWARE}{kept + 1}." if kept >= 0 else head
        known = [one for one in addresses.addresses(self.job) if one.id.startswith(head)]
        return [one for one in known if not one.id.endswith(".kind") or head == _SAW]

    def _row_of(self, place: Address) -> int:
        if place.id.startswith(_SAW):
            return 0
        before = len(self.job.shop.tools) if place.id.startswith((_WOODS, _HARDWARE)) else 0
        before += len(self.job.shop.species) if place.id.startswith(_HARDWARE) else 0
        return before + int(place.id.split(".")[2])

    def _show(self) -> None:
        super()._show()
        self._remove.setEnabled(self._list.currentRow() > 0)

    def _add(self, kind: type[Tool], _on: bool = False) -> None:
        """A new tool of a kind, with a name that no other has."""
        tools = self.job.shop.tools
        if len(tools) >= MOST_TOOLS:
            self._wrong.setText(f"There are {MOST_TOOLS} tools already: take one out first.")
            return
        name = _unlike(kind().name, {tool.name for tool in tools})
        self.job = revised(self.job, tools=(*tools, kind(name=name)))
        self._fill(len(tools) + 1)

    def _add_wood(self) -> None:
        """A new wood, with a name that no other has."""
        woods = self.job.shop.species
        if len(woods) >= MOST_WOODS:
            self._wrong.setText(f"There are {MOST_WOODS} woods already: take one out first.")
            return
        own = OwnSpecies()
        name = _unlike(own.name, {one.name for one in woods})
        self._set_woods((*woods, replace(own, name=name)))
        self._fill(self._rows() - 1)

    def _keep(self, what: HardwareName, _on: bool = False) -> None:
        """What this box has of it, under a name to be written over."""
        name = _unlike(words.HARDWARE[what].capitalize(), {one.name for one in self.job.shop.hardware})
        self._set_hardware((*self.job.shop.hardware, kept_as(name, what, decided(self.job, what))))

    def _add_hardware(self, what: HardwareName, _on: bool = False) -> None:
        """Hardware of the usual size, with a name that no other has."""
        name = _unlike(words.HARDWARE[what].capitalize(), {one.name for one in self.job.shop.hardware})
        part = begun(HARDWARE[what], self.job.design.units)
        self._set_hardware((*self.job.shop.hardware, kept_as(name, what, part)))

    def _set_hardware(self, every: tuple[Kept, ...]) -> None:
        if len(every) > MOST_KEPT:
            self._wrong.setText(f"{MOST_KEPT} kinds of hardware are kept already: take one out first.")
            return
        self.job = with_kept(self.job, every)
        self._fill(self._rows() - 1)

    def _set_woods(self, woods: tuple[OwnSpecies, ...]) -> None:
        self.job = replace(self.job, shop=replace(self.job.shop, species=woods))

    def _take_out(self) -> None:
        """What is picked goes; what a tool did goes back to the saw."""
        row = self._list.currentRow()
        if (number := self._kept(row)) >= 0:
            kept = self.job.shop.hardware
            self._set_hardware((*kept[:number], *kept[number + 1 :]))
        elif (number := self._wood(row)) >= 0:
            woods = self.job.shop.species
            self._set_woods((*woods[:number], *woods[number + 1 :]))
            self._fill(row - 1)
        elif row > 0:
            tools = self.job.shop.tools
            self.job = revised(self.job, tools=(*tools[: row - 1], *tools[row:]))
            self._fill(row - 1)


def _unlike(base: str, names: set[str]) -> str:
    """A name, with a number behind it where others have it already."""
    name, number = base, 2
    while name in names:
        name, number = f"{base} {number}", number + 1
    return name


def edited(parent: QWidget, session: Session, mine: Shop | None) -> tuple[Job, bool] | None:
    """The job with tools and woods as the maker left them, and whether they are his own; None where it was given up."""
    box = Toolbox(parent, session, mine)
    return (box.job, box.own) if box.exec() else None
