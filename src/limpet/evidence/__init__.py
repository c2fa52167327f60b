"""Evidence: a test as recorded, before any judgement."""
