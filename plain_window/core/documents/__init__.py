"""A demo as a document, and what may be done to it. Starts from what was inferred from model and table.

- `document`  what an author can set, as one type
- `edits`     what an author sets: changes, of which what is left out stays as it is
- `applying`  changes applied and checked as a whole, with `field_edits`, `answer_edits` and `faults`
- `measured`  whether what was measured on known cases is still about the document
- `replacing` another model under a document: what stays
- `model_differences`, `shared_cases`  what differs between the two models, their answers to the same cases too
- `films`     whether a demo can be asked about films, frame by frame
- `comparing` what differs between two documents, setting by setting
"""

from .applying import apply_changes
from .document import BACKGROUND_ROWS, TITLE_CHARACTERS, DemoDocument, PageParts, Sample
from .edits import MOST_FIELDS, AnswerChanges, DemoChanges, FieldChanges
from .faults import faults_of

__all__ = [
    "BACKGROUND_ROWS",
    "MOST_FIELDS",
    "TITLE_CHARACTERS",
    "AnswerChanges",
    "DemoChanges",
    "DemoDocument",
    "FieldChanges",
    "PageParts",
    "Sample",
    "apply_changes",
    "faults_of",
]
