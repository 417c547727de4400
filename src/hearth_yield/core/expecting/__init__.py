"""What a person expects of a payer, and whether it is coming true."""
