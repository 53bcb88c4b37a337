"""The shop: questions, costing, the quote, and an order against the shelf."""
