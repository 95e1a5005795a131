"""Nelvor: feeders, sub-panels and bonding, designed with every figure's working shown."""

ENGINE_VERSION = "0.12.0"
