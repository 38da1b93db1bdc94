"""Which system calls a runner may make: an allow-list, as the small program that the kernel runs at each call.

What computing, reading files and answering over sockets it was handed needs is allowed. Everything else answers as a
kernel without that call would (ENOSYS), which is what libraries try their newer calls against: no other namespaces, no
io_uring, no userfaultfd, no shared memory segments, no sockets but Unix ones, no processes beside its own (threads
are), no looking into other processes, no keys, no mounts.
"""

import ctypes.util
import errno
import os
import tempfile
from typing import Any, Literal, get_args

__all__ = ["BESIDE", "Beside", "SeccompMissing", "program_file", "seccomp_program"]

ALLOWED = (
    "read write readv writev pread64 pwrite64 preadv pwritev preadv2 pwritev2 lseek close close_range fsync "
    "fdatasync open openat openat2 creat access faccessat faccessat2 stat lstat fstat newfstatat statx statfs "
    "fstatfs getdents getdents64 readlink readlinkat getcwd chdir fchdir mkdir mkdirat rmdir unlink unlinkat "
    "rename renameat renameat2 link linkat symlink symlinkat chmod fchmod fchmodat truncate ftruncate fallocate "
    "utimensat umask flock fadvise64 readahead copy_file_range sendfile splice tee dup dup2 dup3 fcntl pipe pipe2 "
    "select pselect6 poll ppoll epoll_create epoll_create1 epoll_ctl epoll_wait epoll_pwait epoll_pwait2 eventfd "
    "eventfd2 timerfd_create timerfd_settime timerfd_gettime signalfd signalfd4 mmap munmap mremap mprotect "
    "madvise mincore msync brk mlock munlock membarrier futex futex_waitv set_robust_list get_robust_list "
    "set_tid_address rseq sched_yield sched_getaffinity sched_setaffinity sched_getparam sched_getscheduler "
    "sched_get_priority_max sched_get_priority_min getcpu getpriority arch_prctl exit exit_group wait4 waitid "
    "kill tkill tgkill rt_sigaction rt_sigprocmask rt_sigpending rt_sigreturn rt_sigsuspend rt_sigtimedwait "
    "rt_sigqueueinfo rt_tgsigqueueinfo sigaltstack pause alarm setitimer getitimer restart_syscall getpid getppid "
    "setpriority listxattr llistxattr flistxattr getxattr lgetxattr fgetxattr "
    "gettid getuid geteuid getgid getegid getresuid getresgid getgroups getpgid getpgrp getsid setsid uname "
    "sysinfo times getrusage getrlimit prlimit64 setrlimit getrandom get_mempolicy clock_gettime clock_getres "
    "clock_nanosleep nanosleep gettimeofday time accept accept4 recvfrom recvmsg recvmmsg sendto sendmsg sendmmsg "
    "shutdown getsockname getpeername getsockopt setsockopt execve execveat capget capset setuid setgid setreuid "
    "setregid setresuid setresgid setgroups "
)
# `setpriv` gives up root before the runner begins, with the set… calls; after it nobody has the right to use them.
CLONE_THREAD = 0x00010000
AF_UNIX, AF_INET, AF_INET6 = 1, 2, 10
# Every CLONE_NEW… flag: time, cgroup, UTS, IPC, user, process, network, mount.
NEW_NAMESPACES = 0x80 | 0x02000000 | 0x04000000 | 0x08000000 | 0x10000000 | 0x20000000 | 0x40000000 | 0x00020000
# What may be beside a runner within its walls: nothing, workers that it talks to over a network of their own, or one
# process that has the model's own libraries.
Beside = Literal["nothing", "workers", "child"]
BESIDE: tuple[Beside, ...] = get_args(Beside)
# Where processes are started, and where they talk to each other.
WITH_PROCESSES, WITH_WORKERS = "fork vfork", "connect bind listen setpgid"
# What asks about a file or a terminal, and closes one on exec.
IOCTLS = (0x5401, 0x5413, 0x541B, 0x5421, 0x5450, 0x5451)
# Names of threads; and what `setpriv` and bubblewrap do on the way in: dying with the parent, no new privileges, the
# bounding and the ambient set, securebits.
PRCTLS = (1, 2, 3, 4, 8, 15, 16, 23, 24, 27, 28, 38, 39, 47)


