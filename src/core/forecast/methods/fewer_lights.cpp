#include "cinnabar/forecast/methods/fewer_lights.h"

#include <fmt/format.h>

#include <algorithm>

#include "cinnabar/forecast/levers/bench.h"
#include "cinnabar/project/document/variations.h"

namespace cinnabar {

Expected<std::vector<WithoutLight>> fewer_lights(const Forecaster& forecaster, const Document& document,
                                                 std::size_t shot, const std::atomic<bool>* cancel) {
  ProjectReader reader;
  const Project project = reader.read(document);
  if (shot >= project.shots.size()) return fail("shot", "is none of the project", "add one");
  const Bench b(document, project, shot);
  if (!b.setup) return fail(fmt::format("shot {}", shot + 1), "has no set-up", "give it one");
  std::vector<std::size_t> shots;  // all that stand on it
  std::vector<std::vector<Level>> before;
  const auto along = setups_along(document, b.shot.setup);
  for (std::size_t s = 0; s < project.shots.size(); ++s)
    if (along.contains(project.shots[s]->setup)) {
      shots.push_back(s);
      before.push_back(forecaster.levels(project, s, {}, cancel));
    }
  std::vector<WithoutLight> list;
  const auto lit =
      std::count_if(b.setup->lights.begin(), b.setup->lights.end(), [](const Light& l) { return l.on; });
  if (lit < 2 && b.setup->ambient_lx <= 0.0) return list;  // there would be none
  for (std::size_t l = 0; l < b.setup->own_lights(); ++l) {
    const Light& light = b.setup->lights[l];
    if (cancel && cancel->load()) return list;
    auto after = light.on ? set(document, b.light_path(l) + "/on", false) : std::nullopt;
    if (!after) continue;
    const Project then = reader.read(*after);
    WithoutLight one{light.id, light.name, *std::move(after), {}, {}};
    for (std::size_t s = 0; s < shots.size(); ++s) {
      const auto levels = forecaster.levels(then, shots[s], {}, cancel);
      for (const Level& was : before[s]) {
        const auto now =
            std::find_if(levels.begin(), levels.end(), [&](const Level& level) { return level.id == was.id; });
        if (now == levels.end()) continue;  // it was of the light alone
        const int moved = worse_by(was, *now);
        const std::optional<std::size_t> other = shots[s] == shot ? std::nullopt : std::optional(shots[s]);
        if (moved > 0) one.worse.push_back({other, was, *now});
        if (moved < 0) one.better.push_back({other, was, *now});
      }
    }
    list.push_back(std::move(one));
  }
  const auto harm = [](const WithoutLight& one) {
    int sum = 0;
    for (const MovedLevel& m : one.worse) sum += std::max(1, weight_of(m.after.state) - weight_of(m.before.state));
    return sum;
  };
  std::stable_sort(list.begin(), list.end(),
                   [&](const WithoutLight& a, const WithoutLight& c) { return harm(a) < harm(c); });
  return list;
}

}  // namespace cinnabar
