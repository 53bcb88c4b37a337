"""What leaves Zinnet: cut files, the plan as JSON, and papers."""
