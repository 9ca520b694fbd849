"""Lengths, angles, planes and outlines. Knows no box, no file and no window."""
