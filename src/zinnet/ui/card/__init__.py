"""The job card: what was asked for, on one card."""
