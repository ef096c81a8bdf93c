"""What could be done, proposed: ways to make each feature with the tools there are, as tool steps in order."""
