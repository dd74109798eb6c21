// Effects asked of their kinds with some of their measures, the others as usual.
#pragma once
#include <map>
#include <string>
#include <vector>

#include "cinnabar/effects/kinds.h"

namespace cinnabar {

using Measures = std::map<std::string, std::vector<double>>;
inline Expected<EffectOutcome> of(const std::string& id, const Measures& given, const Vec3& place,
                                  const EffectPlace& about = {}, double at = 1.0, std::uint64_t seed = 1) {
  const EffectKind& kind = *effect_kind(id);
  auto measures = measures_of(kind, given, "");
  if (!measures) return tl::unexpected(measures.error());
  return kind.outcome({std::move(*measures), place, at, seed, about});
}

}  // namespace cinnabar
