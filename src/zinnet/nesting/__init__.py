"""Nesting: pieces on mats, with room for scissors, checked before anyone sees them."""
