"""The command: ports, folders, and what it prints."""

import socket
import sys
from pathlib import Path

import pytest

from ditto_run import __version__
from ditto_run.cli import HOST, free_socket, main
from ditto_run.settings import data_folder


def test_a_busy_port_is_said_and_another_taken(capsys: pytest.CaptureFixture[str]) -> None:
    with socket.socket() as taken:
        taken.bind((HOST, 0))
        taken.listen()
        port = taken.getsockname()[1]
        with free_socket(port) as other:
            assert other.getsockname()[1] != port
            assert other.getsockname()[0] == "127.0.0.1"
    assert f"Port {port} is taken; trying another." in capsys.readouterr().out


def test_a_free_port_is_taken_as_wanted() -> None:
    with socket.socket() as found:
        found.bind((HOST, 0))
        port = found.getsockname()[1]
    with free_socket(port) as mine:
        assert mine.getsockname()[1] == port


def test_the_version(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit):
        main(["--version"])
    assert __version__ in capsys.readouterr().out


@pytest.mark.parametrize(
    ("platform", "variables", "end"),
    [
        ("linux", {"XDG_DATA_HOME": "/x"}, "/x/ditto-run"),
        ("win32", {"LOCALAPPDATA": "/local"}, "/local/ditto-run"),
        ("darwin", {}, "Library/Application Support/ditto-run"),
        ("linux", {"DITTO_RUN_DATA": "/mine"}, "/mine"),
    ],
)
def test_data_lies_where_the_system_keeps_it(
    monkeypatch: pytest.MonkeyPatch, platform: str, variables: dict, end: str
) -> None:
    monkeypatch.setattr(sys, "platform", platform)
    for name in ("DITTO_RUN_DATA", "XDG_DATA_HOME", "LOCALAPPDATA"):
        monkeypatch.delenv(name, raising=False)
    for name, value in variables.items():
        monkeypatch.setenv(name, value)

    assert str(data_folder()).endswith(end)


def test_the_demo_never_touches_your_own_data(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    served = []
    monkeypatch.setattr(
        "ditto_run.cli.serve",
        lambda settings, port, _say: served.append((settings.folder, settings.demo, port)),
    )
    (tmp_path / "ditto-run.db").write_text("mine")
    (tmp_path / "demo").mkdir()
    (tmp_path / "demo/old").write_text("old")
    monkeypatch.setenv("PORT", "9123")

    main(["--data", str(tmp_path), "demo"])
    main(["--data", str(tmp_path), "serve", "--port", "9000"])

    assert served == [(tmp_path / "demo", True, 9123), (tmp_path, False, 9000)]
    assert (tmp_path / "ditto-run.db").read_text() == "mine"
    assert not (tmp_path / "demo/old").exists()
