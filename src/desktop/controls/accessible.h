// What assistive programs are told of the widgets that are painted by hand: their roles, the numbers they hold,
// and their parts (controls/painted.h).
#pragma once

namespace cinnabar {

/// Once, before the first window.
void installAccessibility();

}  // namespace cinnabar
