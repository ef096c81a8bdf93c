"""Pages, the API and what they are drawn with."""
