"""The window: everything that imports Qt, and nothing else does."""
