"""What many devices ask for at once is drawn once."""

from threading import Barrier, Thread

from ditto_run.web.drawn import MOST_KEPT, Drawn


def test_twenty_at_once_are_one_drawing_and_the_oldest_is_forgotten() -> None:
    drawn, drawings, together = Drawn(), [], Barrier(20)

    def draw() -> bytes:
        drawings.append(1)
        return b"board"

    def ask() -> None:
        together.wait()
        assert drawn.of("key", draw).plain == b"board"

    hands = [Thread(target=ask) for _ in range(20)]
    for hand in hands:
        hand.start()
    for hand in hands:
        hand.join()
    assert len(drawings) == 1
    for number in range(MOST_KEPT):
        drawn.of(number, draw)
    drawn.of("key", draw)
    assert len(drawings) == 1 + MOST_KEPT + 1
