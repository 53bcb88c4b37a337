"""The page of an order: what is asked for, what is there, when it is done, and what it costs."""
