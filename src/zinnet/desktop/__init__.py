"""Zinnet among the desktop's programs, and its guide."""
