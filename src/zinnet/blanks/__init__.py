"""Blanks: what is pressed on, as outlines made from measures."""
