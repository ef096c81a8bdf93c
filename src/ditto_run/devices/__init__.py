"""Devices beside the application: an interface each, and a simulated stand-in that ships with it."""
