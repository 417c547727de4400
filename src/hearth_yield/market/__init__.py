"""The simulated market: a small service that publishes the made-up world day by day, and can be
told to fail. It stands in for a market-data service."""
