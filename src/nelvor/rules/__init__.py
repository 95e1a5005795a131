"""The questions of the work, one module each."""
