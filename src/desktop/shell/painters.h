// Threads that fill large shapes for Qt.
#pragma once
#include <QSemaphore>
#include <QThreadPool>

namespace cinnabar {

/// Qt parts large fills among the threads of its global pool and waits for them, also within the window's
/// painting. A thread has the niceness of whoever starts it: begun by a worker that paints, they would let the
/// window wait as long as workers do. So all of them are started here, once, by the interface thread, and stay.
inline void startPaintersAhead() {
  QThreadPool* pool = QThreadPool::globalInstance();
  pool->setExpiryTimeout(-1);
  const int all = pool->maxThreadCount();
  QSemaphore there, go;
  for (int k = 0; k < all; ++k)
    pool->start([&] {
      there.release();
      go.acquire();
    });
  there.acquire(all);  // each has a thread of its own by then
  go.release(all);
  pool->waitForDone();
}

}  // namespace cinnabar
