"""The box as it comes out: errors, how the ring closes with them, what they come from, what mends them."""
