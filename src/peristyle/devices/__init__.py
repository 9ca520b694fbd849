"""Simulated stand-ins for devices that a maker has beside the program, behind the interface a real one would have."""
