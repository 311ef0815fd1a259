"""The rules of the trade: addresses, references, formulas, values, fills.

Nothing in here knows the web, a database or a file; see ``docs/architecture.md``.
"""
