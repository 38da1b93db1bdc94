"""The tables, as peewee models. The migrations make them; these only use them."""

from typing import TYPE_CHECKING

import peewee

from .database import database, now

__all__ = [
    "ApiKey",
    "Author",
    "AuthorSession",
    "Demo",
    "Environment",
    "EnvironmentRequest",
    "Job",
    "JobEvent",
    "Model",
    "OldAddress",
    "Prediction",
    "Release",
    "SecretLink",
    "SignInLink",
    "StoredFile",
    "WorkedOut",
]


class Record(peewee.Model):
    """Base of all records."""

    class Meta:
        database = database
        legacy_table_names = False


class Author(Record):
    """Someone who makes demos. `session_number` is from before sessions were records, and means nothing any more."""

    id = peewee.AutoField()
    name = peewee.CharField(max_length=120, unique=True)
    password_hash = peewee.CharField(null=True)
    session_number = peewee.IntegerField(default=1)
    created = peewee.DateTimeField(default=now)


class SignInLink(Record):
    """A link that signs in once. Only its hash is stored."""

    token_hash = peewee.CharField(max_length=64, primary_key=True)
    author = peewee.ForeignKeyField(Author)
    expires = peewee.DateTimeField()
    used = peewee.DateTimeField(null=True)


class AuthorSession(Record):
    """An author signed in with a browser. Only the token's hash is stored."""

    id = peewee.AutoField()
    token_hash = peewee.CharField(max_length=64, unique=True)
    author = peewee.ForeignKeyField(Author)
    csrf = peewee.CharField(max_length=32)
    by_link = peewee.BooleanField()
    created = peewee.DateTimeField(default=now)
    used = peewee.DateTimeField(default=now)
    ends = peewee.DateTimeField()


class ApiKey(Record):
    """A key for programs. Only its hash is stored."""

    id = peewee.AutoField()
    author = peewee.ForeignKeyField(Author)
    name = peewee.CharField(max_length=120)
    key_hash = peewee.CharField(max_length=64, unique=True)
    created = peewee.DateTimeField(default=now)
    revoked = peewee.DateTimeField(null=True)
    used = peewee.DateTimeField(null=True)


class StoredFile(Record):
    """A file in the store. `holds` counts those who work with it and have no record yet that refers to it."""

    hash = peewee.CharField(max_length=64, primary_key=True)
    size = peewee.BigIntegerField()
    created = peewee.DateTimeField(default=now)
    holds = peewee.IntegerField(default=0)
    held_at = peewee.DateTimeField(null=True)


class Environment(Record):
    """Libraries of a model's own, by exactly what is in them."""

    hash = peewee.CharField(max_length=64, primary_key=True)
    packages = peewee.TextField()
    size = peewee.BigIntegerField()
    created = peewee.DateTimeField(default=now)


class EnvironmentRequest(Record):
    """What requirements came to."""

    hash = peewee.CharField(max_length=64, primary_key=True)
    environment = peewee.ForeignKeyField(Environment, column_name="environment")
    requirements = peewee.TextField()
    created = peewee.DateTimeField(default=now)

    if TYPE_CHECKING:  # peewee makes this of the key above
        environment_id: str


class Model(Record):
    """A model with its table, and what a runner found in them. Never changes."""

    id = peewee.AutoField()
    runner_key = peewee.CharField(max_length=32, unique=True)
    model_file = peewee.ForeignKeyField(StoredFile, column_name="model_file")
    preprocessor_file = peewee.ForeignKeyField(StoredFile, null=True, column_name="preprocessor_file")
    beside_file = peewee.ForeignKeyField(StoredFile, null=True, column_name="beside_file")
    reference_file = peewee.ForeignKeyField(StoredFile, null=True, column_name="reference_file")
    compiled_file = peewee.ForeignKeyField(StoredFile, null=True, column_name="compiled_file")
    study_file = peewee.ForeignKeyField(StoredFile, null=True, column_name="study_file")
    converted_file = peewee.ForeignKeyField(StoredFile, null=True, column_name="converted_file")
    target = peewee.CharField(null=True)
    labels = peewee.TextField(null=True)
    inspection = peewee.TextField()
    bridge = peewee.CharField(max_length=32, null=True)
    requirements = peewee.TextField(null=True)
    environment = peewee.ForeignKeyField(Environment, null=True, column_name="environment")
    created = peewee.DateTimeField(default=now)

    if TYPE_CHECKING:  # peewee makes these of the keys above
        environment_id: str | None
        model_file_id: str
        preprocessor_file_id: str | None
        beside_file_id: str | None
        reference_file_id: str | None
        compiled_file_id: str | None
        study_file_id: str | None
        converted_file_id: str | None


class WorkedOut(Record):
    """What was worked out about a model, by name."""

    model = peewee.ForeignKeyField(Model)
    name = peewee.CharField(max_length=80)
    content = peewee.TextField()
    created = peewee.DateTimeField(default=now)

    class Meta:
        primary_key = peewee.CompositeKey("model", "name")


