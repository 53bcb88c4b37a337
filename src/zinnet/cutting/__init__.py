"""Cutting: the order of the outlines on a mat, and the files that a cutter reads."""
