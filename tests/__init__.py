"""The suite. Properties are never timed: several processes run at once."""

from hypothesis import settings

settings.register_profile("suite", deadline=None)
settings.load_profile("suite")
