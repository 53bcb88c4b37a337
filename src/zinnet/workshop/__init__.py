"""The workshop: the shelf, the books of cutting and pressing, habits, prices, and the file that holds them."""
