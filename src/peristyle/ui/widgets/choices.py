"""The bar of choices over a drawing: only what has no place on the drawing itself."""

from collections.abc import Callable, Sequence

from PySide6.QtCore import QEvent, QSignalBlocker, Qt
from PySide6.QtGui import QIcon, QResizeEvent, QShowEvent
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLabel, QPushButton, QSizePolicy, QWidget

from peristyle.model.job import Job
from peristyle.ui.guard import kept_in
from peristyle.ui.session import Session
from peristyle.ui.widgets.flow import FlowLayout
from peristyle.ui.widgets.inputs import AngleBox, CountBox, ListBox, TextBox

Show = Callable[[], None]


class Choices(QWidget):
    """Controls in a row; each shows the design and makes an edit when changed."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._shows: list[Show] = []
        self._groups: list[QWidget] = []
        self._row = FlowLayout(self)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        session.changed.connect(self.refresh)
        session.rested.connect(self.refresh)

    def refresh(self) -> None:
        """Show the design as it is; hidden choices wait until they are shown."""
        if self.isVisible() and not self._session.dragging:
            for show in self._shows:
                show()
            self._fit_rows()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """As many rows as the width asks."""
        super().resizeEvent(event)
        self._fit_rows()

    def event(self, event: QEvent) -> bool:
        """What is shown may be wider than before, and Qt tells so only once it has laid it out."""
        taken = super().event(event)
        if event.type() == QEvent.Type.LayoutRequest:
            self._fit_rows()
        return taken

    def _fit_rows(self) -> None:
        high = self._row.heightForWidth(self.width())
        if high != self.height():
            self.setFixedHeight(high)

    @kept_in
    def showEvent(self, event: QShowEvent) -> None:
        """Catch up."""
        super().showEvent(event)
        self.refresh()

    def _add(self, word: str, control: QWidget, show: Show, why: str, name: str = "") -> None:
        # A word and its control stay together when the bar breaks into rows.
        group = QWidget(self)
        pair = QHBoxLayout(group)
        pair.setContentsMargins(0, 0, 0, 0)
        pair.setSpacing(7)
        if word:
            label = QLabel(word)
            label.setBuddy(control)
            pair.addWidget(label)
        control.setToolTip(why)
        control.setAccessibleName(name or word)
        control.setAccessibleDescription(why)
        pair.addWidget(control)
        self._row.addWidget(group)
        self._groups.append(group)
        self._shows.append(show)
        show()

    def choice(
        self,
        word: str,
        items: Callable[[], Sequence[tuple[str, str]]],
        now: Callable[[], str],
        put: Callable[[str], object],
        why: str,
        *,
        name: str = "",
        picture: Callable[[str], QIcon] | None = None,
        letters: int | None = None,
    ) -> ListBox:
        """A choice of named things: `items` gives (key, words); `picture` draws one, by its key. With `letters` only so
        many stand beside the picture of what is chosen: the rest is read where it is opened or pointed at.
        """
        box = ListBox()
        box.setSizeAdjustPolicy(ListBox.SizeAdjustPolicy.AdjustToContents)
        box.goes_past_what_is_refused(lambda: self._session.job)
        if letters is not None:
            box.keep_short(letters)

        def show() -> None:
            wanted = list(items())
            with QSignalBlocker(box):
                if [(box.itemData(i), box.itemText(i)) for i in range(box.count())] != wanted:
                    box.clear()
                    for key, text in wanted:
                        box.addItem(picture(key), text, key) if picture else box.addItem(text, key)
                box.setCurrentIndex(box.findData(now()))
                if letters is not None:
                    box.setToolTip(f"{box.currentText()}. {why}")

        box.activated.connect(lambda _i: put(str(box.currentData())))
        self._add(word, box, show, why, name)
        return box

    def tick(self, word: str, now: Callable[[], bool], put: Callable[[bool], object], why: str) -> QCheckBox:
        """Something that is there or not."""
        box = QCheckBox(word)

        def show() -> None:
            with QSignalBlocker(box):
                box.setChecked(now())

        box.toggled.connect(put)
        self._add("", box, show, why, word)
        return box

    def count(
        self, word: str, low: int, high: int, now: Callable[[], int], put: Callable[[int], object], why: str,
        *, name: str = "",
    ) -> CountBox:  # fmt: skip
        """A whole number."""
        box = CountBox(self._session, low, high)

        def show() -> None:
            if box.half_typed:
                return
            with QSignalBlocker(box):
                box.setEnabled(now() >= low)
                box.setValue(now())

        box.valueChanged.connect(put)
        self._add(word, box, show, why, name)
        return box

    def angle(
        self,
        word: str,
        low: float,
        high: float,
        now: Callable[[], float],
        put: Callable[[float], object],
        why: str,
    ) -> AngleBox:
        """An angle in degrees."""
        box = AngleBox(self._session, low, high)

        def show() -> None:
            if box.half_typed:
                return
            with QSignalBlocker(box):
                box.setValue(now())

        box.valueChanged.connect(put)
        self._add(word, box, show, why)
        return box

    def text(self, word: str, now: Callable[[], str], put: Callable[[str], bool], why: str) -> TextBox:
        """A short text; `put` makes the edit, False (the reason said) where it cannot be read."""
        box = TextBox(self._session, now, put)
        box.setMinimumWidth(150)
        self._add(word, box, box.show_now, why)
        return box

    def button(self, word: str, do: Callable[[], object], why: str) -> QPushButton:
        """Something done at once."""
        box = QPushButton(word)
        box.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        box.clicked.connect(lambda _on=False: do())
        self._add("", box, lambda: None, why, word)
        return box

    def only_when(self, apt: Callable[[], bool]) -> None:
        """Show the control added last only where it applies."""
        group = self._groups[-1]
        self._shows.append(lambda: group.setVisible(apt()))
        group.setVisible(apt())

    def edit(self, label: str, change: Callable[[Job], Job]) -> bool:
        """Make an edit of the design as it is; False, the reason said, where that cannot be."""
        made = self._session.change(label, change)
        if not made:
            self.refresh()  # the control shows again what is
        return made
