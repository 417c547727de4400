"""Record: what it has paid, and whether that beats inflation."""
