"""What a formula does, told by its shape alone: what it reads, and how it uses it."""
