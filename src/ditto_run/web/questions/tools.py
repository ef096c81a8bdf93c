"""The questions of Tools as they are asked."""

TOOL_WORDS = {
    "lives": "Which tools come up along the run?",
    "hole": "How is this hole made?",
}
