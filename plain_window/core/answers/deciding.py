"""Which class an answer says: the likeliest, or of two the one whose threshold is reached. Needs no NumPy."""

from collections.abc import Sequence

from .kinds import Band, ClassSetting, NumberSetting

__all__ = ["band_of", "decided_class", "said_place", "threshold_of"]


def threshold_of(setting: ClassSetting) -> tuple[int, float] | None:
    """The place of the class that has a threshold, and the threshold; None where the likeliest class is said.

    Parameters
    ----------
    setting : ClassSetting
    """
    if setting.threshold is None or not setting.gives_probabilities:
        return None
    names = [wording.name for wording in setting.classes]
    return (names.index(setting.threshold_of), setting.threshold) if setting.threshold_of in names else None


def decided_class(setting: ClassSetting, outputs: Sequence[float]) -> int:
    """The place of the class that is said.

    Parameters
    ----------
    setting : ClassSetting
    outputs : sequence of float, shape (n_classes,)
        Probabilities, or 1 at the answered class.

    Examples
    --------
    >>> from plain_window.core.answers.kinds import ClassWording
    >>> classes = [ClassWording(name=name, label=name, headline=name) for name in ("cracks", "sound")]
    >>> setting = ClassSetting(classes=classes, threshold=0.25, threshold_of="cracks")
    >>> decided_class(setting, [0.3, 0.7])
    0
    """
    return said_place(outputs, threshold_of(setting))


def said_place(outputs: Sequence[float], threshold: tuple[int, float] | None) -> int:
    """The place of the class that is said: the likeliest, or of two as a threshold has it.

    Parameters
    ----------
    outputs : sequence of float, shape (n_classes,)
        Probabilities, or 1 at the answered class.
    threshold : (int, float) or None
        The class that has one, and from which probability on it is said.
    """
    if threshold is None:
        return max(range(len(outputs)), key=lambda at: outputs[at])
    place, least = threshold
    return place if outputs[place] >= least else 1 - place


def band_of(setting: NumberSetting, value: float) -> Band | None:
    """The band that a number lies in, as it is rounded for reading; None where the author has named none.

    Parameters
    ----------
    setting : NumberSetting
    value : float
    """
    shown = round(value, setting.decimals)
    return next((band for band in setting.bands if band.below is None or shown < band.below), None)
