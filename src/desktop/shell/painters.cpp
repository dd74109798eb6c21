#include "cinnabar/desktop/shell/painters.h"

#include <QThreadPool>

#include "cinnabar/desktop/workers/turns.h"

// Qt's raster engine parts a fill of many spans, and a conversion of many lines, among its pool unless whoever
// paints is of the pool itself: nothing else asks this. A program's own definition comes before a library's
// (ld.so(8)), so every thread is told to be of it, and paints alone.
bool QThreadPool::contains(const QThread*) const { return true; }

namespace cinnabar {

void paintAloneAndFirst() { takeTurns(::getpriority(PRIO_PROCESS, 0), 100'000); }

}  // namespace cinnabar
