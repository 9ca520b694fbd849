"""The sides on their board, and boards to suit."""
