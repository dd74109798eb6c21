#include "cinnabar/forecast/touched.h"

#include <algorithm>

#include "cinnabar/forecast/levers/turning.h"
#include "cinnabar/project/document/variations.h"

namespace cinnabar {
namespace {

std::vector<MovedLevel> moved_levels(const std::vector<Level>& before, const std::vector<Level>& after,
                                     std::size_t shot) {
  std::vector<MovedLevel> moved;
  for (const Level& now : after)
    if (const Level* was = level_named(before, now.id); was && has_moved(*was, now, true))
      moved.push_back({shot, *was, now});
  worst_first(moved);
  return moved;
}

}  // namespace

std::vector<Touched> touched(const Forecaster& forecaster, const Document& before, const Document& after,
                             std::optional<std::size_t> own, const std::atomic<bool>* cancel) {
  ProjectReader reader;
  const Project was = reader.read(before), is = reader.read(after);
  const Forecaster rough = roughly(forecaster);
  std::vector<Touched> out;
  for (const std::size_t shot : touched_shots(before, after)) {
    if (shot == own) continue;
    const auto then_there = std::find_if(was.shots.begin(), was.shots.end(),
                                         [&](const auto& s) { return s->id == is.shots[shot]->id; });
    const auto then_at = static_cast<std::size_t>(then_there - was.shots.begin());
    Touched one{shot, {}};
    for (const Forecaster* by : {&rough, &forecaster}) {
      const auto then = by->levels(was, then_at, {}, cancel), now = by->levels(is, shot, {}, cancel);
      if (cancel && cancel->load()) return {};
      one.moved = moved_levels(then, now, shot);
      if (one.moved.empty()) break;  // with the same samples: nor would it closely
    }
    out.push_back(std::move(one));
  }
  return out;
}

}  // namespace cinnabar
