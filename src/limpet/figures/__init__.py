"""The figures of a test, each with its uncertainty."""
