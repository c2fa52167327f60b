"""Scripts that make files of the project: curves, API types, pictures."""
