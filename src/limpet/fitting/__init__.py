"""Road load from rides."""
