// The board for the crew: three shots a page in the order in which they are shot, each with its picture, the floor
// to scale and what everything is set to. Legible in grey.
#pragma once
#include "cinnabar/desktop/paper/shot_cards.h"

namespace cinnabar {

/// Draws it on a device of A4 pages without margins.
void paintCrewBoard(QPagedPaintDevice& device, const Project& project, const std::vector<CardContent>& contents);

}  // namespace cinnabar
