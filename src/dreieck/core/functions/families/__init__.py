"""The families of functions: what computes them, and what is told of them, side by side."""
