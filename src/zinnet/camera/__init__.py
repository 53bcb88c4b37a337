"""A garment from a photo: a sheet of known size on it is found, and lengths beside it follow."""
