"""What is known of a payer: records and their cut, statements, periods, edits, age."""
