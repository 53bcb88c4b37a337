"""Colour layers: separation, films, and the side that is cut."""
