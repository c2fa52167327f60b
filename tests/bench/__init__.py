"""Timings that must stay fast, each against a yardstick of the same run: ./limpet bench."""
