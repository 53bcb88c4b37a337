"""Steps: what is done to artwork before it is split, each a value that can be changed or taken out again."""
