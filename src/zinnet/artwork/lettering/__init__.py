"""Lettering: words shaped and set in fonts, as outlines."""
