"""A dozen kills in the middle of the work; `make bench` does two hundred."""

from pathlib import Path

import pytest

from bench.kills import KINDS, kill_once


@pytest.mark.parametrize(
    ("kind", "seed"), [*((kind, 1) for kind in KINDS), ("adjust", 2), ("restore", 3), ("first start", 4)]
)
def test_a_kill_leaves_a_whole_shop(tmp_path: Path, kind: str, seed: int) -> None:
    assert kill_once(kind, tmp_path / "shop", seed) == []
