"""The pages of pressing, and its bench."""
