"""The questions of Tools as they are asked."""

TOOL_WORDS = {
    "hole": "How is this hole made?",
}
