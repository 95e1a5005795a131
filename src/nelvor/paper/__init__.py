"""Sheets for the permit office, drawn from the report."""
