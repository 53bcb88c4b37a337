"""The stations of the work, one widget each."""
