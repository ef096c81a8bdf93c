"""Faces of a part: where features lie, and what is held and touched."""

from typing import Literal

Form = Literal["block", "turned"]
BAR = "bar"  # what a collet or chuck holds behind a part that is turned from bar; parting off takes it away
FACES: dict[Form, tuple[str, ...]] = {
    "block": ("top", "bottom", "front", "back", "left", "right"),
    "turned": ("free end", "chuck end", "outside", BAR),
}
SIDES = ("front", "back", "left", "right")
OPPOSITE = {
    "top": "bottom",
    "bottom": "top",
    "front": "back",
    "back": "front",
    "left": "right",
    "right": "left",
    "free end": "chuck end",
    "chuck end": "free end",
}
