"""Peristyle: plan mitered boxes, rectangular or polygon, from the board to the cut list."""

__version__ = "0.2.0"
