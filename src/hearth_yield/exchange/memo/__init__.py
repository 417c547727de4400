"""A decision as one page that needs nothing else: two sheets of A4 when printed."""
