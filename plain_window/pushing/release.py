"""A demo's draft replaced by a folder, checked, and published."""

import tempfile
import time
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path

from .calls import Api, Refused
from .packing import NotADemo, pack, slug_of
from .replies import Answers, Checked, CheckSaid, JobSaid, Logged, Made, Released, Replaced

__all__ = ["Pushed", "push"]

Say = Callable[[str], None]
# The answer where libraries must be built first.
BUILT_FIRST = 202
ENDED = ("done", "failed", "cancelled")
LOOK_SECONDS = 1.0


@dataclass(frozen=True)
class Pushed:
    """What came of it: the demo's address, whether its checks let it be published, and the number of the release."""

    slug: str
    is_fit: bool
    release: int | None = None


def push(
    api: Api,
    folder: Path,
    *,
    slug: str | None,
    is_draft: bool,
    note: str,
    despite: Mapping[str, str],
    say: Say,
) -> Pushed:
    """Make a folder the draft of a demo, have it checked, and publish it.

    Parameters
    ----------
    api : Api
    folder : Path
        A demo's folder, or a zip of one.
    slug : str or None
        Another address than the folder asks for.
    is_draft : bool
        Leave it at the draft.
    note : str
        What is new, for the list of releases.
    despite : mapping of str to str
        For checks that may fail the reason.
    say : callable
        Takes each line of the log.

    Raises
    ------
    NotADemo
        If the folder is none, or has no address.
    Refused
        If the server does not take it; nothing that visitors see has changed then.
    """
    wanted = slug or slug_of(folder)
    if wanted is None:
        raise NotADemo("`demo.toml` has no `slug`, so it is not said which demo this is. Add one, or say `--as SLUG`.")
    is_there = api.call("GET", f"/demos/{wanted}", may_be=(404,)).status == 200
    with tempfile.NamedTemporaryFile(suffix=".zip") as packed:
        n_files = pack(folder, packed.file)
        packed.flush()
        size = Path(packed.name).stat().st_size
        say(f"Sending {n_files} files, {size / (1 << 20):.1f} MB.")
        _send(api, wanted, Path(packed.name), is_there=is_there, say=say)
    checked = api.call("POST", f"/demos/{wanted}/checks").read(Checked)
    _say_checks(checked.checks, say)
    failing = [one.name for one in checked.checks if one.status == "fail"]
    left = [name for name in failing if name not in despite]
    if left:
        say(f"Not published: {', '.join(left)} {'fails' if len(left) == 1 else 'fail'}. The draft is there.")
        return Pushed(wanted, is_fit=False)
    if is_draft:
        say(f"The draft is there: {api.address}/demos/{wanted}")
        return Pushed(wanted, is_fit=True)
    reasons = {name: despite[name] for name in failing}
    released = api.call("POST", f"/demos/{wanted}/releases", {"note": note, "despite": reasons}).read(Released)
    say(f"Published as version {released.number}: {api.address}/d/{wanted}")
    return Pushed(wanted, is_fit=True, release=released.number)


def _send(api: Api, slug: str, packed: Path, *, is_there: bool, say: Say) -> None:
    if is_there:
        reply = api.send_file("PUT", f"/demos/{slug}/folder", "folder", packed)
        if reply.status == BUILT_FIRST:
            _followed(api, reply.read(JobSaid), say)
            say(f"The draft of `{slug}` is replaced.")
            return
        answers = reply.read(Replaced).differences.answers
        say(f"The draft of `{slug}` is replaced. {_answers_words(answers)}".rstrip())
        return
    reply = api.send_file("POST", "/demos", "folder", packed)
    made = reply.read(Made) if reply.status != BUILT_FIRST else _followed(api, reply.read(JobSaid), say)
    if made.slug != slug:
        api.call("PATCH", f"/demos/{made.slug}", {"slug": slug})
    say(f"`{slug}` is new. Only you can open it until you say who else may.")


def _followed(api: Api, job: JobSaid, say: Say) -> Made:
    """Wait for the libraries that the folder asks for, and for what waits for them; what came of it."""
    say("The libraries that it asks for are built first.")
    while job.state not in ENDED:
        time.sleep(LOOK_SECONDS)
        job = api.call("GET", f"/jobs/{job.id}").read(JobSaid)
    for line in api.call("GET", f"/jobs/{job.id}/events").lines(Logged):
        for text in line.log:
            say(f"  {text}")
    if job.state != "done" or job.result is None:
        raise Refused(job.detail or "Building the libraries was cancelled.")
    return job.result


def _answers_words(answers: Answers) -> str:
    return f"Of {answers.cases} cases {answers.changed or 0} get another answer." if answers.cases else ""


def _say_checks(checks: list[CheckSaid], say: Say) -> None:
    width = max((len(one.name) for one in checks), default=0)
    for one in checks:
        say(f"{one.status:<4}  {one.name:<{width}}  {one.finding}")
