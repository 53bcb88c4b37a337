"""Forms for presses, cutting machines and films of one's own."""
