"""Figures as ratios against yardsticks that run side by side: ``python -m bench``."""
