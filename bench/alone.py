"""What a bench that is run alone, or in a process of its own, needs: its memory, and its figures shown."""

from pathlib import Path


def own_peak_mb() -> float:
    """Return the most memory this process ever had, [MB]; what getrusage says is also what its parent had."""
    status = Path("/proc/self/status").read_text("utf-8")
    return int(status.partition("VmHWM:")[2].split()[0]) / 1024


def shown(what: str, value: float, limit: float, unit: str) -> None:
    """Print a figure beside its limit."""
    print(f"{what}: {value:.3g} {unit} (limit {limit:g})")
