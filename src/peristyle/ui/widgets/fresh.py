"""A view that says what the plan says: at once while it is seen, and when it is next opened."""

from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QWidget

from peristyle.ui.guard import kept_in
from peristyle.ui.session import Session


class FreshView(QWidget):
    """What changes while another stage is open costs nothing here."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session

    def _keep_fresh(self) -> None:
        """To be called last: what is told may change how much room a sheet has, which must be drawn anew by then."""
        self._session.changed.connect(self._if_seen)

    def _if_seen(self) -> None:
        if self.isVisible():
            self.tell()

    @kept_in
    def showEvent(self, event: QShowEvent) -> None:
        """What changed while another stage was open."""
        super().showEvent(event)
        self.tell()

    def tell(self) -> None:
        """Say everything anew, but for its sheets, which see to themselves."""
        raise NotImplementedError
