"""Pressing: platens, and later recipes, steps and the schedule."""
