"""What the maker decides: the design and the edits that make one design from another."""
