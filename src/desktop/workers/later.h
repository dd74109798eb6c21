// From a worker back to the interface thread.
#pragma once
#include <QCoreApplication>
#include <QPointer>
#include <utility>

namespace cinnabar {

/// Does `then` on the interface thread, after what waits there already, unless `whose` is gone by then. May be
/// called from any thread.
template <class T, class F>
void later(const QPointer<T>& whose, F then) {
  QMetaObject::invokeMethod(
      QCoreApplication::instance(),
      [whose, then = std::move(then)] {
        if (whose) then();
      },
      Qt::QueuedConnection);
}

}  // namespace cinnabar
