"""The command `ditto-run`: serve the shop, the demo, back up, restore."""

import argparse
import gc
import logging
import os
import shutil
import socket
import sys
from logging.handlers import RotatingFileHandler
from pathlib import Path

from ditto_run import __version__
from ditto_run.core.errors import DittoError
from ditto_run.settings import Settings, data_folder

HOST = "127.0.0.1"
DEFAULT_PORT = 8270
TRIES = 20
SHUTDOWN_S = 2


def main(arguments: list[str] | None = None) -> int:
    """Run one command. Returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="ditto-run", description="Turns a one-off part into a repeatable small batch."
    )
    parser.add_argument("--version", action="version", version=__version__)
    parser.add_argument("--data", type=Path, help="data folder; default: the user's own")
    commands = parser.add_subparsers(dest="command")
    for name, words in (
        ("serve", "start with your own data"),
        ("demo", "start with the demo shop, made afresh"),
    ):
        serve_parser = commands.add_parser(name, help=words)
        serve_parser.add_argument("--port", type=int, default=int(os.environ.get("PORT", DEFAULT_PORT)))
    for name, words in (
        ("backup", "write the whole shop to one file"),
        ("restore", "put a backup in the place of what is there"),
    ):
        commands.add_parser(name, help=words).add_argument("file", type=Path)
    chosen = parser.parse_args(arguments)
    try:
        return _run(chosen)
    except DittoError as refusal:
        print(f"{refusal.problem} {refusal.remedy}", file=sys.stderr)
        return 2


def _run(chosen: argparse.Namespace) -> int:
    folder: Path = chosen.data or data_folder()
    if chosen.command == "backup":
        from ditto_run.store.backup import back_up  # noqa: PLC0415 - each command loads what it needs
        from ditto_run.store.database import FILE_NAME, Database  # noqa: PLC0415

        back_up(Database(folder / FILE_NAME), chosen.file)
        print(f"Backed up to {chosen.file}")
        return 0
    if chosen.command == "restore":
        from ditto_run.store.backup import restore  # noqa: PLC0415
        from ditto_run.store.database import FILE_NAME, Database  # noqa: PLC0415

        restore(Database(folder / FILE_NAME), chosen.file.read_bytes())
        print(f"Restored from {chosen.file} into {folder}")
        return 0
    demo = chosen.command == "demo"
    if demo:
        folder = folder / "demo"
        shutil.rmtree(
            folder, ignore_errors=True
        )  # the demo is always made afresh; your own data is beside it
    serve(Settings(folder, demo), getattr(chosen, "port", DEFAULT_PORT))
    return 0


def free_socket(port: int) -> socket.socket:
    """Return a listening socket on the port, or on one after it if it is taken."""
    for candidate in (*range(port, port + TRIES), 0):
        taken = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
        taken.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        taken.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
        try:
            taken.bind((HOST, candidate))
            taken.listen(64)  # whoever reads the address can ask at once, and waits for the answer
        except OSError:
            taken.close()
            print(f"Port {candidate} is taken; trying another.", flush=True)
            continue
        return taken
    raise DittoError("No port is free on this machine.", "Close another program, or choose one with --port.")


def serve(settings: Settings, port: int) -> None:
    """Serve the application on loopback until it is stopped."""
    gc.disable()  # nothing that is imported is garbage; looking for it takes a tenth of the start
    import uvicorn  # noqa: PLC0415

    from ditto_run.app import create_app  # noqa: PLC0415

    gc.enable()
    settings.folder.mkdir(parents=True, exist_ok=True)
    log = logging.getLogger("ditto_run")
    log.setLevel(logging.INFO)
    handler = RotatingFileHandler(
        settings.folder / "ditto-run.log", maxBytes=2_000_000, backupCount=3, encoding="utf-8"
    )
    handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
    log.addHandler(handler)
    app = create_app(settings)
    if settings.demo:
        from ditto_run.demo import make_demo_shop  # noqa: PLC0415

        make_demo_shop(app.state.desk)
    with free_socket(port) as listening:
        number = listening.getsockname()[1]
        print(f"Data is in {settings.folder}", flush=True)
        print(f"http://{HOST}:{number}", flush=True)
        config = uvicorn.Config(
            app, log_level="warning", timeout_graceful_shutdown=SHUTDOWN_S, access_log=False
        )
        uvicorn.Server(config).run(sockets=[listening])
