"""Changes of a document: operations, removing, differences, and joining what two people changed."""
