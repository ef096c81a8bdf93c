"""The questions of Part as they are asked."""

PART_WORDS = {
    "thread": "What does this thread want?",
    "fit": "What play have they?",
    "gauging": "How often is it gauged?",
    "taper": "How is the taper set?",
    "pattern": "Where do the holes stand?",
    "bend": "How long is the flat, and what bends it?",
}
