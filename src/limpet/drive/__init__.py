"""The walk of a vehicle along a route, every draw at once."""
