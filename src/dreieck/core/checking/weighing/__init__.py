"""Weighing: what speaks against the locks of a block, and which other locks would do better."""