class Demo(Record):
    """One page around one model: its draft, and which release visitors see."""

    id = peewee.AutoField()
    slug = peewee.CharField(max_length=120, unique=True)
    author = peewee.ForeignKeyField(Author)
    model = peewee.ForeignKeyField(Model)
    known_file = peewee.ForeignKeyField(StoredFile, null=True, column_name="known_file")
    draft = peewee.TextField()
    access = peewee.CharField(max_length=16, default="private")
    passcode_hash = peewee.CharField(null=True)
    live_release_id = peewee.IntegerField(null=True)
    created = peewee.DateTimeField(default=now)
    changed = peewee.DateTimeField(default=now)
    deleted = peewee.DateTimeField(null=True)
    slug_before_deletion = peewee.CharField(max_length=120, null=True)
    sites = peewee.TextField(null=True)
    expected_file = peewee.ForeignKeyField(StoredFile, null=True, column_name="expected_file")
    expected_rows_file = peewee.ForeignKeyField(StoredFile, null=True, column_name="expected_rows_file")
    expected_of = peewee.CharField(max_length=64, null=True)
    away_release_id = peewee.IntegerField(null=True)

    if TYPE_CHECKING:  # peewee makes these of the keys above
        author_id: int
        model_id: int
        known_file_id: str | None
        expected_file_id: str | None
        expected_rows_file_id: str | None

    def locked(self) -> "Demo":
        """This record as it is by now, nobody else's until the caller's transaction ends."""
        found: Demo = Demo.select().where(Demo.id == self.id).for_update().get()
        return found


class Release(Record):
    """A frozen, numbered state of a demo. The database refuses to change one."""

    id = peewee.AutoField()
    demo = peewee.ForeignKeyField(Demo)
    number = peewee.IntegerField()
    model = peewee.ForeignKeyField(Model)
    document = peewee.TextField()
    created = peewee.DateTimeField(default=now)
    note = peewee.TextField(default="")
    despite = peewee.TextField(null=True)

    if TYPE_CHECKING:  # peewee makes these of the keys above
        demo_id: int
        model_id: int

    class Meta:
        table_name = "demo_release"


class OldAddress(Record):
    """An address that a demo had; it leads on to the one it has now."""

    slug = peewee.CharField(max_length=120, primary_key=True)
    demo = peewee.ForeignKeyField(Demo)
    since = peewee.DateTimeField(default=now)

    if TYPE_CHECKING:  # peewee makes it of the key above
        demo_id: int


class SecretLink(Record):
    """A link that opens a demo; the token in it is signed and not stored."""

    id = peewee.AutoField()
    demo = peewee.ForeignKeyField(Demo)
    created = peewee.DateTimeField(default=now)
    expires = peewee.DateTimeField(null=True)
    revoked = peewee.DateTimeField(null=True)
    name = peewee.CharField(max_length=120, default="")
    opened = peewee.IntegerField(default=0)


class Prediction(Record):
    """One prediction: when, of what, how long, how it went. The inputs only if the author turned that on."""

    id = peewee.BigAutoField()
    at = peewee.DateTimeField()
    demo_id = peewee.IntegerField()
    release_number = peewee.IntegerField(null=True)
    duration_ms = peewee.DoubleField()
    outcome = peewee.CharField(max_length=16)
    inputs = peewee.TextField(null=True)
    by_author = peewee.BooleanField(default=False)


class VisitorOutcome(Record):
    """What a visitor said became of a case; with the answer it was given, without what was entered."""

    prediction_id = peewee.CharField(max_length=40, primary_key=True)
    demo_id = peewee.IntegerField()
    release_number = peewee.IntegerField()
    at = peewee.DateTimeField()
    answer = peewee.TextField()
    is_right = peewee.BooleanField()
    truth = peewee.TextField(null=True)
    comment = peewee.TextField(null=True)

    class Meta:
        table_name = "visitor_outcome"


class Job(Record):
    """Work that takes longer than a call. `found` is what came of looking at its table, `options` what is wanted."""

    id = peewee.AutoField()
    token = peewee.CharField(max_length=32, unique=True)
    kind = peewee.CharField(max_length=16)
    demo = peewee.ForeignKeyField(Demo, null=True)
    model = peewee.ForeignKeyField(Model, null=True)
    author = peewee.ForeignKeyField(Author, null=True)
    release_number = peewee.IntegerField(null=True)
    document = peewee.TextField()
    by_author = peewee.BooleanField()
    caller = peewee.CharField(max_length=120)
    state = peewee.CharField(max_length=12)
    stage = peewee.CharField(max_length=12)
    options = peewee.TextField()
    file = peewee.ForeignKeyField(StoredFile, null=True, column_name="file")
    file_name = peewee.CharField(max_length=255, default="")
    file_bytes = peewee.BigIntegerField(default=0)
    found = peewee.TextField(null=True)
    done = peewee.BigIntegerField(default=0)
    total = peewee.BigIntegerField(null=True)
    answered = peewee.BigIntegerField(default=0)
    faults = peewee.BigIntegerField(default=0)
    chunks = peewee.IntegerField(default=0)
    detail = peewee.TextField(default="")
    created = peewee.DateTimeField(default=now)
    started = peewee.DateTimeField(null=True)
    ended = peewee.DateTimeField(null=True)

    if TYPE_CHECKING:  # peewee makes these of the keys above
        demo_id: int | None
        model_id: int | None
        author_id: int | None
        file_id: str | None


class JobEvent(Record):
    """A line of a job's log."""

    id = peewee.AutoField()
    job = peewee.ForeignKeyField(Job)
    at = peewee.DateTimeField(default=now)
    text = peewee.TextField()

    if TYPE_CHECKING:  # peewee makes it of the key above
        job_id: int

    class Meta:
        table_name = "job_event"
