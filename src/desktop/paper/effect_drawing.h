// What papers draw of a practical effect: from the side and to scale, where things are at every recorded frame.
#pragma once
#include "cinnabar/desktop/paper/page.h"
#include "cinnabar/scene/effects_staged.h"

namespace cinnabar::paper {

/// All effects of a shot and the products that stand there, in the upright plane in which they go farthest; the
/// scale that it has, 0 where nothing of them has a place.
int drawEffectsAside(Page& page, const Project& project, const Shot& shot, const ToldEffects& effects, double x,
                     double y, double w, double h);

}  // namespace cinnabar::paper
