// What assistive programs are told of the widgets that are painted by hand: their roles and the numbers they hold.
#pragma once

namespace cinnabar {

/// Once, before the first window.
void installAccessibility();

}  // namespace cinnabar
