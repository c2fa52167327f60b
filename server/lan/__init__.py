"""Limpet on the local network: an authority of this installation's own, its certificate, and the way in."""
