"""Limits, tests, cushions, states, house rules. It knows no stage."""
