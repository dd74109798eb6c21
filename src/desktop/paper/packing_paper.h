// The packing list on paper.
#pragma once
#include <QPagedPaintDevice>
#include <QString>

#include "cinnabar/base/result.h"
#include "cinnabar/planning/packing.h"

namespace cinnabar {

/// A box to tick for everything that is carried in, what is short in bold with what it costs; A4 pages.
void paintPacking(QPagedPaintDevice& device, const Project& project, const Packing& packing);

}  // namespace cinnabar
