"""The command line: one module a command, each with `run`.

Only what a command needs is imported, so that the quick answer at the saw is quick.
"""
