"""The command `ditto-run`: serve the shop, the demo, back up, restore."""

import argparse
import gc
import logging
import os
import shutil
import socket
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from logging.handlers import RotatingFileHandler
from pathlib import Path
from threading import Timer

from ditto_run import __version__
from ditto_run.core.errors import CannotKeep, DittoError, FileNotRead
from ditto_run.settings import Settings, data_folder

HOST = "127.0.0.1"
DEFAULT_PORT = 8270
HIGHEST_PORT = 65_535
TRIES = 20
SHUTDOWN_S = 2
TAKE_UP_S = 1.0  # whoever opened the application has their first page by then


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
        commands.add_parser(name, help=words).add_argument("--port", default=os.environ.get("PORT", ""))
    for name, words in (
        ("backup", "write the whole shop to one file"),
        ("restore", "put a backup in the place of what is there"),
    ):
        commands.add_parser(name, help=words).add_argument("file", type=Path)
    cable = commands.add_parser("gauge", help="send a gauge's serial lines to the application that runs")
    cable.add_argument("--port", required=True, help="such as COM3 or /dev/ttyUSB0")
    cable.add_argument("--baud", type=int, default=9600, help="speed of the cable; default: 9600")
    cable.add_argument("--key", required=True, help="its key from Shop, Devices")
    cable.add_argument("--to", default=f"http://{HOST}:{DEFAULT_PORT}", help="where the application is")
    chosen = parser.parse_args(arguments)
    try:
        return _run(chosen)
    except DittoError as refusal:
        print(f"{refusal.problem} {refusal.remedy}", file=sys.stderr)
        return 2


def _run(chosen: argparse.Namespace) -> int:
    if chosen.command == "gauge":
        return _listen(chosen)
    from ditto_run.desk.folder import hold_folder  # noqa: PLC0415 - --help and --version load nothing more

    folder: Path = chosen.data or data_folder()
    demo = chosen.command == "demo"
    folder = folder / "demo" if demo else folder
    with hold_folder(folder) as held:
        if chosen.command == "backup":
            _back_up(folder, chosen.file)
        elif chosen.command == "restore":
            _restore(folder, chosen.file)
        else:
            if demo:  # always made afresh; your own data is beside it
                _empty(folder, keep=held.path)
            serve(Settings(folder, demo), _port(getattr(chosen, "port", "")), held.say)
    return 0


def _listen(chosen: argparse.Namespace) -> int:
    from ditto_run.devices.cable import bridge  # noqa: PLC0415

    with suppress(KeyboardInterrupt):
        bridge(chosen.port, chosen.baud, chosen.to, chosen.key, lambda words: print(words, flush=True))
    return 0


def _back_up(folder: Path, file: Path) -> None:
    from ditto_run.desk import open_desk  # noqa: PLC0415

    desk = open_desk(Settings(folder))
    try:
        desk.backups.write(file)
    finally:
        desk.close()
    print(f"Backed up to {file}")


def _restore(folder: Path, file: Path) -> None:
    from ditto_run.desk import open_desk  # noqa: PLC0415

    try:
        content = file.read_bytes()
    except OSError as fault:
        raise FileNotRead(
            f"{file} cannot be read: {fault.strerror}.", "Nothing was changed. Name the backup file."
        ) from None
    desk = open_desk(Settings(folder))
    try:
        replaced = desk.backups.restore(content)
    finally:
        desk.close()
    print(f"Restored from {file} into {folder}. What was there before is in {replaced}.")


def _empty(folder: Path, keep: Path) -> None:
    for entry in folder.iterdir():
        if entry == keep:
            continue
        if entry.is_dir():
            shutil.rmtree(entry, ignore_errors=True)
        else:
            entry.unlink(missing_ok=True)


def _port(text: str) -> int:
    typed = text.strip() or str(DEFAULT_PORT)
    if not typed.isdecimal() or not 0 <= int(typed) <= HIGHEST_PORT:
        raise CannotKeep(f"“{typed[:20]}” is no port.", f"Choose one from 1 to {HIGHEST_PORT}, such as 8270.")
    return int(typed)


def free_socket(port: int) -> socket.socket:
    """Return a listening socket on the port, or on one after it if it is taken."""
    last = min(port + TRIES, HIGHEST_PORT + 1)
    for candidate in (*range(port, last), 0):
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
    raise CannotKeep("No port is free on this machine.", "Close another program, or choose one with --port.")


def serve(settings: Settings, port: int, say_address: Callable[[str], None]) -> None:
    """Serve the application on loopback until it is stopped; `say_address` is told where."""
    gc.disable()  # nothing that is imported is garbage; looking for it takes a tenth of the start
    import uvicorn  # noqa: PLC0415

    from ditto_run.app import create_app, get_ready  # noqa: PLC0415
    from ditto_run.desk import open_desk  # noqa: PLC0415

    gc.enable()
    desk = open_desk(settings)
    try:
        _write_log(settings.folder)
        app = create_app(settings, desk)
        if settings.demo:
            from ditto_run.demo import make_demo_shop  # noqa: PLC0415

            make_demo_shop(desk)
        with free_socket(port) as listening:
            address = f"http://{HOST}:{listening.getsockname()[1]}"
            say_address(address)
            print(f"Data is in {settings.folder}", flush=True)
            print(address, flush=True)
            config = uvicorn.Config(
                app, log_level="warning", timeout_graceful_shutdown=SHUTDOWN_S, access_log=False
            )
            with _later(TAKE_UP_S, lambda: get_ready(app)):
                uvicorn.Server(config).run(sockets=[listening])
    finally:
        desk.close()


@contextmanager
def _later(seconds: float, work: Callable[[], None]) -> Iterator[None]:
    """Do some work a little later, beside what is done meanwhile; what it has begun is ended first."""
    timer = Timer(seconds, work)
    timer.daemon = True
    timer.start()
    try:
        yield
    finally:
        timer.cancel()
        timer.join()


def _write_log(folder: Path) -> None:
    log = logging.getLogger("ditto_run")
    log.setLevel(logging.INFO)
    handler = RotatingFileHandler(
        folder / "ditto-run.log", maxBytes=2_000_000, backupCount=3, encoding="utf-8"
    )
    handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
    log.addHandler(handler)
