"""The pages of Cut: loading, the cutter at work, and test cuts."""
