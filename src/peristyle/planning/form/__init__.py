"""Where the sides stand."""
