"""`vessel instruments`: stand-ins for transmitter, receiver, sonde, frame and positioning on a site, over TCP."""

from __future__ import annotations

import argparse
import socket
import sys
import time
from threading import Event, Lock, Thread

import numpy as np
from websockets.exceptions import ConnectionClosed
from websockets.sync.server import Server, ServerConnection, serve

from vessel.cli.files import read_text
from vessel.core.base.errors import BadInput
from vessel.core.practice.energised import PutOn
from vessel.core.signal.solved_site import SolvedSite
from vessel.formats import site_file
from vessel.formats.lesson_file import OPEN_SEA
from vessel.instruments.stand_ins import RATE_HZ, StandIns
from vessel.store.unusable import StoreRefused


def stand_ins_of(text: str, *, seed: int = 0, sonde: str = "") -> StandIns:
    """Return the stand-ins on the site of a site file, the transmitter where its hookup is, a sonde in line `sonde`."""
    doc = site_file.load(text).site
    hookup, kit = site_file.hookup_of(doc.hookup), site_file.kit_used(doc)
    solved = SolvedSite(site_file.site_of(doc), hookup, kit, unknown="earthed")
    if hookup.by.through_air:
        at = hookup.coil_at
    else:
        place = solved.site.line(hookup.line).places(np.array([hookup.at_m]))[0]
        at = (float(place[0]), float(place[1]))
    drain = solved.site.line(sonde) if sonde else None
    return StandIns(PutOn(solved, at), kit, OPEN_SEA, np.random.default_rng(seed), drain=drain)


def instruments_command(args: argparse.Namespace) -> None:
    """Serve the stand-ins until stopped; what is typed moves and switches them."""
    stand_ins = stand_ins_of(read_text(args.file, field="FILE.json"), seed=args.seed, sonde=args.sonde)
    served = Served(stand_ins, args.host, args.port)
    print(f"Instruments at tcp://{args.host}:{served.port}  (attach them: vessel serve --instruments ...)", flush=True)
    if args.websocket is not None:
        print(f"and at ws://{args.host}:{served.serve_websocket(args.host, args.websocket)}", flush=True)
    try:
        for line in sys.stdin:
            if line.strip() in ("quit", "exit"):
                break
            if line.strip():
                print(served.do(line), flush=True)
        else:
            served.stopping.wait()
    except KeyboardInterrupt:
        pass
    finally:
        served.stop()


class Served:
    """Stand-ins that send to everybody who connects; `port` 0 takes a free one."""

    def __init__(self, stand_ins: StandIns, host: str = "127.0.0.1", port: int = 0) -> None:
        self.stand_ins, self.stopping, self._lock = stand_ins, Event(), Lock()
        self._links: list[socket.socket] = []
        self._web: Server | None = None
        self._door = socket.socket()
        self._door.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            self._door.bind((host, port))
        except OSError as e:
            raise StoreRefused(f"Port {port} is in use.", "Choose another with --port.") from e
        self._door.listen()
        self._door.settimeout(0.2)
        self.port = int(self._door.getsockname()[1])
        self._threads = [Thread(target=run, daemon=True) for run in (self._welcome, self._send)]
        for each in self._threads:
            each.start()

    def serve_websocket(self, host: str = "127.0.0.1", port: int = 0) -> int:
        """Send over a WebSocket as well; return its port."""
        self._web = serve(self._follow, host, port)
        Thread(target=self._web.serve_forever, daemon=True).start()
        return int(self._web.socket.getsockname()[1])

    def _follow(self, link: ServerConnection) -> None:
        """Send one WebSocket what the TCP links get, until it goes."""
        ours, theirs = socket.socketpair()
        ours.settimeout(0.5)
        with self._lock:
            self._links.append(theirs)
        try:
            while not self.stopping.is_set():
                try:
                    piece = ours.recv(65_536)
                except TimeoutError:
                    continue
                if not piece:
                    return
                link.send(piece.decode(errors="replace"))
        except ConnectionClosed:
            return
        finally:
            ours.close()

    def do(self, command: str) -> str:
        """Do what a line of the console says; return what to print."""
        with self._lock:
            try:
                return self.stand_ins.do(command)
            except BadInput as e:
                return str(e)

    def drop(self) -> None:
        """Cut every connection, as a flat battery would."""
        with self._lock:
            for link in self._links:
                link.close()
            self._links = []

    def stop(self) -> None:
        """End sending."""
        self.stopping.set()
        for each in self._threads:
            each.join(timeout=1)
        self.drop()
        if self._web is not None:
            self._web.shutdown()
        self._door.close()

    def _welcome(self) -> None:
        while not self.stopping.is_set():
            try:
                link, _ = self._door.accept()
            except OSError:
                continue
            link.settimeout(1.0)
            with self._lock:
                self._links.append(link)

    def _send(self) -> None:
        due = time.monotonic()
        while not self.stopping.is_set():
            with self._lock:
                sent = self.stand_ins.tick()
                self._links = [link for link in self._links if _sent(link, sent)]
            due += 1 / RATE_HZ
            self.stopping.wait(max(0.0, due - time.monotonic()))


def _sent(link: socket.socket, data: bytes) -> bool:
    try:
        link.sendall(data)
    except OSError:
        link.close()
        return False
    return True
