"""The job: the document, its file, its edits, its names, order and price."""
