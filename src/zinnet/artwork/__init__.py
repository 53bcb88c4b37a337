"""Artwork: files that people bring, read into painted outlines that can be cut."""
