"""The page on which the work is done: what it shows, and what can be done on it."""
