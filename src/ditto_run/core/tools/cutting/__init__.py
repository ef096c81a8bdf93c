"""A tool at work: its speed and feed, the way it goes, how far it has to stand out, what it takes of the machine's time."""
