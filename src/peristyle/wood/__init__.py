"""What a board looks like: grown or given as a picture, and how well its grain matches. Knows no box."""
