"""Files that others wrote: told apart, looked at, and taken in as what they measured."""
