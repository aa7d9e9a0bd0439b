"""Try the built wheel as a stranger would: an empty environment, an empty folder, `vessel serve --demo`.

    python tools/try_wheel.py dist [python3.12 ...]

Installs the wheel alone and uses the library; then with [server], and asks the served pages.
"""

from __future__ import annotations

import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path

LIBRARY = (
    "import vessel; line = vessel.buried('tracer_wire', length_m=60, depth_m=0.8); "
    "print(vessel.__version__, vessel.plan(line, vessel.Soil(90.0)).best.method)"
)


def try_with(python: str, wheel: Path) -> None:
    """Install and use the wheel with one Python; raise where anything fails."""
    with tempfile.TemporaryDirectory() as folder:
        subprocess.run([python, "-m", "venv", f"{folder}/env"], check=True)
        run = f"{folder}/env/bin/python"
        pip = [run, "-m", "pip", "install", "--quiet", "--disable-pip-version-check"]
        subprocess.run([*pip, str(wheel)], check=True)
        said = subprocess.run([run, "-c", LIBRARY], check=True, capture_output=True, text=True, cwd=folder).stdout
        print(python, "library:", said.strip())
        subprocess.run([*pip, f"{wheel}[server]"], check=True)
        with socket.socket() as s:
            s.bind(("127.0.0.1", 0))
            port = s.getsockname()[1]
        command = [f"{folder}/env/bin/vessel", "serve", "--demo", "--port", str(port)]
        with subprocess.Popen(command, cwd=folder, stdout=subprocess.DEVNULL) as server:
            try:
                print(python, "served:", *(len(asked(f"http://127.0.0.1:{port}{path}")) for path in ("/", "/api/jobs")))
            finally:
                server.terminate()


def asked(url: str) -> bytes:
    """Return what is served, waiting until the server answers."""
    for _ in range(200):
        try:
            with urllib.request.urlopen(url, timeout=10) as answer:
                body: bytes = answer.read()
                return body
        except OSError:
            time.sleep(0.1)
    raise TimeoutError(url)


if __name__ == "__main__":
    (built,) = Path(sys.argv[1]).resolve().glob("*.whl")
    for each in sys.argv[2:] or [sys.executable]:
        try_with(each, built)
