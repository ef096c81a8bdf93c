"""The questions of Method as they are asked."""

METHOD_WORDS = {
    "order": "All through one setup, or each complete?",
    "overlap": "Who waits: hands or machine?",
    "minding": "How far does one pair of hands go?",
    "rules": "Will it go?",
    "time_box": "How far in the time there is?",
}
