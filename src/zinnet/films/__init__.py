"""Films: the catalogue, what may lie on what, and the user's own."""
