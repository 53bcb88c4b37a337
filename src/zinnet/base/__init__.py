"""The base: errors, frozen models, units, writing a file whole, and the log."""
