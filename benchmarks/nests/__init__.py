"""How dense the nests are, measured against each engine alone and against rows of boxes."""
