#include "cinnabar/planning/warming.h"

#include "cinnabar/base/text.h"

namespace cinnabar {

double warm_up_minutes(const Project& project, const Light& light) {
  if (light.daylight) return 0.0;
  const LightKit* kit = by_id(project.light_kits, light.kit);
  return kit ? kit->warm_up_minutes : 0.0;
}

std::optional<WarmUp> longest_warm_up(const Project& project, const Setup& setup) {
  std::optional<WarmUp> longest;
  for (const Light& light : setup.lights)
    if (const double minutes = warm_up_minutes(project, light);
        light.on && minutes > 0.0 && (!longest || minutes > longest->minutes))
      longest = WarmUp{name_or(light.name, light.id), minutes};
  return longest;
}

}  // namespace cinnabar
