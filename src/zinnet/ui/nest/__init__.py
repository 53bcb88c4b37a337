"""The pages of Nest beside the mats: trim list, shelf, questions, leftovers."""
