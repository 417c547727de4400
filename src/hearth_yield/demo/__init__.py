"""A made-up world to practise on: the Sundrey Isles and their exchange at Port Elvery."""
