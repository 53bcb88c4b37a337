"""What runs over time without a window: the open document with its undo, cutting, pressing, test cuts, timers."""
