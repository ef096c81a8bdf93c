#!/bin/sh
# Pin every package with its hashes; no index or host line may get into the files.
set -eu
cd "$(dirname "$0")/.."
for name in requirements-uv requirements requirements-dev; do
  .venv/bin/uv pip compile -q --upgrade --generate-hashes --no-header --no-annotate --no-emit-index-url \
    --no-emit-find-links --python-version 3.11 "$name.in" -o "$name.txt"
done
