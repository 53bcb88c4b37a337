"""The schedule of pressing: who and what does which step of which garment when, and what holds everything up."""
