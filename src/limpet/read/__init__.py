"""A test as it is read: its ride, its meters, its distances and what tells of the pack."""
