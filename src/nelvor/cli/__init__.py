"""The command line: no database, no server."""
