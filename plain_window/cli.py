"""The commands behind `./plainwindow`."""

import contextlib
import sys
import time
from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING

import click

from . import __version__
from .core.errors import Faults, ModelNotOpened, PlainWindowError
from .samples import SAMPLES
from .settings import Settings, SettingsError, read_settings

if TYPE_CHECKING:  # commands load what they need
    from .authoring.services import Services
    from .service.supervisor import Service
    from .store.records import Demo

__all__ = ["main"]


port_option = click.option(
    "--port", type=click.IntRange(1, 65535), help="Port to listen on (default 8700, or PLAINWINDOW_PORT)."
)


@click.group(context_settings={"help_option_names": ["-h", "--help"], "max_content_width": 100})
@click.version_option(__version__, prog_name="Plain Window")
def main() -> None:
    """A trained model as a page that anyone can use and understand.

    Records, files and logs live in $PLAINWINDOW_HOME (default ~/.local/share/plainwindow).
    """


@main.command()
@port_option
def demo(port: int | None) -> None:
    """Start everything, with the sample demo, and print its address and a sign-in link."""
    _serve(_settings(port), sample=True)


@main.command()
@port_option
def serve(port: int | None) -> None:
    """Start everything, without touching what demos there are."""
    _serve(_settings(port), sample=False)


@main.command()
@click.argument("name")
def key(name: str) -> None:
    """Make an API key called NAME and print it on the last line. It is shown only now."""
    from .store.authors import first_author, make_key

    with _in_words(), _services() as services:
        made = make_key(first_author(), name, services.stamp)
    click.echo(f"Key `{name}`. Send it as `Authorization: Bearer KEY`; it is not shown again.")
    click.echo(made)


@main.command()
def keys() -> None:
    """List the API keys: number, name, when each was made and last used."""
    from .store.authors import first_author, keys_of

    with _in_words(), _services():
        rows = [(key.id, key.name, key.created, key.used) for key in keys_of(first_author())]
    for number, name, made, used in rows:
        last = f"last used {used:%Y-%m-%d}" if used else "never used"
        click.echo(f"{number:>5}  {name}  (made {made:%Y-%m-%d}, {last})")
    if not rows:
        click.echo("There are no keys. Make one with `./plainwindow key NAME`.")


@main.command()
@click.argument("number", type=int)
def revoke(number: int) -> None:
    """Make the API key with this NUMBER (see `keys`) worth nothing, at once."""
    from .store.authors import first_author, revoke_key

    with _in_words(), _services() as services:
        was_there = revoke_key(first_author(), number, services.stamp)
    if not was_there:
        raise click.ClickException(f"There is no key {number}. `./plainwindow keys` lists them.")
    click.echo(f"Key {number} is worth nothing from now on.")


@main.command("sign-in")
@port_option
def sign_in(port: int | None) -> None:
    """Print a new one-time sign-in link for the author. Who signs in with it may set a new password."""
    from .store.authors import first_author, make_sign_in_link

    settings = _settings(port)
    with _in_words(), _services():
        token = make_sign_in_link(first_author())
    click.echo("Open this, press the button, and set a new password there if the old one is lost:", err=True)
    click.echo(f"http://{settings.host}:{settings.port}/sign-in/{token}")


@main.command()
@click.argument("path", type=click.Path(path_type=Path))
@click.option("--publish", is_flag=True, help="Publish it at once, open to everyone.")
def add(path: Path, publish: bool) -> None:
    """Bring in the demo folder at PATH, or a zip of one."""
    from .authoring.folders import add_path
    from .authoring.own_libraries import EnvironmentWanted, build_for
    from .store.authors import first_author

    # Looked at from where the command was typed; after that nothing is.
    path = path.resolve()
    with _in_words(), _services() as services:
        try:
            made = add_path(services, first_author(), path)
        except EnvironmentWanted as wanted:
            build_for(services, wanted.requirements, check=lambda: None, says=lambda line: click.echo(line, err=True))
            made = add_path(services, first_author(), path)
        if publish:
            _publish(services, made)
        slug = made.slug
    click.echo(f"Added `{slug}`. Visitors: /d/{slug}" if publish else f"Added `{slug}` as a draft: /demos/{slug}")


