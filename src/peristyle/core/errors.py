"""The one family of errors that Peristyle raises for bad input and bad files."""


class PeristyleError(Exception):
    """Something the maker can put right.

    The text says what was found, where, and what to do about it; it is shown as it stands.
    """


class LengthError(PeristyleError):
    """A length, number or angle that cannot be read."""


class ShapeError(PeristyleError):
    """Sides and angles that make no ring; `code`, `kind` and `more` say what a finding tells of it."""

    def __init__(
        self, code: str, text: str, kind: str = "", more: tuple[str, ...] = (), **numbers: float
    ) -> None:
        super().__init__(text)
        self.code = code
        self.kind = kind
        self.more = more
        self.numbers = numbers
