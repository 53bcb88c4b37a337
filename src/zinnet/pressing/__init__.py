"""Pressing: recipes, where the platen goes, steps, schedule, and the stand-in press."""
