"""Finding payers: the catalogue, what is kept of each, search and groups."""
