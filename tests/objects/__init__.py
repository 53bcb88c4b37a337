"""Every object its own way: jobs of each kind of blank, from the order to the press."""
