// Levels by the table, and who brings them home.
#include <algorithm>
#include <cmath>
#include <memory>

#include "cinnabar/base/words.h"
#include "cinnabar/forecast/level_table.h"

namespace cinnabar {
namespace {

std::vector<std::string> ids_of(bool spot) {
  std::vector<std::string> list;
  for (const LevelRow& row : level_table())
    if ((row.group == Group::spot) == spot) list.emplace_back(row.id);
  return list;
}

/// Sentences with numbers were put into words piece by piece; plain ones are looked up here.
Level worded(Level level) {
  for (std::string* text : {&level.title, &level.sentence, &level.source}) *text = in_words(text->c_str());
  return level;
}

std::vector<Level> spot_by(const SpotContext& context, const std::string& id) {
  std::vector<Level> list;
  for (const LevelRow& row : level_table())
    if (row.of_spot && (id.empty() || id == row.id))
      if (auto level = row.of_spot(context, LevelStart(row, context.project)))
        list.push_back(worded(std::move(*level)));
  return list;
}

}  // namespace

Level LevelStart::operator()() const { return (*this)(row_.band); }
Level LevelStart::operator()(const Band& usual) const { return (*this)(usual, row_.source); }
Level LevelStart::by(const std::string& source) const { return (*this)(row_.band, source); }
Level LevelStart::operator()(const Band& usual, const std::string& source) const {
  Level level{.id = row_.id, .title = row_.title, .unit = row_.unit, .band = usual, .source = source};
  if (const auto own = project_.bands.find(level.id); own != project_.bands.end()) {
    if (own->second.has_low) level.band.low = own->second.low;
    if (own->second.has_high) level.band.high = own->second.high;
    level.source += "; the band is this project's own" +
                    (own->second.reason.empty() ? std::string() : ": " + own->second.reason);
  }
  return level;
}

bool is_of_spot(const std::string& id) {
  const LevelRow* row = level_row(id);
  return row && row->group == Group::spot;
}
const std::vector<std::string>& level_ids() {
  static const std::vector<std::string> ids = ids_of(false);
  return ids;
}
const std::vector<std::string>& spot_level_ids() {
  static const std::vector<std::string> ids = ids_of(true);
  return ids;
}

std::vector<Level> Forecaster::levels(const Project& project, std::size_t shot, const std::string& id,
                                      const std::atomic<bool>* cancel) const {
  std::vector<Level> list;
  if (shot >= project.shots.size()) return list;
  const ShotContext context(project, shot, *measures_, quality_, cancel);
  for (const LevelRow& row : level_table()) {
    if (!row.of_shot || (!id.empty() && id != row.id) || !row.shown(context)) continue;
    if (auto level = row.of_shot(context, LevelStart(row, project))) {
      level->sure = !row.sampled || quality_.passes >= full_measure.passes;
      list.push_back(worded(std::move(*level)));
    }
    if (context.cancelled()) return {};
  }
  return list;
}

namespace {

/// The standard error of a level's value from independent batches of its measure; nothing where too few have one.
/// Medians and extremes of noisy pixels lie off by their noise besides, about as its variance: how far the
/// batches, each an eighth of the passes, lie off in the mean tells how far the whole does (Quenouille 1956: a
/// seventh; seen against 128 passes it is up to twice that, so a quarter is counted).
std::optional<double> error_of(const LevelRow& row, const std::vector<std::unique_ptr<ShotContext>>& batches,
                               const Project& project, double value) {
  double sum = 0.0, squares = 0.0;
  int count = 0;
  for (const auto& batch : batches)
    if (const auto level = row.of_shot(*batch, LevelStart(row, project)); level && level->value) {
      sum += *level->value, squares += *level->value * *level->value;
      ++count;
    }
  if (count < error_batches / 2) return std::nullopt;
  const double variance = std::max(0.0, (squares - sum * sum / count) / (count - 1));
  return std::hypot(std::sqrt(variance / count), (value - sum / count) / 4.0);
}

}  // namespace

std::vector<Level> Forecaster::sure_levels(const Project& project, std::size_t shot, const std::string& id,
                                           const std::atomic<bool>* cancel, const Round& round) const {
  std::vector<Level> list = levels(project, shot, id, cancel);
  if (list.empty()) return list;
  const Forecaster* by = this;
  std::optional<Forecaster> closer;
  for (int passes = quality_.passes; passes >= full_measure.passes; passes *= 2) {
    std::vector<std::unique_ptr<ShotContext>> batches;
    const bool last = 2 * passes > most_passes;
    bool all_sure = true;
    for (Level& level : list) {
      const LevelRow* row = level_row(level.id);
      if (!row || !row->sampled || !level.value || (passes > quality_.passes && level.sure)) continue;
      if (passes > quality_.passes) {
        auto anew = by->levels(project, shot, level.id, cancel);
        if (cancel && cancel->load()) return {};
        if (anew.empty() || !anew[0].value) continue;
        level = std::move(anew[0]);
      }
      if (batches.empty())
        for (int b = 0; b < error_batches; ++b) {
          batches.push_back(std::make_unique<ShotContext>(project, shot, *measures_, by->quality_, cancel));
          batches.back()->batch = b;
        }
      level.error = error_of(*row, batches, project, *level.value);
      if (cancel && cancel->load()) return {};
      level.sure = last || !level.error || sure_of(*level.value, *level.error, level.band);
      all_sure = all_sure && level.sure;
    }
    if (all_sure) break;
    if (round) round(list);
    MeasureQuality more = quality_;
    more.passes = 2 * passes;
    more.paths = quality_.paths * more.passes / quality_.passes;
    closer.emplace(with_quality(more));
    by = &*closer;
  }
  return list;
}

std::vector<Level> spot_levels(const Project& project) { return spot_by({project, {}}, {}); }

std::vector<Level> Forecaster::spot(const Project& project, const std::string& id,
                                    const std::atomic<bool>* cancel) const {
  const SpotContext context{project, [&](std::size_t shot, const Product& product, const Feature& feature) {
                              const ShotContext own(project, shot, *measures_, quality_, cancel);
                              return feature_seen(own, product, feature);
                            }};
  auto list = spot_by(context, id);
  return cancel && cancel->load() ? spot_by({project, {}}, id) : list;
}

Forecaster::Levers Forecaster::spot_levers(const Document& document, const std::string& id,
                                           const std::atomic<bool>* cancel) const {
  ProjectReader reader;
  const Project project = reader.read(document);
  const auto own = spot(project, id, cancel);
  const auto level = std::find_if(own.begin(), own.end(), [&](const Level& l) { return l.id == id; });
  const LevelRow* row = level_row(id);
  if (level == own.end() || !row) return {};
  if (level->state == State::level) return {{}, "it is level"};
  return row->spot_levers ? row->spot_levers(*this, document, project, *level, cancel)
                          : Levers{{}, in_words(row->why)};
}

}  // namespace cinnabar
