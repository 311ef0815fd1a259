"""Practice: questions made from a seed, answers judged by what they would read, and mastery."""
