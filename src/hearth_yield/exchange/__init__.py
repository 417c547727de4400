"""Open formats in and out: CSV tables, and Data Packages of them."""
