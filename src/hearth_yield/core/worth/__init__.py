"""Worth: what a payer is worth, by several models, and what today's price takes for granted."""
