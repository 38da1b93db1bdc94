"""The hot loops of curves: from jumps to what a ribbon can show. Kernels as in `path_kernels`."""

from ..plan.machine_code import kernel

__all__ = ["sum_jumps", "thin_steps"]


@kernel(lambda t: t.void(t.int64[::1], t.float64, t.float64[::1]))
def sum_jumps(first_piece, start, jumps):
    """Turn each field's jumps into what is said in its pieces, in place; all begin at `start`.

    Parameters
    ----------
    first_piece : ndarray of shape (n_fields + 1,)
        Where each field's pieces begin.
    start : float64
    jumps : ndarray
        By piece; changed in place.
    """
    for field in range(first_piece.size - 1):
        total = 0.0
        for at in range(first_piece[field], first_piece[field + 1]):
            total += jumps[at]
            jumps[at] = total + start


@kernel(lambda t: t.void(t.int64[::1], t.int64, t.float64[::1], t.float64[::1], t.int64[::1], t.int64[::1]))
def thin_steps(first_piece, most, x, y, n_left, n_jumps):
    """For each field the steps that a ribbon can show, in place from its first piece on.

    Of equal neighbours the first is left; where more than `most` are, the last of each stretch of the range. `n_left`
    says how many are left, `n_jumps` how many there were before those of a stretch were put together.

    Parameters
    ----------
    first_piece : ndarray of shape (n_fields + 1,)
        Where each field's pieces begin.
    most : int64
    x : ndarray
        Where each step begins.
    y : ndarray
        What is said from each place on.
    n_left : ndarray of shape (n_fields,)
    n_jumps : ndarray of shape (n_fields,)
    """
    for field in range(first_piece.size - 1):
        start, end = first_piece[field], first_piece[field + 1]
        if start == end:
            n_left[field] = n_jumps[field] = 0
            continue
        to = start + 1
        for at in range(start + 1, end):
            if y[at] != y[to - 1]:
                x[to], y[to] = x[at], y[at]
                to += 1
        n_jumps[field] = to - start
        if to - start > most:
            end, low = to, x[start]
            span = x[end - 1] - low
            to = start + 1
            last_stretch = -1
            for at in range(start + 1, end):
                stretch = min(int((x[at] - low) / span * most), most - 1)
                if stretch == last_stretch:
                    to -= 1
                x[to], y[to] = x[at], y[at]
                to += 1
                last_stretch = stretch
        n_left[field] = to - start
