"""The door of the interface: JSON over HTTP, for what ``dreieck.api`` answers."""
