"""The JSON interface for scripts: one module a question; ``routes`` puts them together."""
