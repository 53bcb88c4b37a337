"""The findings: one small function for each mistake that costs a garment or a piece of film."""
