"""The JSON interface for scripts: one module a question, which the command asks, too.

``routes`` puts them on the web, with ``uploads``; no other one knows of it, so that the command
starts at once.
"""
