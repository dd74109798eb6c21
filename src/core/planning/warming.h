// Lamps that have to burn a while before their light keeps still, and are left burning then.
#pragma once
#include <optional>
#include <string>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// Minutes from switching on until the light keeps still, by the kit that it is of; 0 where it needs none or is
/// not known.
[[nodiscard]] double warm_up_minutes(const Project& project, const Light& light);

/// The lamp that takes longest.
struct WarmUp {
  std::string name;
  double minutes;
};
/// Of the set-up's lamps that are on; nothing where none has to warm up.
[[nodiscard]] std::optional<WarmUp> longest_warm_up(const Project& project, const Setup& setup);

}  // namespace cinnabar
