"""The processes that hold models, and the way to them.

- `protocol`     length-prefixed msgpack, and the open files that ride along; never pickle
- `confinement`  the walls around a runner, and whether they stand on this machine
- `seccomp`      which system calls it may make
- `cgroups`      a control group for each, where the machine gives us some
- `probing`      what is tried from inside the walls at every start
- `runner`       the confined process: opens one model, answers calls for it
- `guest_line`   a second process in there, with libraries that the model asks for
- `table_reader` the confined process that reads one job's table and writes its result
- `cluster`      the confined process with workers that are asked about chunks of rows
- `waiting`      how these two wait for whoever asks; `work`, asking them
- `kernel_cache`  the machine code of the hot loops, made once for all runners
- `spawner`      starts runners for the keeper, and keeps them while there is none
- `keeper`       all runners by key, and the socket the web tier asks at
- `tracked`      one runner as its keeper sees it: followed, watched, brought back; `starting`, its start
- `watching`     what a runner's whole tree takes, and which call it has under way
- `output`       what it prints, in a log that it can neither fill nor forge
- `client`       the web tier's one way to models: a typed method for each call
- `lines`        how such a call reaches its runner; `failures`, why one has no answer
- `turns`        whose turn it is at a runner
- `pipe`         one connection to a runner that many callers share

A call goes `client` → `lines` → the runner's own socket. Only when that does not answer is the keeper asked.
What crosses any of these sockets has its types in `core.contract`; what answers is `core.model_service`.
"""
