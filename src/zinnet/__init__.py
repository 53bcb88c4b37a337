"""Zinnet: measure, fit, split, nest and cut vinyl for garments, bags and signs."""

import os

__version__ = "0.1.0"

os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "__all__")
"""Models are made without looking through all that is installed for plugins, of which there are none here."""
