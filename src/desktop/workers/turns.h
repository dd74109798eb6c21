// Turns on the processors: who is asked first, and for how long.
#pragma once
#include <sys/resource.h>
#include <sys/syscall.h>
#include <unistd.h>
#include <cstdint>

namespace cinnabar {

/// The calling thread's niceness (on Linux each thread has its own, and hands it on to those that it starts), and
/// how long a turn it asks for. Who asks for short turns gets one as soon as it is woken, in the middle of
/// another's longer one (sched_setattr(2), `sched_runtime`, from Linux 6.12 on; older kernels take no notice).
/// `turn_ns` 0: the usual.
inline void takeTurns(int nice, std::uint64_t turn_ns) {
  ::setpriority(PRIO_PROCESS, 0, nice);
#ifdef SYS_sched_setattr
  const struct {
    std::uint32_t size, policy;
    std::uint64_t flags;
    std::int32_t nice;
    std::uint32_t priority;
    std::uint64_t runtime, deadline, period;
  } turns{sizeof turns, 0, 0, nice, 0, turn_ns, 0, 0};
  ::syscall(SYS_sched_setattr, 0, &turns, 0U);
#endif
}

}  // namespace cinnabar
