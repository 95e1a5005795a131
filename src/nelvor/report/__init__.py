"""Runs everything over a design and hands back findings, answers and the path."""
