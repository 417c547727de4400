"""What the household is paid: what is due, what comes, what changed it, what tax leaves of it."""
