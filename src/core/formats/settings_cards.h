// What to dial in, shot by shot, for the set.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// One card a shot, in the order of a camera's menus in general: recording, shutter, ISO, white, lens, focus; then
/// what is locked, the lights as they are dimmed, what moves, and the tests to make before the first take.
struct SettingsCard {
  struct Row {
    std::string what, value;
  };
  std::string title;
  std::vector<Row> rows;  ///< none where the shot has nothing to dial in yet
};
[[nodiscard]] SettingsCard settings_card(const Project& project, std::size_t shot);
/// All of them as text.
[[nodiscard]] std::string settings_cards(const Project& project);

}  // namespace cinnabar
