"""A market-data feed: what the product asks of one (port.py), and one spoken to over HTTP."""
