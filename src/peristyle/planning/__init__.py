"""What follows from the design: one module for each question of the trade; `plan` runs them."""
