"""The questions of Hold as they are asked."""

HOLD_WORDS = {
    "stop": "Where does it stop?",
    "ladder": "Where does the blade stand?",
    "blocks": "Which spacers?",
    "sawn": "Does it lean on its sawn end?",
    "segments": "How far is the bar pulled out?",
    "grip": "Will it hold?",
    "depth": "Deep enough in the jaws?",
    "clamps": "What do the clamps do?",
    "nest": "How large is the nest?",
    "on_hole": "How true does it sit on its pin?",
    "marks": "May the jaws mark?",
    "vacuum": "Does the vacuum hold?",
    "thin": "Do the jaws squash it?",
    "overhang": "How far does it give?",
    "reach": "Is there room below?",
    "way_round": "Can it go in the wrong way?",
}
