"""The Flask server: routes over the core and the store, and the built interface."""
