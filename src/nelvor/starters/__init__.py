"""Sites that a new job can begin from: the usual arrangements, lawful as they stand but for what is truly unknown."""

from nelvor.starters.starters import STARTERS, Starter, started

__all__ = ["STARTERS", "Starter", "started"]
