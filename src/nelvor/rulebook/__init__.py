"""Figures with their pedigree, editions, citations and local amendments."""
