"""A laboratory: jobs with planted faults whose ids and places are known, clean jobs, and a judge of mends."""
