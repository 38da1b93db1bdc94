"""The processes that hold models, and the way to them.

- `protocol`     length-prefixed msgpack; arrays as dtype, shape and bytes; never pickle
- `jobs`         what a runner is told to hold, as a type
- `confinement`  the walls around a runner, and whether they stand on this machine
- `runner`       the confined process: opens one model, answers calls for it
- `kernels`      the machine code of the hot loops, made once for all runners
- `keeper`       starts runners, watches them, brings them back
- `client`       the web tier's one way to all of this

A call goes `client` → the runner's own socket. Only when that does not answer is the keeper asked.
"""
