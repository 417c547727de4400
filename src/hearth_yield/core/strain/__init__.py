"""What a bad year would do: revenue, margins or interest worsen, and every test is made again."""
