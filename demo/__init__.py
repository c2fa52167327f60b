"""Skerrow, an invented island: the demo's vehicles, packs, riders and range tests."""
