"""Hearth Yield: judge the safety and the price of dividend payers."""
