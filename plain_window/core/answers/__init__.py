"""What comes out.

- `kinds`     the kinds of answer, as types, and what a demo says about its answer
- `making`    a model's raw output as an answer
- `rounding`  marks of 100, and no more digits than make sense
"""

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
from .making import make_answer

__all__ = [
    "AnyAnswer",
    "AnyAnswerSetting",
    "ClassAnswer",
    "ClassSetting",
    "ClassWording",
    "LabelWording",
    "LabelsAnswer",
    "LabelsSetting",
    "NumberAnswer",
    "NumberSetting",
    "NumbersAnswer",
    "NumbersSetting",
    "make_answer",
]
