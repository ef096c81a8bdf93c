"""Which cycle of a run a device looks at, and acts on: it stands in the address of its page, as in ?cycle=12.

Whatever a page asks for bears that address along, so a key pressed here never acts on the machine somebody else opened.
"""

from urllib.parse import parse_qs, urlsplit

from fastapi import Request

from ditto_run.core.run import RunState


def cycle_meant(request: Request) -> int:
    """Return the key of the cycle a request is about; 0 where its page has none.

    Args:
        request: with its own address, or that of the page it came from.
    """
    for address in (
        str(request.url),
        request.headers.get("hx-current-url", ""),
        request.headers.get("referer", ""),
    ):
        said = parse_qs(urlsplit(address).query).get("cycle", [""])[0]
        if said.isascii() and said.isdigit() and len(said) < 10:  # noqa: PLR2004 - no key is longer
            return int(said)
    return 0


def looked_at(state: RunState, request: Request) -> RunState:
    """Return a run as it is looked at from the cycle a request is about; from the one opened last where it has none."""
    return state.near(cycle_meant(request))


def has_cycles(state: RunState) -> bool:
    """Return True if several cycles may run at once: somebody put cycles together, so each page says which it is."""
    return bool(state.plan.cycles)
