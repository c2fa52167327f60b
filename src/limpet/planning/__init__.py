"""Before the ride: the rules of a question, its schedule, claims and pack sizes."""
