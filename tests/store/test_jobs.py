"""Jobs as records: taken in, counted, over once, kept for so long."""

import datetime as dt

from plain_window.store.database import database, now, run_migrations
from plain_window.store.jobs import (
    NewJob,
    add_job,
    change_job,
    delete_job,
    end_job,
    events_since,
    find_job,
    note_event,
    old_jobs,
    place_in_line,
    record_chunk,
    start_running,
    unfinished_jobs,
    waiting_of,
)
from plain_window.store.records import Job

from .test_migrations import WRITTEN


def added(*, caller: str = "address 127.0.0.1", by_author: bool = False) -> Job:
    return add_job(
        NewJob(
            kind="table",
            demo_id=13,
            model_id=11,
            release_number=1,
            document="{}",
            by_author=by_author,
            caller=caller,
            options={"hold": True},
            file="c" * 64,
            file_name="pieces.csv",
            file_bytes=7,
        )
    )


def test_a_job_goes_from_being_taken_in_to_being_forgotten(empty):
    run_migrations()
    for statement in WRITTEN:
        database.execute_sql(statement.replace("%", "%%"))
    first, second = added(), added(caller="address 10.0.0.1")
    assert [job.id for job in unfinished_jobs()] == [first.id, second.id]
    assert waiting_of(demo_id=13) == 2
    assert waiting_of(demo_id=13, caller="address 10.0.0.1") == 1
    # What is held waits for a word: it is nobody's turn, and counted apart.
    assert change_job(first, stage="held")
    assert [job.id for job in unfinished_jobs()] == [second.id]
    assert (waiting_of(demo_id=13), waiting_of(demo_id=13, is_held=True)) == (1, 1)
    assert change_job(first, stage="ready")
    assert change_job(second, stage="ready")
    assert place_in_line(Job.get_by_id(second.id)) == 1
    # Said twice, as after a line that broke: it is as true as before.
    assert start_running(first)
    assert start_running(Job.get_by_id(first.id))
    for _ in range(2):
        assert record_chunk(first, chunks=1, done=10, answered=9, faults=1, total=20)
    note_event(first, "Lost, and carried on.")
    assert [event.text for event in events_since(first, 0)] == ["Lost, and carried on."]
    # Over is over: nothing changes it any more, and its table is not needed.
    assert end_job(first, "done")
    assert not end_job(first, "failed", "too late")
    assert not record_chunk(first, chunks=2, done=20, answered=19, faults=1, total=20)
    kept = find_job(first.token)
    assert (kept.state, kept.done, kept.file_id) == ("done", 10, None)
    delete_job(kept)
    assert find_job(first.token) is None


def test_what_came_of_a_job_is_kept_for_a_day_or_a_week(empty):
    run_migrations()
    for statement in WRITTEN:
        database.execute_sql(statement.replace("%", "%%"))
    ages = {"visitor": (added(), 2), "author": (added(by_author=True), 2), "old": (added(by_author=True), 8)}
    for job, days in ages.values():
        end_job(job, "done")
        Job.update(ended=now() - dt.timedelta(days=days)).where(Job.id == job.id).execute()
    left = added()
    change_job(left, stage="held")
    Job.update(created=now() - dt.timedelta(hours=3)).where(Job.id == left.id).execute()
    fresh = added()
    change_job(fresh, stage="held")
    assert {job.id for job in old_jobs()} == {ages["visitor"][0].id, ages["old"][0].id, left.id}
