"""The design's file: reading, checking, saving without loss, and the copy kept for a crash."""
