"""Now, as the files have it."""

import datetime as dt


def stamp() -> str:
    """Now to the minute, with this computer's offset from UTC (ISO 8601)."""
    return dt.datetime.now().astimezone().isoformat(timespec="minutes")
