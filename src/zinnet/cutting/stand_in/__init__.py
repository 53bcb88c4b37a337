"""The stand-in cutter: it understands HP-GL, moves a head, cuts a made-up film to a depth, and can be told to fail."""
