"""A figure and its working; when two are the same."""
