"""Lists of names: one garment for each row, with its own words where the job's text has a column in braces."""
