"""The uncertain inputs of a test, and the pack along the ride as its readings leave it."""
