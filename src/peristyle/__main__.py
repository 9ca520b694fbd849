"""`python -m peristyle`."""

from peristyle.cli import entry

entry()
