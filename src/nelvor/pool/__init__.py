"""Heavy questions answered by a few processes of their own, each asker with a fair share, none beyond its time."""
