"""What one ride takes, brought to the conditions of another: the kinds' start values and the road of a kilometre."""
