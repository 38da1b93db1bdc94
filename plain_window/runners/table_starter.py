"""Makes a model of a table: a confined process that looks at it, compares models and makes the one that is wanted."""

import io
import json
import threading
from collections.abc import Callable
from typing import Any

import msgspec

from ..core.contract.elsewhere import FilePart, NotRead
from ..core.contract.messages import Said
from ..core.contract.starters import (
    Compared,
    CompareModels,
    FitAgain,
    HowFar,
    LookAtStart,
    MadeModel,
    MakeModel,
    NextOfMade,
    StartAsk,
    StartDoubtful,
    StartFault,
    StartLooked,
    StillAt,
    TakeMade,
)
from ..core.errors import MismatchFaults, TableNotRead
from ..core.starters.again import recipe_again
from ..core.starters.choices import Choices
from ..core.starters.compared import Comparison
from ..core.starters.comparing import compare
from ..core.starters.looking import look_at_table
from ..core.starters.making import Made, make
from ..core.starters.recipe import recipe_of
from ..core.starters.sheet import Sheet
from .elsewhere import Desk, FileOf

__all__ = ["StarterDesk"]

PART_BYTES = 1 << 20
# Told how many fits are done, and how many there are; and what is done meanwhile.
Progress = Callable[[int, int], None]
Work = Callable[[Progress], Said]
# How long whoever asks how far it is waits for more to be done.
PATIENCE_SECONDS = 0.5
CONVENTIONS: dict[str, Any] = {"1,234.5": "point", "1.234,5": "comma", "": None}


class StarterDesk(Desk[StartAsk]):
    """What is asked about one table that a model is to be made of.

    Parameters
    ----------
    file_of : callable
        Gives the file of a size.
    """

    noun, asks = "table", StartAsk

    def __init__(self, file_of: FileOf) -> None:
        super().__init__(file_of)
        self._table: io.BytesIO | None = None
        self._work: _Work | None = None
        self._made: Made | None = None
        self._parts: list[bytes] = []

    def done(self, ask: StartAsk) -> Said:
        """What is said to this.

        Parameters
        ----------
        ask : StartAsk
        """
        try:
            return self._done(ask)
        except MismatchFaults as error:
            return _doubtful(error)

    def _done(self, ask: StartAsk) -> Said:
        match ask:
            case LookAtStart():
                return self._begun(self._looking(ask))
            case CompareModels():
                return self._begun(self._comparing(ask))
            case MakeModel() | FitAgain():
                return self._begun(self._making(ask))
            case HowFar() if self._work is not None:
                return self._work.how_far()
            case TakeMade() if self._made is not None:
                content: bytes = getattr(self._made, ask.name)
                self._parts = [content[at : at + PART_BYTES] for at in range(0, len(content), PART_BYTES)] or [b""]
                return self._part()
            case NextOfMade() if self._parts:
                return self._part()
        return NotRead("Nothing was begun.")

    def _looking(self, ask: LookAtStart) -> Work:
        choices, table = Choices.model_validate_json(ask.choices), self._whole(ask.size)

        def work(_progress: Progress) -> Said:
            sheet, how = look_at_table(
                table,
                target=choices.target,
                answer=choices.answer,
                convention=CONVENTIONS[choices.numbers],
                day_first={"day": True, "month": False, "": None}[choices.dates],
            )
            return StartLooked(sheet.model_dump_json().encode(), json.dumps(how).encode())

        return work

    def _comparing(self, ask: CompareModels) -> Work:
        choices = Choices.model_validate_json(ask.choices)
        recipe = recipe_of(Sheet.model_validate_json(ask.sheet), json.loads(ask.how), choices)
        table = self._whole(ask.size)

        def work(progress: Progress) -> Said:
            found = compare(table, recipe, weights=choices.weights, progress=progress)
            return Compared(found.model_dump_json().encode())

        return work

    def _making(self, ask: MakeModel | FitAgain) -> Work:
        table, sheet, how = self._whole(ask.size), Sheet.model_validate_json(ask.sheet), json.loads(ask.how)
        compared, title = None, ""
        if isinstance(ask, FitAgain):
            recipe = recipe_again(sheet, how, json.loads(ask.recipe))
        else:
            choices, compared = Choices.model_validate_json(ask.choices), Comparison.model_validate_json(ask.compared)
            settings = next(one.settings for one in compared.tried if one.candidate == ask.candidate)
            recipe = {**recipe_of(sheet, how, choices), "candidate": ask.candidate, "settings": settings}
            title = choices.title

        def work(_progress: Progress) -> Said:
            made = self._made = make(table, recipe, compared, file_name=ask.file_name, title=title)
            return MadeModel(
                script=made.script,
                requirements=made.requirements,
                recipe=json.dumps(recipe).encode(),
                known_group=made.known_group,
                changes=json.dumps(made.changes).encode(),
                n_learned=made.n_learned,
                n_known=made.n_known,
                n_kept_back=made.n_kept_back,
                kept_error=made.kept_error.model_dump_json().encode() if made.kept_error else b"",
            )

        return work

    def _begun(self, work: Work) -> Said:
        self._work = _Work(work)
        return self._work.how_far()

    def _part(self) -> FilePart:
        part = self._parts.pop(0)
        return FilePart(part, is_last=not self._parts)

    def _whole(self, size: int) -> io.BytesIO:
        """The table in memory: it is read several times over, and by threads."""
        if self._table is None:
            self._table = io.BytesIO(io.BufferedReader(self._file_of(size)).read())
        self._table.seek(0)
        return self._table


def _doubtful(error: MismatchFaults) -> StartDoubtful:
    return StartDoubtful([StartFault(one.field or "table", one.message, list(one.choices)) for one in error.faults])


class _Work:
    """Something that takes longer than an answer may, in a thread of its own."""

    def __init__(self, work: Work) -> None:
        self._at = StillAt(0, 0)
        self._said: Said | None = None
        self._over = threading.Event()
        threading.Thread(target=self._run, args=(work,), name="fits", daemon=True).start()

    def how_far(self) -> Said:
        """How far it is, after a moment; or what came of it."""
        self._over.wait(PATIENCE_SECONDS)
        return self._at if self._said is None else self._said

    def _run(self, work: Work) -> None:
        try:
            self._said = work(self._progress)
        except MismatchFaults as error:
            self._said = _doubtful(error)
        except TableNotRead as error:
            self._said = NotRead(str(error))
        except MemoryError:
            self._said = NotRead("The table is too large to make a model of in the memory that one may take here.")
        except ValueError as error:
            self._said = NotRead(str(error)[:500])
        except Exception as error:  # whatever a library makes of a table, who asked hears of it
            self._said = NotRead(f"The models could not be fitted: {type(error).__name__}: {str(error)[:300]}")
        finally:
            self._over.set()

    def _progress(self, done: int, total: int) -> None:
        self._at = msgspec.structs.replace(self._at, done=done, total=total)
