"""The pages beside the workbench."""
