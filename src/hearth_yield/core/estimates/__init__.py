"""What analysts and the payer itself expect, and how far such expectations were off before."""
