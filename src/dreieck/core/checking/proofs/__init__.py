"""Proofs: whether statements about cells hold, by how much they fail, and which could be made."""
