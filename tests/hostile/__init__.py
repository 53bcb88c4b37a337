"""What strangers may do to files, and what must hold whatever they do."""
