"""One module a kind of part."""
