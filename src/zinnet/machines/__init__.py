"""Machines: cutters with their mats, presses and other sources of heat, the user's own."""
