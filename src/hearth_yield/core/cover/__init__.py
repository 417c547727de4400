"""Cover: who pays for the dividend, and how far that can fall."""
