"""Steps from one schema to the next."""
