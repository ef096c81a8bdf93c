"""The part as a body: what its features take away, how large, how heavy and how thin it is."""
