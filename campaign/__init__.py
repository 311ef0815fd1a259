"""The campaign: attacks on a running server, for minutes, with figures. ``make campaign``."""
