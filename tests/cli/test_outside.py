"""The outside world of the demo: its own process and port, made-up figures."""

import json
import socket
import subprocess
import sys
import time
import urllib.request
from datetime import UTC, datetime

import pytest
from command import run

from dreieck.outside import FIGURES, figure

COMMAND = [sys.executable, "-m", "dreieck.cli.main"]


def get(address):
    for _ in range(200):
        try:
            with urllib.request.urlopen(address, timeout=2) as answer:
                return json.load(answer)
        except OSError:
            time.sleep(0.05)
    raise AssertionError(address)


def end(process):
    process.terminate()
    process.communicate()


@pytest.fixture
def port():
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        return free.getsockname()[1]


def test_the_outside_tells_its_figures_on_a_port_of_its_own(port):
    process = subprocess.Popen([*COMMAND, "outside", "--port", str(port)], stdout=-1, text=True)
    try:
        assert f"http://127.0.0.1:{port}, with fuel" in process.stdout.readline()
        assert get(f"http://127.0.0.1:{port}/figures") == list(FIGURES)
        told = get(f"http://127.0.0.1:{port}/figures/fuel")
        assert told == figure("fuel", datetime.now(UTC)) and 1 < told["value"] < 3
    finally:
        end(process)


def test_the_demo_starts_and_ends_the_outside_with_itself(port, tmp_path):
    data = str(tmp_path / "data.db")
    serve = [*COMMAND, "serve", "--demo", "--port", str(port), "--data", data]
    process = subprocess.Popen(serve, stdout=-1, text=True)
    try:
        assert f":{port}/workbooks/1" in process.stdout.readline()
        address = f"http://127.0.0.1:{port}/workbooks/1/feeds"
        with urllib.request.urlopen(address) as answer:
            page = answer.read().decode()
        source = page.split("<b>valley</b> at")[1].split('<span class="mono">')[1].split("<")[0]
        assert "fuel" in get(f"{source}/figures")
    finally:
        end(process)
    with pytest.raises(OSError, match=r"refused|reset"):
        for _ in range(200):
            urllib.request.urlopen(f"{source}/figures", timeout=2).close()
            time.sleep(0.05)


def test_a_figure_is_given_to_a_file_from_the_shell(tmp_path, monkeypatch):
    monkeypatch.chdir(tmp_path)
    (tmp_path / "lift.csv").write_text('fuel,x\n"=FEED(""fuel"")*40",\n')
    (tmp_path / "lift.json").write_text(json.dumps({
        "format": "dreieck workbook", "version": 1, "sheets": [
            {"name": "Lift", "cells": {"A1": {"formula": '=FEED("fuel")*40'}}},
        ],
        "feeds": [{"code": "fuel", "readings": [
            {"value": 1.5, "at": "2026-11-20T06:00:00+00:00", "source": "valley"}]}],
    }))  # fmt: skip
    assert run("calc", "lift.json")[1].split()[1] == "60"
    assert run("calc", "lift.json", "--feed", "fuel=1.8")[1].split()[1] == "72"
    code, _, told = run("calc", "lift.json", "--feed", "fuel")
    assert code == 2 and "such as fuel=1.8" in told
    code, _, told = run("convert", "lift.json", "lift.ods")
    assert code == 0 and "1 outside figure" in told
    assert run("convert", "lift.json", "again.json")[0] == 0
    assert json.loads((tmp_path / "again.json").read_text())["feeds"][0]["code"] == "fuel"
