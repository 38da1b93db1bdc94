"""Libraries are built, and what waited for them is done: a demo is brought, or its model replaced; or that alone."""

import json
import time
from typing import Any, TypedDict

from ..authoring.expected import bring_expected
from ..authoring.folders import bring_whole
from ..authoring.own_libraries import build_for
from ..authoring.replacing import replace_model
from ..core.errors import Fault, Faults, ModelNotOpened, PlainWindowError
from ..environments.walls import Stopped
from ..store.addresses import SlugTaken, move_demo
from ..store.database import database
from ..store.demos import delete_demo, find_demo, set_expected
from ..store.jobs import change_job
from ..store.records import Author, Demo
from .carried_job import Cancelled, CarriedJob
from .insisting import insisted
from .wanted import WantedMaking, read_wanted

__all__ = ["GONE", "EnvironmentJob", "ModelJob", "sentence_of", "told_of"]

ASK_SECONDS = 1.0
GONE = "The demo that this was for is not there any more."


class ToldError(TypedDict):
    """What went wrong, for programs."""

    # A fault each: the field, what is the matter, and what may be said instead.
    errors: list[dict[str, Any]]
    traceback: str
    requirements: list[str]


class EnvironmentJob(CarriedJob):
    """One job of an environment, as far as it goes in this life of the process; in the next it begins anew."""

    noun, piece = "environment", "package"

    def look(self) -> None:
        """There is nothing to be looked at first."""
        insisted(lambda: change_job(self._job, stage="ready"))

    def _carry_on(self) -> None:
        wanted = read_wanted(self._job.document)
        try:
            if wanted.requirements:
                self._build(wanted.requirements)
            slug = self._done_with(wanted)
        except Stopped as stopped:
            self._let_go(wanted)
            if not str(stopped):
                raise Cancelled from None
            self._end("failed", str(stopped))
            return
        except (PlainWindowError, SlugTaken) as error:
            self._let_go(wanted)
            told, sentence = json.dumps(told_of(error)), sentence_of(error)
            insisted(lambda: change_job(self._job, found=told))
            self._end("failed", sentence)
            return
        self._let_go(wanted)
        insisted(lambda: change_job(self._job, found=json.dumps({"slug": slug}), done=1, total=1))
        self._end("done")

    def _let_go(self, wanted: WantedMaking) -> None:
        with database.connection_context():
            self._services.files.let_go(wanted.files)

    def _build(self, text: str) -> None:
        until, asked = time.monotonic() + self._services.settings.limits.environment_seconds, 0.0

        def check() -> str | None:
            nonlocal asked
            if time.monotonic() > until:
                minutes = self._services.settings.limits.environment_seconds / 60
                return f"Building the environment took more than {minutes:g} minutes and was stopped."
            if time.monotonic() - asked < ASK_SECONDS:
                return None
            asked = time.monotonic()
            return "" if self._stopping.is_set() or self._is_over() else None

        build_for(self._services, text, check=check, says=self._note, stored=insisted)

    def _done_with(self, wanted: WantedMaking) -> str:
        """Do what waited for it; return the demo's address, if there is one."""
        if wanted.do == "build":
            return wanted.slug
        self._note("Opening the model with them" if wanted.requirements else "Opening the model")
        with database.connection_context():
            # Who does this lets go of the files in any case; it may have to be done again.
            self._services.files.hold(wanted.files)
            return self._brought(wanted) if wanted.do == "bring" else self._replaced(wanted)

    def _brought(self, wanted: WantedMaking) -> str:
        assert wanted.submission is not None, "there is something to bring"
        demo = bring_whole(self._services, Author.get_by_id(self._job.author_id), wanted.submission)
        if self._is_over():
            # Nobody wants it any more, whatever was under way.
            delete_demo(demo, self._services.stamp)
            raise Cancelled
        return str(demo.slug)

    def _replaced(self, wanted: WantedMaking) -> str:
        assert wanted.replacement is not None, "there is something to put in its place"
        demo = find_demo(wanted.slug)
        if demo is None or demo.author_id != self._job.author_id:
            raise ModelNotOpened(GONE)
        _, demo = replace_model(self._services, demo, wanted.replacement, try_only=False)
        demo = self._with_expected(wanted, demo)
        return str((move_demo(demo, wanted.moved_to, self._services.stamp) if wanted.moved_to else demo).slug)

    def _with_expected(self, wanted: WantedMaking, demo: Demo) -> Demo:
        """What a folder says of the author's own outputs."""
        if wanted.expected_file is not None:
            return bring_expected(self._services, demo, wanted.expected_file)[2]
        return set_expected(demo, None, None, self._services.stamp) if wanted.is_folder else demo


class ModelJob(EnvironmentJob):
    """A demo is brought, or its model replaced, for whoever does not wait while it is opened."""

    noun, piece = "model", "model"


def sentence_of(error: Exception) -> str:
    """What went wrong, in words.

    Parameters
    ----------
    error : Exception
    """
    if isinstance(error, SlugTaken):
        return f"Another demo has the address `{error}`. Choose another."
    return str(error)


def told_of(error: Exception) -> ToldError:
    """What went wrong, as the call itself would have said it.

    Parameters
    ----------
    error : Exception
    """
    part = "slug" if isinstance(error, SlugTaken) else "model"
    faults = error.faults if isinstance(error, Faults) else [Fault(part, sentence_of(error))]
    traceback = error.traceback if isinstance(error, ModelNotOpened) else ""
    errors = [
        {"field": one.field, "message": one.message, "asks": one.asks or None, "choices": list(one.choices)}
        for one in faults
    ]
    requirements = error.requirements if isinstance(error, ModelNotOpened) else []
    return {"errors": errors, "traceback": traceback, "requirements": requirements}
