"""Zinnet: measure, fit, split, nest and cut vinyl for garments, bags and signs."""

__version__ = "0.1.0"
