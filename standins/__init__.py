"""Simulated instruments and rides, for the demo and the tests."""
