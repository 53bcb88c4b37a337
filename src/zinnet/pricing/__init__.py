"""What a job costs, and what it is sold for."""
