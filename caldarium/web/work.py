"""Long work: begun when asked, done beside the pages, followed, stopped, kept when done."""

import logging
import time
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from threading import Event, Lock, Semaphore, Thread
from typing import Any, Literal

from caldarium.core.what_if.progress import Heard

KEPT_WORKS = 24
"""Works whose outcome stays in memory."""
AT_ONCE = 1
"""Works that run beside each other; the others wait. Pages need the other core."""
State = Literal["waiting", "running", "done", "stopped", "failed"]


GIVES_WAY_S, LOOKS_EVERY_S = 1.0, 0.004
"""How long a work waits at most, each time that it tells how far it is, for pages that are being
answered, and how often it looks whether they are."""


class Answering:
    """How many requests are being answered; counted in the event loop alone."""

    def __init__(self) -> None:
        self.now = 0


class StoppedError(Exception):
    """The work was told to stop."""


class Work:
    """One piece of long work: its state, the share that is done, and what came out."""

    def __init__(
        self,
        task: Callable[[Heard], Any],
        turn: Semaphore,
        so_far: Any = None,
        answering: Answering | None = None,
    ) -> None:
        self.state: State = "waiting"
        self.share = 0.0
        self.outcome: Any = None
        self.so_far = so_far
        self._answering = answering or Answering()
        self._task, self._turn, self._stop = task, turn, Event()
        self._thread = Thread(target=self._run, daemon=True)
        self._thread.start()

    @property
    def goes_on(self) -> bool:
        """Whether more is to come."""
        return self.state in ("waiting", "running")

    def stop(self) -> None:
        """Tell it to stop; it does at its next step."""
        self._stop.set()

    def wait(self, seconds: float) -> None:
        """Wait for its end, at most so long."""
        self._thread.join(seconds)

    def _heard(self, share: float) -> None:
        # One interpreter runs both: whoever waits for a page goes first.
        until = time.monotonic() + GIVES_WAY_S
        while self._answering.now and time.monotonic() < until:
            if self._stop.wait(LOOKS_EVERY_S):
                break
        if self._stop.is_set():
            raise StoppedError
        self.share = share

    def _run(self) -> None:
        with self._turn:
            try:
                self._heard(0.0)
                self.state = "running"
                self.outcome = self._task(self._heard)
                self.state = "done"
            except StoppedError:
                self.state = "stopped"
            except Exception:
                # Nobody else hears of what a thread raises; the page says that it failed.
                logging.getLogger(__name__).exception("long work failed")
                self.state = "failed"


@dataclass(frozen=True)
class Told:
    """A work as it was when it was looked at: a page must not see it end halfway down."""

    state: State
    share: float
    outcome: Any
    so_far: Any = None

    @property
    def goes_on(self) -> bool:
        """Whether more was to come."""
        return self.state in ("waiting", "running")


class Works:
    """Every piece of long work of this program, by what it is about."""

    def __init__(self, answering: Answering | None = None) -> None:
        self._answering = answering or Answering()
        self._known: dict[Hashable, Work] = {}
        self._lock, self._turn = Lock(), Semaphore(AT_ONCE)

    def of(self, about: Hashable) -> Told | None:
        """The work about something as it stands, if it was begun and is still kept."""
        work = self._known.get(about)
        if work is None:
            return None
        # The state first: what is done has its outcome.
        state, share = work.state, work.share
        return Told(state, share, work.outcome if state == "done" else None, work.so_far)

    def begin(self, about: Hashable, task: Callable[[Heard], Any], so_far: Any = None) -> Work:
        """Begin a work, unless the same runs or is done; the oldest are forgotten, and stopped.

        Args:
            about: what it is about.
            task: the work.
            so_far: where the task writes what it has found before its end.
        """
        with self._lock:
            known = self._known.get(about)
            if known and (known.goes_on or known.state == "done"):
                return known
            self._known[about] = work = Work(task, self._turn, so_far, self._answering)
            while len(self._known) > KEPT_WORKS:
                self._known.pop(next(iter(self._known))).stop()
            return work

    def also(self, about: Hashable, other: Hashable) -> None:
        """Keep a work, if there is one, under what it is about as well after a change that has
        nothing to do with it."""
        with self._lock:
            if known := self._known.get(about):
                self._known[other] = known

    def stop_where(self, stale: Callable[[Hashable], bool]) -> None:
        """Stop every work that is about something nobody looks at any more."""
        for about, work in list(self._known.items()):
            if work.goes_on and stale(about):
                work.stop()

    def settle(self, seconds: float) -> None:
        """Wait until all that was begun has ended, at most so long for each."""
        for each in list(self._known.values()):
            each.wait(seconds)

    def stop(self, about: Hashable) -> None:
        """Stop a work, if there is one."""
        if known := self._known.get(about):
            known.stop()
