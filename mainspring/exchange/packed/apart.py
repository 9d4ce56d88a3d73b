"""A packed file unpacked in a process of its own, with limits on time, memory and what comes out.

A file of some kilobytes may unpack to gigabytes: what it takes is taken there, given back when that process ends, and
nobody else waits for it.
"""

import json
import os
import resource
import subprocess
import sys
import tempfile
from collections.abc import Callable
from typing import IO

from mainspring.core.errors import BadEntry
from mainspring.exchange.packed.convert import Plain, check_size, decoded, is_packed, unpack

MEMORY = 1_200_000_000  # bytes more than the process has before it begins
OUT = 600_000_000  # bytes of text that may come out
CPU, WALL = 60, 180.0  # s
LOOKED = 0.1  # s between looks at how far it is
REFUSED = 3  # exit status: the reason is told
ALLOWED = "one that unpacks to less; give it as CSV"


def plain_of(content: bytes, tell: Callable[[], None] = lambda: None) -> Plain:
    """A file as UTF-8 text, a packed one unpacked apart; `tell` is called meanwhile and may raise to end it.

    Raises BadEntry for what cannot be read, or would take too much.
    """
    check_size(content)
    if not is_packed(content):
        return Plain(decoded(content))
    with tempfile.TemporaryFile() as given, tempfile.TemporaryFile() as out, tempfile.TemporaryFile() as said:
        given.write(content)
        given.seek(0)
        command = [sys.executable, "-m", "mainspring.exchange.packed"]
        work = subprocess.Popen(command, stdin=given, stdout=out, stderr=said, env=_environment())
        try:
            _watched(work, tell)
        finally:
            if work.poll() is None:
                work.kill()
                work.wait()
        return _result(work.returncode, out, said)


def _environment() -> dict[str, str]:
    """That of this process, and where its packages are."""
    return {**os.environ, "PYTHONPATH": os.pathsep.join(p for p in sys.path if p), "POLARS_MAX_THREADS": "1"}


def _watched(work: "subprocess.Popen[bytes]", tell: Callable[[], None]) -> None:
    waited = 0.0
    while True:
        try:
            work.wait(LOOKED)
            return
        except subprocess.TimeoutExpired:
            waited += LOOKED
            tell()
            if waited > WALL:
                raise BadEntry("log", "a file that takes minutes to unpack", ALLOWED) from None


def _result(code: int, out: IO[bytes], said: IO[bytes]) -> Plain:
    said.seek(0)
    told = (said.read(20_000).decode(errors="replace").strip().splitlines() or [""])[-1]
    if code == 0:
        out.seek(0)
        return Plain(out.read(), tuple(json.loads(told)))
    if code == REFUSED:
        raise BadEntry(*json.loads(told))
    raise BadEntry("log", "a file that takes too much memory or time to unpack", ALLOWED)


def main() -> int:
    """In the process apart: what stands on the standard input, unpacked to the standard output."""
    resource.setrlimit(resource.RLIMIT_CPU, (CPU, CPU))
    resource.setrlimit(resource.RLIMIT_FSIZE, (OUT, OUT))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    most = _size() + MEMORY
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    try:
        plain = unpack(sys.stdin.buffer.read())
        sys.stdout.buffer.write(plain.text)
        sys.stdout.buffer.flush()
    except BadEntry as wrong:
        print(json.dumps([wrong.field, str(wrong.value), wrong.allowed]), file=sys.stderr)
        return REFUSED
    print(json.dumps(plain.beside), file=sys.stderr)
    return 0


def _size() -> int:
    """Bytes of address space that this process has."""
    with open("/proc/self/statm") as told:
        return int(told.read().split()[0]) * resource.getpagesize()
