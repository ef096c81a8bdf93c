"""Fetch the styles, scripts and fonts that ship with Ditto Run, with their licences.

Run by hand when a version changes: `.venv/bin/python tools/vendor_assets.py`. Needs npm.
What it writes is committed, so that nobody needs it to run the application.
"""

import io
import subprocess
import tarfile
import tempfile
from pathlib import Path

ROOT = Path(__file__).parent.parent
APP = ROOT / "src/ditto_run/web/static/vendor"
TESTS = ROOT / "tests/vendor"
NEXT = "@fontsource-variable/atkinson-hyperlegible-next@5.3.0"
MONO = "@fontsource-variable/martian-mono@5.3.0"
SIGNS = "@fontsource/b612@5.3.0"

WANTED = {  # package: [(file in it, folder, name there)]
    "htmx.org@2.0.11": [
        ("dist/htmx.min.js", APP, "htmx.min.js"),
        ("LICENSE", APP, "LICENSE-htmx.txt"),
    ],
    "bootstrap@5.3.9": [
        ("dist/css/bootstrap.min.css", APP, "bootstrap.min.css"),
        ("LICENSE", APP, "LICENSE-bootstrap.txt"),
    ],
    NEXT: [
        ("files/atkinson-hyperlegible-next-latin-wght-normal.woff2", APP, "atkinson-next.woff2"),
        ("LICENSE", APP, "LICENSE-atkinson-hyperlegible-next.txt"),
    ],
    MONO: [
        ("files/martian-mono-latin-standard-normal.woff2", APP, "martian-mono.woff2"),
        ("LICENSE", APP, "LICENSE-martian-mono.txt"),
    ],
    SIGNS: [
        ("files/b612-latin-400-normal.woff2", APP, "b612-signs.woff2"),
        ("LICENSE", APP, "LICENSE-b612.txt"),
    ],
    "axe-core@4.14.1": [
        ("axe.min.js", TESTS, "axe.min.js"),
        ("LICENSE", TESTS, "LICENSE-axe-core.txt"),
    ],
}
SOURCE_MAP = b"\n/*# sourceMappingURL=bootstrap.min.css.map */"


def fetch(package: str) -> dict[str, bytes]:
    """Return the files of one npm package by their path inside it."""
    with tempfile.TemporaryDirectory() as folder:
        name = subprocess.run(
            ["npm", "pack", "--silent", package], cwd=folder, check=True, capture_output=True, text=True
        ).stdout.split()[-1]
        packed = io.BytesIO((Path(folder) / name).read_bytes())
    with tarfile.open(fileobj=packed) as archive:
        members = [m for m in archive.getmembers() if m.isfile()]
        return {m.name.removeprefix("package/"): archive.extractfile(m).read() for m in members}


def main() -> None:
    """Write every wanted file."""
    for package, files in WANTED.items():
        found = fetch(package)
        for inside, folder, name in files:
            folder.mkdir(parents=True, exist_ok=True)
            (folder / name).write_bytes(found[inside].replace(SOURCE_MAP, b""))
            print(f"{package}: {name}")


if __name__ == "__main__":
    main()
