"""One module per step."""
