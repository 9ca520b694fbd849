"""How long the work takes, and when it is done: minutes, waits, the calendar."""
