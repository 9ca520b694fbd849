"""Widgets one under the other, without a gap: how the stages are built."""

from PySide6.QtWidgets import QVBoxLayout, QWidget


def stacked(holder: QWidget, gap: int = 0) -> QVBoxLayout:
    """A column that fills its holder to the edges."""
    layout = QVBoxLayout(holder)
    layout.setContentsMargins(0, 0, 0, 0)
    layout.setSpacing(gap)
    return layout