@main.command()
@click.argument("table", type=click.Path(path_type=Path))
@click.option("--predict", "target", default="", help="The column that is to be predicted.")
@click.option("--drop", multiple=True, metavar="COLUMN", help="Leave this column out.")
@click.option("--keep", multiple=True, metavar="COLUMN", help="Use this column although it is pointed out.")
@click.option("--group", metavar="COLUMN", help="Keep rows together that are the same in this; '' for none.")
@click.option("--time", metavar="COLUMN", help="Try models on rows that are later by this; '' for none.")
@click.option("--answer", type=click.Choice(["class", "number"]), help="What is to be predicted.")
@click.option("--model", type=click.Choice(["linear", "tree", "neighbours", "boosted"]), help="Take this one.")
@click.option("--numbers", type=click.Choice(["1,234.5", "1.234,5"]), help="How the table writes numbers.")
@click.option("--dates", type=click.Choice(["day", "month"]), help="What comes first in its dates.")
@click.option("--title", default="", help="What visitors read on top.")
@click.option("--as", "slug", default="", help="The demo's address.")
@click.option("--again", default="", metavar="DEMO", help="Fit the model of this demo anew, by the same recipe.")
def start(table: Path, again: str, **wanted: object) -> None:
    """Make a model of TABLE, and a demo around it: columns looked at, models compared, the plainest good one taken."""
    from pydantic import ValidationError

    from .core.documents import faults_of
    from .core.errors import InputFaults
    from .core.starters.choices import Choices
    from .jobs.from_command import start_from_table
    from .jobs.starter_found import StarterOptions
    from .store.authors import first_author

    table = table.resolve()
    with _in_words(), _services() as services:
        given = {name: list(value) if isinstance(value, tuple) else value for name, value in wanted.items()}
        try:
            choices = Choices.model_validate({name: value for name, value in given.items() if value is not None})
        except ValidationError as error:
            raise InputFaults(faults_of(error)) from None
        options = StarterOptions(choices=choices, again=again)
        found = start_from_table(services, first_author(), table, options, click.echo)
    click.echo(f"{'Fitted' if again else 'Made'} `{found.slug}`, as a draft: /demos/{found.slug}")


@main.command()
@click.argument("folder", type=click.Path(path_type=Path))
@click.option("--to", "address", required=True, envvar="PLAINWINDOW_ADDRESS", help="Where Plain Window runs.")
@click.option("--as", "slug", help="The demo's address, if not the one in its demo.toml.")
@click.option("--draft", is_flag=True, help="Replace the draft and check it, but do not publish.")
@click.option("--note", default="", help="What is new, for the list of releases.")
@click.option(
    "--despite", multiple=True, metavar="CHECK=REASON", help="Publish although this check fails, for this reason."
)
def push(folder: Path, address: str, slug: str | None, draft: bool, note: str, despite: tuple[str, ...]) -> None:
    """Make FOLDER a new release of its demo at another Plain Window.

    The key is taken from PLAINWINDOW_KEY. Ends with 0 if the checks let it be published, with 1 if one of them fails,
    and with 2 if it was not taken at all.
    """
    import os

    from .pushing.calls import Api, Refused
    from .pushing.packing import NotADemo
    from .pushing.release import push as push_folder

    reasons = dict(one.split("=", 1) for one in despite if "=" in one)
    key = os.environ.get("PLAINWINDOW_KEY", "").strip()
    if not key:
        raise click.UsageError(
            "PLAINWINDOW_KEY is empty. Put a key of that server into it: `./plainwindow key NAME` there."
        )
    if len(reasons) < len(despite):
        raise click.UsageError("`--despite` takes CHECK=REASON: the check's name, and why it may fail.")
    try:
        with Api(address, key) as api:
            done = push_folder(
                api, folder.resolve(), slug=slug, is_draft=draft, note=note, despite=reasons, say=click.echo
            )
    except (Refused, NotADemo) as error:
        click.echo(f"Error: {error}", err=True)
        sys.exit(2)
    sys.exit(0 if done.is_fit else 1)


@main.command()
def openapi() -> None:
    """Print the API's description."""
    import json

    from .web.description import describe
    from .web.views import api

    click.echo(json.dumps(describe(api), indent=1))


