"""What the box holds and what stands in it."""
