"""The questions of Part as they are asked."""

PART_WORDS = {"thread": "What does this thread want?"}
