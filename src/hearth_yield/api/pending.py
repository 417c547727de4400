"""Uploads that were previewed and wait to be imported, with what was planned of them."""

from __future__ import annotations

import pickle
import secrets
import threading
import weakref
from collections import OrderedDict
from collections.abc import Callable
from tempfile import TemporaryFile

from hearth_yield.actions.import_files import Planned, Upload
from hearth_yield.core.errors import NotFound

from .jobs import Job

MAX_PENDING = 3


class Kept:
    """One upload and its plan, in a file without a name: no other program can open it, and it is
    gone with this one."""

    def __init__(self, upload: Upload, planned: Planned) -> None:
        self._file = TemporaryFile()  # noqa: SIM115 - open as long as the preview waits
        weakref.finalize(self, self._file.close)
        self._lock = threading.Lock()
        pickle.dump((upload, planned), self._file, pickle.HIGHEST_PROTOCOL)

    def load(self) -> tuple[Upload, Planned]:
        with self._lock:
            self._file.seek(0)
            upload, planned = pickle.load(self._file)  # noqa: S301 - our own, see above
        return upload, planned


class Pending:
    """The newest three, each with the task that commits it. The token stays good until the import
    is in, so that a failed or lost commit can be sent again."""

    def __init__(self) -> None:
        self._held: OrderedDict[str, Kept] = OrderedDict()
        self._jobs: dict[str, Job] = {}
        self._lock = threading.Lock()

    def keep(self, upload: Upload, planned: Planned) -> str:
        token, kept = secrets.token_urlsafe(16), Kept(upload, planned)
        with self._lock:
            self._held[token] = kept
            while len(self._held) > MAX_PENDING:
                gone, _ = self._held.popitem(last=False)
                self._jobs.pop(gone, None)
        return token

    def commit(self, token: str, start: Callable[[Kept], Job]) -> Job:
        """The task that commits an upload: one that runs or is done is not started again."""
        with self._lock:
            job = self._jobs.get(token)
            if job is not None and job.state in ("running", "done"):
                return job
            if token not in self._held:
                raise NotFound(
                    "this preview is no longer kept; drop the file again",
                    field="token",
                    value=token,
                    rule="one of the three newest previews",
                )
            job = self._jobs[token] = start(self._held[token])
            return job
