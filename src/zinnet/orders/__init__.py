"""What was ordered: garments by size and colour, until when; and the garments that are there."""
