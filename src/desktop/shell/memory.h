// Memory that was given back is given back, and nobody waits for another's heap.
#pragma once
#ifdef CINNABAR_OWN_HEAPS
#include <mimalloc.h>
#endif

namespace cinnabar {

/// Every thread has a heap of its own (mimalloc, in place of the C library's, whose few heaps are shared behind
/// locks): a worker that is set aside in the middle of taking memory would else hold up the window. Says whether
/// it is so. Linked by `cinnabar_own_heaps`; not under the sanitizers, which watch the C library's.
inline bool everyThreadHasItsHeap() {
#ifdef CINNABAR_OWN_HEAPS
  return mi_version() > 0;  // and so the library is asked for, before the C library
#else
  return false;
#endif
}

}  // namespace cinnabar
