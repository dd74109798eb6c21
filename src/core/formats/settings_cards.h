// What to dial in, shot by shot, as text for the set.
#pragma once
#include <string>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// One card a shot, in the order of a camera's menus in general: recording, shutter, ISO, white, lens, focus; then
/// what is locked, the lights as they are dimmed, what moves, and the tests to make before the first take.
[[nodiscard]] std::string settings_cards(const Project& project);

}  // namespace cinnabar
