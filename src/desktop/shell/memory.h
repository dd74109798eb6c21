// Memory that was given back is given back.
#pragma once
#include <malloc.h>

namespace cinnabar {

/// Large pieces (films, pictures) come from the system each by itself and go back to it, and threads share two
/// heaps: else an hour of use leaves holes as large as what is used. To be called first.
inline void keepMemoryTight() {
#ifdef __GLIBC__
  mallopt(M_MMAP_THRESHOLD, 1 << 18);
  mallopt(M_TRIM_THRESHOLD, 1 << 20);
  mallopt(M_ARENA_MAX, 2);
#endif
}

}  // namespace cinnabar
