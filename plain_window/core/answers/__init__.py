"""What comes out.

- `kinds`     the kinds of answer, as types, and what a demo says about its answer
- `in_picture`  the kinds of answer that lie in a picture
- `written`   the kinds of answer that are a text or a table
- `making`    a model's raw output as an answer
- `rounding`  marks of 100, and no more digits than make sense
"""

from .in_picture import (
    BoxesAnswer,
    BoxesSetting,
    BoxLabel,
    BoxReading,
    MaskAnswer,
    MaskReading,
    MaskSetting,
    PictureAnswer,
    PictureReading,
    PictureSetting,
)
from .kinds import (
    AnyAnswer,
    AnyAnswerSetting,
    ClassAnswer,
    ClassSetting,
    ClassWording,
    LabelsAnswer,
    LabelsSetting,
    LabelWording,
    NumberAnswer,
    NumbersAnswer,
    NumberSetting,
    NumbersSetting,
)
from .making import boxes_answer, make_answer
from .written import TableAnswer, TableSetting, TextAnswer, TextSetting

__all__ = [
    "AnyAnswer",
    "AnyAnswerSetting",
    "BoxLabel",
    "BoxReading",
    "BoxesAnswer",
    "BoxesSetting",
    "ClassAnswer",
    "ClassSetting",
    "ClassWording",
    "LabelWording",
    "LabelsAnswer",
    "LabelsSetting",
    "MaskAnswer",
    "MaskReading",
    "MaskSetting",
    "NumberAnswer",
    "NumberSetting",
    "NumbersAnswer",
    "NumbersSetting",
    "PictureAnswer",
    "PictureReading",
    "PictureSetting",
    "TableAnswer",
    "TableSetting",
    "TextAnswer",
    "TextSetting",
    "boxes_answer",
    "make_answer",
]
