"""What a person does, one file per intention: load, ask the core, save."""
