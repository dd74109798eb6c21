#include "cinnabar/forecast/levers/knobs.h"

#include "cinnabar/base/words.h"
#include "cinnabar/forecast/level_table.h"
#include "cinnabar/forecast/levers/bench.h"

namespace cinnabar {

KnobList knobs_for(const Document& document, const Project& project, std::size_t shot, const Level& level) {
  KnobList out;
  const LevelRow* row = level_row(level.id);
  if (!row) return out;
  // The knobs refer to the bench for as long as they live: it is kept alive by each of them.
  const auto bench = std::make_shared<Bench>(document, project, shot);
  for (const KnobMaker make : row->knobs) make(*bench, out.knobs);
  out.why = in_words(row->why);
  for (Knob& k : out.knobs) {
    k.apply = [bench, apply = std::move(k.apply)](const Document& d, double v) { return apply(d, v); };
    k.title = [bench, title = std::move(k.title)](double v) { return title(v); };
  }
  return out;
}

}  // namespace cinnabar
