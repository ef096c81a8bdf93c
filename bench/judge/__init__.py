"""Plays the judgement of a run on simulated processes beside the usual habits."""
