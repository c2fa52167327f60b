"""Questions to a drive: how far, how long, how sure."""
