"""A few payers side by side: who is best in what, how firmly, and what would change it."""
