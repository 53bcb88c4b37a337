"""The page of names."""
