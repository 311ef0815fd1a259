"""The web application: pages, fragments and the JSON interface."""

from dreieck.web.app import create_app

__all__ = ["create_app"]
