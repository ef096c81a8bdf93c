"""Boxes of cuts against each other: how far apart they are at least, many at once."""

from collections.abc import Sequence

from ditto_run.core.part.shape.plane import Span

Box = tuple[Span, Span, Span]
MOST = 2000  # cuts whose pairs are looked at; [-]


def gaps_of(boxes: Sequence[Box], most: float) -> list[tuple[float, int, int]]:
    """Return the pairs of boxes whose contents can be so near to each other, with that least distance, nearest first, [mm].

    Args:
        boxes: from where to where along x, y and z. [mm]
        most: pairs that are surely farther apart are left out. [mm]

    Returns:
        Distance, and the two places in the sequence; nothing for more than 2,000 boxes.
    """
    import numpy as np  # noqa: PLC0415 - numpy takes 0.1 s, and few pages need it

    if not 1 < len(boxes) <= MOST:
        return []
    ends = np.array(boxes)  # boxes × directions × low and high
    low, high = ends[:, :, 0], ends[:, :, 1]
    apart = np.maximum(low[:, None, :] - high[None, :, :], low[None, :, :] - high[:, None, :])
    least = np.sqrt((np.maximum(apart, 0.0) ** 2).sum(axis=2))
    first, second = np.nonzero(np.triu(least <= most, 1))
    found = least[first, second]
    order = np.argsort(found, kind="stable")
    return list(zip(found[order].tolist(), first[order].tolist(), second[order].tolist(), strict=True))


def groups_of(boxes: Sequence[Box]) -> list[list[int]]:
    """Return boxes in groups that do not meet each other, by their places in the sequence.

    Args:
        boxes: from where to where along x, y and z. [mm]
    """
    group = list(range(len(boxes)))

    def root(i: int) -> int:
        while group[i] != i:
            group[i] = group[group[i]]
            i = group[i]
        return i

    for _, i, j in gaps_of(boxes, 0.0):
        group[root(i)] = root(j)
    found: dict[int, list[int]] = {}
    for i in range(len(boxes)):
        found.setdefault(root(i) if len(boxes) <= MOST else 0, []).append(i)
    return list(found.values())
