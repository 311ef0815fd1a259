"""Charts: what a selection would be as one, and what one shows."""
