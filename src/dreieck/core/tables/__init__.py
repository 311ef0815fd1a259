"""What a table says: its labels, which of them count on, what belongs to one list."""
