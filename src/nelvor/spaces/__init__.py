"""The spaces of a bus: where each lies, what stands in them, and how breakers change places."""
