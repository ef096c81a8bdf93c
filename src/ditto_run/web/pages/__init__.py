"""One module a step: its pages."""