class SeccompMissing(Exception):
    """The filter cannot be had on this machine; the message says why."""


def seccomp_program(beside: Beside = "nothing") -> bytes:
    """The filter for this machine's processor.

    Parameters
    ----------
    beside : str
        Whether processes may be started, and talk to each other over the network of their own namespace.

    Raises
    ------
    SeccompMissing
        If the library that makes it is not installed, or does not know this processor.
    """
    if ctypes.util.find_library("seccomp") is None:
        raise SeccompMissing("the Debian package `libseccomp2` is not installed")
    # Imported here: it loads the library, which is not there everywhere.
    import pyseccomp

    try:
        with tempfile.TemporaryFile() as file:
            _filter(pyseccomp, beside).export_bpf(file)
            file.seek(0)
            return file.read()
    except (OSError, RuntimeError) as error:
        raise SeccompMissing(f"libseccomp made no filter: {error}") from error


def _filter(pyseccomp: Any, beside: Beside) -> Any:
    made = pyseccomp.SyscallFilter(pyseccomp.ERRNO(errno.ENOSYS))
    for name in ALLOWED.split():
        # Each processor has some of these under other names; what it does not have needs no rule.
        if _is_known(pyseccomp, name):
            made.add_rule(pyseccomp.ALLOW, name)
    # Threads, but no processes. The newer call hides its flags from a filter; without it libraries take this one.
    made.add_rule(pyseccomp.ALLOW, "clone", pyseccomp.Arg(0, pyseccomp.MASKED_EQ, CLONE_THREAD, CLONE_THREAD))
    for name in ("socket", "socketpair"):
        made.add_rule(pyseccomp.ALLOW, name, pyseccomp.Arg(0, pyseccomp.EQ, AF_UNIX))
    if beside != "nothing":
        _allow_processes(pyseccomp, made)
    if beside == "workers":
        _allow_network(pyseccomp, made)
    for request in IOCTLS:
        made.add_rule(pyseccomp.ALLOW, "ioctl", pyseccomp.Arg(1, pyseccomp.EQ, request))
    for option in PRCTLS:
        made.add_rule(pyseccomp.ALLOW, "prctl", pyseccomp.Arg(0, pyseccomp.EQ, option))
    return made


def _allow_processes(pyseccomp: Any, made: Any) -> None:
    """Processes, but no other namespaces for them."""
    made.add_rule(pyseccomp.ALLOW, "clone", pyseccomp.Arg(0, pyseccomp.MASKED_EQ, NEW_NAMESPACES, 0))
    _allow(pyseccomp, made, WITH_PROCESSES)


def _allow_network(pyseccomp: Any, made: Any) -> None:
    """The network that is there, which is their own loopback."""
    _allow(pyseccomp, made, WITH_WORKERS)
    for family in (AF_INET, AF_INET6):
        made.add_rule(pyseccomp.ALLOW, "socket", pyseccomp.Arg(0, pyseccomp.EQ, family))


def _allow(pyseccomp: Any, made: Any, names: str) -> None:
    for name in names.split():
        if _is_known(pyseccomp, name):
            made.add_rule(pyseccomp.ALLOW, name)


def _is_known(pyseccomp: Any, name: str) -> bool:
    try:
        return bool(pyseccomp.resolve_syscall(pyseccomp.system_arch(), name) >= 0)
    except (ValueError, RuntimeError, OSError):
        return False


def program_file(program: bytes) -> int:
    """A descriptor that bubblewrap reads the filter from. The caller closes it.

    Parameters
    ----------
    program : bytes
    """
    descriptor = os.memfd_create("seccomp", os.MFD_CLOEXEC)
    os.write(descriptor, program)
    os.lseek(descriptor, 0, os.SEEK_SET)
    return descriptor
