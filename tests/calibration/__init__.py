"""Rides with a known truth, what riders would have written of them, and how the core's answers hold."""
