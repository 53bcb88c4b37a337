"""Regions (polygons with holes), flattening, strokes, offsets and transforms."""
