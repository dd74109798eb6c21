// Fewer: which light a set-up can do without.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

/// A set-up with one light less.
struct WithoutLight {
  std::string id, name;
  Document after;
  std::vector<MovedLevel> worse;  ///< levels of any shot on the set-up that leave their state for a worse one
  std::vector<MovedLevel> better;
};
/// Each light of the shot's set-up that is on, switched off by itself; those that nothing is worse without first,
/// then the least harmful. Every shot on the set-up is looked at. Fails where the shot has no set-up.
[[nodiscard]] Expected<std::vector<WithoutLight>> fewer_lights(const Forecaster& forecaster,
                                                               const Document& document, std::size_t shot,
                                                               const std::atomic<bool>* cancel = nullptr);

}  // namespace cinnabar
