"""Timed work and large comparisons, never part of the tests."""
