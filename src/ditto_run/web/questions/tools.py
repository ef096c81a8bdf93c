"""The questions of Tools as they are asked."""

TOOL_WORDS = {
    "stickout": "Does it reach?",
    "speed": "How fast?",
    "spindle": "Has the spindle the power?",
    "cutting": "How long?",
    "passes": "How, pass by pass?",
    "nose": "Which edge?",
    "direction": "Climb or conventional?",
    "centre": "Is the edge at centre height?",
    "tapping": "Which way of tapping?",
    "cutters": "Would another cutter be quicker?",
    "minutes": "Where do the minutes go?",
    "lives": "Which tools come up along the run?",
    "hole": "How is this hole made?",
}
