"""The HTTP face: thin routes, one schema a shape, problem+json for every refusal."""
