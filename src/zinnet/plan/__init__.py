"""The plan: what follows from a job and a workshop, stage by stage."""
