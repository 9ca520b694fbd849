"""What is cut: every piece with its features, in its place."""