def _serve(settings: Settings, *, sample: bool) -> None:
    started = time.monotonic()
    with _in_words():
        from .service.supervisor import Service

        service = Service(settings)
        with service.until_stopped():
            service.start_background()
            is_first = sample and _add_samples(service)
            service.start_web()
            service.wait_ready()
            if is_first:
                service.wait_live()
            _say_ready(service, list(SAMPLES) if sample else [], time.monotonic() - started)
            service.watch()
    click.echo("Stopped.")


def _add_samples(service: "Service") -> bool:
    """Load the sample demos that are not there, which is on the first start; whether there were any."""
    from .authoring.folders import add_path
    from .samples.opened import opened_sample
    from .store.authors import first_author
    from .store.demos import find_demo

    new = [slug for slug in SAMPLES if find_demo(slug) is None]
    for slug in new:
        folder = SAMPLES[slug]
        made = add_path(service.services, first_author(), folder, opened=opened_sample(folder))
        _publish(service.services, made)
    return bool(new)


def _publish(services: "Services", demo_record: "Demo") -> None:
    from .store.demos import draft_tag, set_access
    from .store.releases import publish

    publish(demo_record, services.stamp, tag=draft_tag(demo_record))
    set_access(demo_record, "everyone", services.stamp)


def _say_ready(service: "Service", slugs: list[str], seconds: float) -> None:
    from .store.authors import first_author, make_sign_in_link

    confinement = service.services.runners.status().confinement
    if not confinement.works:
        click.echo(f"Runners are not confined: {confinement.reason}", err=True)
    else:
        click.echo(f"Runners are confined. Tried from inside and refused: {', '.join(confinement.probes)}.")
    for missing in confinement.missing:
        click.echo(f"  but: {missing}")
    click.echo(f"Ready after {seconds:.1f} seconds. Ctrl+C stops everything.")
    for at, slug in enumerate(slugs):
        click.echo(f"{'Visitors:' if at == 0 else '':<9}  {service.address}/d/{slug}")
    link = f"{service.address}/sign-in/{make_sign_in_link(first_author())}"
    if sys.stdout.isatty():
        click.echo(f"Author:    {link}  (signs in once)")
    else:
        # What is printed may end up in a log that others read.
        path = service.settings.run / "sign-in-link"
        path.unlink(missing_ok=True)
        path.touch(mode=0o600)
        path.write_text(link + "\n")
        click.echo(f"Author:    the link that signs in once is in {path}")
    sys.stdout.flush()


def _settings(port: int | None = None) -> Settings:
    with _in_words():
        return read_settings(port=port)


@contextlib.contextmanager
def _services() -> "Iterator[Services]":
    from .service.supervisor import background_services

    with background_services(_settings()) as services:
        yield services


@contextlib.contextmanager
def _in_words() -> Iterator[None]:
    """Whatever is wrong with what came in, or with this machine, ends in one sentence."""
    from .authoring.folders import FolderNotRead
    from .runners.failures import RunnerFailed, RunnerUnavailable
    from .service.database import DatabaseNotStarted
    from .service.supervisor import AlreadyRunning, NotStarted
    from .store.addresses import SlugTaken
    from .store.database import DATABASE_ERRORS
    from .web.sentences import unavailable_sentence

    try:
        yield
    except Faults as error:
        raise click.ClickException("\n".join(fault.message for fault in error.faults)) from error
    except AlreadyRunning as error:
        raise click.ClickException(
            "Plain Window already runs on this state directory. Stop it first, or set another PLAINWINDOW_HOME."
        ) from error
    except SlugTaken as error:
        raise click.ClickException(f"There already is a demo at `{error}`. Change `slug` in its demo.toml.") from error
    except DATABASE_ERRORS as error:
        raise click.ClickException(f"The database cannot be used: {error}") from error
    except ModelNotOpened as error:
        raise click.ClickException("\n\n".join(part for part in (str(error), error.traceback) if part)) from error
    except (
        SettingsError,
        PlainWindowError,
        FolderNotRead,
        DatabaseNotStarted,
        NotStarted,
        RunnerFailed,
    ) as error:
        raise click.ClickException(str(error)) from error
    except RunnerUnavailable as error:
        raise click.ClickException(unavailable_sentence(error)) from error
