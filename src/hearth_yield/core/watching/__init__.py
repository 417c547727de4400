"""Who has come within reach of what the person waits for."""
