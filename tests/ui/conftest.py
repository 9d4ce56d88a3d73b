"""The real application in its own process, and a real browser."""

import contextlib
import os
import re
import shutil
import signal
import subprocess
import tempfile
import uuid
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, Error, Page, expect, sync_playwright

from tests.conftest import ROOT
from tests.ui.start_up import Records, StartUp

CHROMIUM = "/usr/bin/chromium-headless-shell"  # Debian: the browser without its window, a third lighter
WAITS = 120_000  # ms: a slow, shared machine; what holds at once is seen at once
expect.set_options(timeout=WAITS)
ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


# somebody has worked on this device before and said who it is
SIGNED = (
    "try { localStorage.getItem('mainspring.who') ?? localStorage.setItem('mainspring.who', 'Ana Reyes') } catch {}"
)


def pids_with(argument: str) -> list[int]:
    """Processes that were started with an argument of ours."""
    found = []
    for entry in Path("/proc").glob("[0-9]*/cmdline"):
        try:
            command = entry.read_bytes().decode(errors="replace").split("\0")
        except OSError:
            continue
        if argument in command:
            found.append(int(entry.parent.name))
    return found


class Application:
    """`mainspring serve` on a data folder; can be killed and started again on the same address."""

    def __init__(self, folder: Path, *arguments: str) -> None:
        self.folder, self.arguments = folder, arguments
        self.port = 0
        self.process: subprocess.Popen[str] | None = None
        self.start()

    def start(self) -> None:
        """Start and wait for the address."""
        command = [str(ROOT / ".venv/bin/mainspring"), "serve", "--data", str(self.folder), "--port", str(self.port)]
        environment = {k: v for k, v in os.environ.items() if not k.startswith("MAINSPRING_")}
        self.process = subprocess.Popen(
            [*command, *self.arguments], stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, env=environment
        )
        assert self.process.stdout is not None
        seen = []
        for line in self.process.stdout:
            seen.append(line)
            found = re.search(r"http://127\.0\.0\.1:(\d+)", line)
            if found:
                self.port = int(found.group(1))
                return
        raise AssertionError(f"it did not start: {''.join(seen)}")

    @property
    def url(self) -> str:
        """Its address."""
        return f"http://127.0.0.1:{self.port}"

    def kill(self) -> None:
        """kill -9, as a power cut would."""
        self._end(signal.SIGKILL)

    def stop(self) -> int:
        """Ctrl-C; returns the exit code."""
        return self._end(signal.SIGINT)

    def _end(self, how: signal.Signals) -> int:
        assert self.process is not None
        self.process.send_signal(how)
        code = self.process.wait(60)
        assert self.process.stdout is not None
        self.process.stdout.close()
        return code

    def kill_database(self) -> None:
        """kill -9 of our own database server."""
        for pid in self.database_pids():
            os.kill(pid, signal.SIGKILL)

    def database_pids(self) -> list[int]:
        """Processes of our own database server that are alive."""
        return pids_with(f"--datadir={(self.folder / 'mariadb').resolve()}")


@pytest.fixture(scope="session")
def data_folder() -> Iterator[Path]:
    """A data folder in memory, removed at the end."""
    where = "/dev/shm" if os.access("/dev/shm", os.W_OK) else None
    made = Path(tempfile.mkdtemp(prefix="ms-ui-", dir=where))
    yield made
    shutil.rmtree(made, ignore_errors=True)


@pytest.fixture(scope="session")
def application(data_folder: Path) -> Iterator[Application]:
    """The application with its demo."""
    made = Application(data_folder)
    yield made
    if made.process is not None and made.process.poll() is None:
        made.stop()


@pytest.fixture(autouse=True)
def it_serves(application: Application) -> None:
    """A test that failed while the application was down does not take the others with it."""
    if application.process is not None and application.process.poll() is not None:
        application.start()


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    """Debian's Chromium."""
    with sync_playwright() as playwright:
        made = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        yield made
        made.close()


class Watched:
    """What a page said on its console and whom it asked."""

    def __init__(self, page: Page, origin: str) -> None:
        self.complaints: list[str] = []
        self.foreign: list[str] = []
        page.on("console", lambda m: self._hears(m.type, m.text))
        page.on("pageerror", lambda e: self.complaints.append(str(e)))
        page.on(
            "request", lambda r: None if r.url.startswith((origin, "data:", "blob:")) else self.foreign.append(r.url)
        )

    def _hears(self, kind: str, text: str) -> None:
        if kind in ("error", "warning") and "Service Worker registration blocked" not in text:  # by `a_device`
            self.complaints.append(text)


@pytest.fixture
def context(browser: Browser, application: Application) -> Iterator[BrowserContext]:
    """A fresh browser profile at 1280x800."""
    made = a_device(browser, application)
    yield made
    made.close()


def a_device(browser: Browser, application: Application) -> BrowserContext:
    """A browser profile of its own, without the service worker: each page comes from the server."""
    made = browser.new_context(
        viewport={"width": 1280, "height": 800},
        base_url=application.url,
        service_workers="block",
        reduced_motion="reduce",  # what is looked at is never half-way between two colours
    )
    made.set_default_timeout(WAITS)
    made.add_init_script(SIGNED)
    return made


class Tablet:
    """A browser with its own storage on the disk, whose battery can die."""

    def __init__(self, browser: Browser, application: Application, storage: Path) -> None:
        self.browser, self.application, self.storage = browser, application, storage
        self.context = self.starts()

    def starts(self) -> BrowserContext:
        """Switched on, with what its storage holds."""
        self.context = self.browser.browser_type.launch_persistent_context(
            self.storage,
            executable_path=CHROMIUM,
            args=ARGUMENTS,
            viewport={"width": 1280, "height": 800},
            base_url=self.application.url,
            reduced_motion="reduce",
        )
        self.context.set_default_timeout(WAITS)
        self.context.add_init_script(SIGNED)
        return self.context

    def dies(self) -> None:
        """kill -9 of the whole browser, as an empty battery would."""
        pids = pids_with(f"--user-data-dir={self.storage}")
        assert pids
        for pid in pids:
            with contextlib.suppress(ProcessLookupError):
                os.kill(pid, signal.SIGKILL)
        with contextlib.suppress(Error):
            self.context.close()
        for left in self.storage.glob("Singleton*"):
            left.unlink(missing_ok=True)


@pytest.fixture
def page(context: BrowserContext, application: Application) -> Iterator[Page]:
    """A page that must stay silent on its console and ask nobody but the application."""
    made = context.new_page()
    watched = Watched(made, application.url)
    yield made
    assert watched.foreign == []
    assert watched.complaints == []


@pytest.fixture
def starts(application: Application, records: Records) -> Callable[..., StartUp]:
    """A line of the demo's records by name, with capacitors that wait two seconds unless told otherwise."""

    def make(name: str, wait: float = 2.0) -> StartUp:
        record = records[name]
        record["drive"]["discharge_time"] = {"value": wait}
        if name == "fan_wall":  # the demo's has a slip that holds it
            record["motor"]["inductance_q_again"] = record["motor"]["inductance_q"]
        return StartUp(application, record, f"RS-{name}-{uuid.uuid4().hex[:4]}")

    return make
