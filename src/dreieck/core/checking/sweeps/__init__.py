"""Sweeps: inputs that run over many values, what comes out, and what that looks like."""
