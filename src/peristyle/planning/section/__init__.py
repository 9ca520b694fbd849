"""What the box has from its bottom edge up."""
