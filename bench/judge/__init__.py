"""Plays the judgement of a run on simulated processes beside the usual habits."""

import importlib


def named(path):
    """Return what `package.module:name` or `package.module.name` names."""
    module, name = path.split(":") if ":" in path else path.rsplit(".", 1)
    return getattr(importlib.import_module(module), name)
