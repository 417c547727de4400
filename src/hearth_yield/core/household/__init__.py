"""What the person owns: accounts, entries, lots and positions, on plain integers."""
