"""Measuring on a photo of the garment."""
