"""Tracing: a picture's flat colours become shapes with clean, curved outlines."""
