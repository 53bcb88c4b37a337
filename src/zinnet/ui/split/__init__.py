"""What the Split station shows: layers lifted apart, thickness, small detail, weed map, films."""
