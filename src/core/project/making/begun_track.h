// A track as it begins when it is added: two keys, from what stands in the shot to a small move of it.
#pragma once
#include <string>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// From the start of the shot to its end; without keys where the target names nothing that is there.
[[nodiscard]] KeyedTrack begun_track(const Project& project, const Shot& shot, const std::string& target);

}  // namespace cinnabar
