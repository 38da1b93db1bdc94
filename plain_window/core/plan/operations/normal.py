"""The bell curve's quantiles, without SciPy: a runner that serves a compiled model does not load it."""

import math

import numpy as np

__all__ = ["normal_cdf", "normal_quantile"]

ROOT_2_PI = 2.50662827463100050242
# Beyond exp(−2) from either end another expansion is used.
TAIL = 0.13533528323661269189
# Rational approximations, numerator and denominator, highest power first: the middle, and the tails' two parts.
MIDDLE = (
    [-5.99633501014107895267e1, 9.80010754185999661536e1, -5.66762857469070293439e1, 1.39312609387279679503e1,
     -1.23916583867381258016e0],
    [1.0, 1.95448858338141759834e0, 4.67627912898881538453e0, 8.63602421390890590575e1, -2.25462687854119370527e2,
     2.00260212380060660359e2, -8.20372256168333339912e1, 1.59056225126211695515e1, -1.18331621121330003142e0],
)  # fmt: skip
NEAR = (
    [4.05544892305962419923e0, 3.15251094599893866154e1, 5.71628192246421288162e1, 4.40805073893200834700e1,
     1.46849561928858024014e1, 2.18663306850790267539e0, -1.40256079171354495875e-1, -3.50424626827848203418e-2,
     -8.57456785154685413611e-4],
    [1.0, 1.57799883256466749731e1, 4.53907635128879210584e1, 4.13172038254672030440e1, 1.50425385692907503408e1,
     2.50464946208309415979e0, -1.42182922854787788574e-1, -3.80806407691578277194e-2, -9.33259480895457427372e-4],
)  # fmt: skip
FAR = (
    [3.23774891776946035970e0, 6.91522889068984211695e0, 3.93881025292474443415e0, 1.33303460815807542389e0,
     2.01485389549179081538e-1, 1.23716634817820021358e-2, 3.01581553508235416007e-4, 2.65806974686737550832e-6,
     6.23974539184983293730e-9],
    [1.0, 6.02427039364742014255e0, 3.67983563856160859403e0, 1.37702099489081330271e0, 2.16236993594496635890e-1,
     1.34204006088543189037e-2, 3.28014464682127739104e-4, 2.89247864745380683936e-6, 6.79019408009981274425e-9],
)  # fmt: skip


def normal_quantile(p: np.ndarray) -> np.ndarray:
    """Where the standard normal distribution reaches `p` [1]_.

    Parameters
    ----------
    p : ndarray
        From 0 to 1.

    Returns
    -------
    ndarray of the same shape
        Minus infinity at 0, infinity at 1, NaN elsewhere outside.

    References
    ----------
    .. [1] S. L. Moshier, Cephes Mathematical Library, function `ndtri`: rational approximations in three ranges.
    """
    p = np.asarray(p, dtype="float64")
    with np.errstate(divide="ignore", invalid="ignore"):
        is_upper = p > 1 - TAIL
        tail = np.where(is_upper, 1 - p, p)
        centred = p - 0.5
        square = centred * centred
        bend = square * np.polyval(MIDDLE[0], square) / np.polyval(MIDDLE[1], square)
        middle = (centred + centred * bend) * ROOT_2_PI
        root = np.sqrt(-2 * np.log(np.where(tail > TAIL, TAIL, tail)))
        inverse = 1 / root
        near = inverse * np.polyval(NEAR[0], inverse) / np.polyval(NEAR[1], inverse)
        far = inverse * np.polyval(FAR[0], inverse) / np.polyval(FAR[1], inverse)
        outer = root - np.log(root) / root - np.where(root < 8, near, far)
        out = np.where(tail > TAIL, middle, np.where(is_upper, outer, -outer))
    out = np.where(p == 0, -np.inf, np.where(p == 1, np.inf, out))
    return np.where((p < 0) | (p > 1) | np.isnan(p), np.nan, out)


def normal_cdf(x: np.ndarray) -> np.ndarray:
    """The standard normal distribution's share below `x`.

    Parameters
    ----------
    x : ndarray
        Any shape.
    """
    return np.vectorize(lambda value: 0.5 * math.erfc(-value / math.sqrt(2)), otypes=["float64"])(x)
