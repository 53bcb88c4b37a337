"""The pages of the log."""
