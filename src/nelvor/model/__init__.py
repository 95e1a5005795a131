"""The design document: typed, versioned, no arithmetic."""
