// Threads that paint: they come first where processors are scarce.
#pragma once
#include <QSemaphore>
#include <QThreadPool>

#include "cinnabar/desktop/workers/turns.h"

namespace cinnabar {

/// Qt parts large fills among the threads of its global pool and waits for them, also within the window's
/// painting. A thread has the niceness of whoever starts it: begun by a worker that paints, they would let the
/// window wait as long as workers do. So all of them are started here, once, by the interface thread, and stay.
/// A window is woken some twenty times while it paints: they and the interface thread take turns of a tenth of a
/// millisecond, and so need not wait each time until a worker's turn is over.
inline void startPaintersAhead() {
  const auto firstAndShort = [nice = ::getpriority(PRIO_PROCESS, 0)] { takeTurns(nice, 100'000); };
  firstAndShort();
  QThreadPool* pool = QThreadPool::globalInstance();
  pool->setExpiryTimeout(-1);
  const int all = pool->maxThreadCount();
  QSemaphore there, go;
  for (int k = 0; k < all; ++k)
    pool->start([&] {
      firstAndShort();
      there.release();
      go.acquire();
    });
  there.acquire(all);  // each has a thread of its own by then
  go.release(all);
  pool->waitForDone();
}

}  // namespace cinnabar
