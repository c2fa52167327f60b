"""Before the ride: forecasts, planning rules, claims and pack sizes."""
