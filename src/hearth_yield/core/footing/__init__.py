"""Footing: whether balance sheet and business would carry the dividend through a bad year."""
