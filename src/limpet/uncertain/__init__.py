"""Distributions that results and forecasts draw from."""
