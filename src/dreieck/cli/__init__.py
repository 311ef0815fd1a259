"""The command ``dreieck``."""
