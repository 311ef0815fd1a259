import json
import os
import re
import socket
import subprocess
import sys
import time
import urllib.request
from http.client import HTTPConnection

import pytest
from command import run, run_apart


def test_it_tells_which_version_it_is():
    done = run_apart("--version")
    assert done.returncode == 0 and re.fullmatch(r"Dreieck \d+\.\d+\.\d+\n", done.stdout)


def test_shift_prints_a_table_of_landings():
    done = run("shift", "=$B5*C$4", "--from", "C5", "--to", "C5:F10")
    lines = done.stdout.splitlines()
    assert done.returncode == 0 and len(lines) == 1 + 24 * 2
    assert lines[0].split() == ["landing", "formula", "start", "here", "moved", "locked"]
    assert "E8       =$B8*E$4   a  $B5    $B8   +0 columns, +3 rows  column" in lines


def test_shift_prints_the_same_as_json():
    done = run("shift", "=SUM($B$4:B4)", "--from", "C4", "--to", "C5", "--json")
    (landing,) = json.loads(done.stdout)["landings"]
    assert landing["formula"] == "=SUM($B$4:B5)"
    assert [corner["rows"] for corner in landing["references"][0]["corners"]] == [0, 1]
    table = run("shift", "=SUM($B$4:B4)", "--from", "C4", "--to", "C5").stdout
    assert "first corner column and row, last nothing" in table


def test_eval_prints_a_value_and_its_exit_code_tells_errors():
    done = run(
        "eval", "=A1*Loads!B2", "--with", "A1=3", "--with", "A2=1", "--with", "Loads!B2==1+1"
    )
    assert (done.returncode, done.stdout) == (0, "6\n")
    done = run("eval", "=A2+1", "--with", "A2==1/0", "--json")
    assert done.returncode == 1 and json.loads(done.stdout)["cause"] == "Sheet!A2"
    assert "The divisor is 0 or empty. It began in Sheet!A2." in done.stderr


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (("eval", "=B5*"), "ends too early"),
        (("eval", "5"), "begin with"),
        (("eval", "=A1", "--with", "A1"), "not a cell and its entry"),
        (("shift", "=B5*", "--from", "C5", "--to", "C6"), "ends too early"),
        (("shift", "=B5", "--from", "C5", "--to", "huts"), "not an area"),
        (("serve", "--port", "8799", "--data", "/dev/null/x.db"), "cannot be"),
        (("serve", "--port", "1", "--host", "192.0.2.1"), "Choose another one with --port"),
    ],
)
def test_unusable_input_is_told_on_standard_error(arguments, says):
    done = (run_apart if arguments[0] == "serve" else run)(*arguments)
    assert done.returncode == 2 and says in done.stderr and done.stdout == ""


def free_port():
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return str(probe.getsockname()[1])


def started(*arguments):
    return subprocess.Popen(
        [sys.executable, "-m", "dreieck.cli.main", *arguments],
        stdout=subprocess.PIPE, text=True, env={**os.environ, "PYTHONUNBUFFERED": "1"},
    )  # fmt: skip


def test_beyond_this_machine_the_address_holds_the_key(tmp_path):
    port = free_port()
    data = str(tmp_path / "data.db")
    server = started("serve", "--demo", "--host", "0.0.0.0", "--port", port, "--data", data)
    address, told = server.stdout.readline().split()[-1], server.stdout.readline()
    path = re.fullmatch(rf"http://[^/]+:{port}(/key/[\w-]{{20,}}\?to=/workbooks/1)", address)[1]
    assert "holds the key" in told
    for asked, status in (("/", 401), (path, 303), ("/healthz", 200)):
        connection = HTTPConnection("127.0.0.1", int(port), timeout=20)
        connection.request("GET", asked)
        assert connection.getresponse().status == status
        connection.close()
    server.terminate()
    server.stdout.close()
    server.wait(timeout=20)


def test_serve_prints_an_address_that_works_and_stops_cleanly(tmp_path):
    port = free_port()
    served = ("serve", "--demo", "--port", port, "--data", str(tmp_path / "data.db"))
    server = started(*served)
    address = server.stdout.readline().split()[-1]
    for _ in range(100):
        try:
            page = urllib.request.urlopen(address).read().decode()
            break
        except OSError:
            time.sleep(0.1)
    assert "Loads" in page and "Hut supplies" in page
    news = urllib.request.urlopen(address.partition("/workbooks")[0] + "/workbooks/1/news")
    assert news.headers["Content-Type"].startswith("text/event-stream")
    assert news.readline().startswith(b"data: ")
    news.close()
    again = run_apart(*served)
    assert again.returncode == 2 and f"Port {port} on 127.0.0.1 is in use" in again.stderr
    server.terminate()
    server.stdout.close()
    assert server.wait(timeout=20) in (0, -15)
