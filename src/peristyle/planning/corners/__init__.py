"""What strengthens the corners."""
