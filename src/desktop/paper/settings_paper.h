// What to dial in, on paper: a card a shot, to be read at arm's length.
#pragma once
#include <QPagedPaintDevice>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

void paintSettings(QPagedPaintDevice& device, const Project& project);

}  // namespace cinnabar
