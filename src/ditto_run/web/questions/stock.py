"""The questions of Stock as they are asked."""

STOCK_WORDS = {
    "blank": "What is it cut from?",
    "starts": "How many to start?",
    "cuts": "How many bars?",
    "mass": "What does it weigh and cost?",
}
