"""SVG as people bring it: read from strangers safely, with its styles, clips, masks, markers and words."""
