"""Orders."""
