// Levels by the table, and who brings them home.
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <memory>
#include <set>

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

namespace {

using Ids = std::vector<std::string>;
Ids only(const std::string& id) { return id.empty() ? Ids{} : Ids{id}; }

/// Levels of a context; only `ids` where there are any. Empty when cancelled.
std::vector<Level> levels_in(const ShotContext& context, const Ids& ids) {
  const auto asked = [&ids](const LevelRow& row) {
    return ids.empty() || std::find(ids.begin(), ids.end(), row.id) != ids.end();
  };
  std::vector<const LevelRow*> rows;
  for (const LevelRow& row : level_table())
    if (row.of_shot && asked(row) && row.shown(context)) rows.push_back(&row);
  // The light is measured once, on all cores, before the levels that read it are told on all cores.
  if (std::any_of(rows.begin(), rows.end(), [](const LevelRow* row) { return row->by_film(); }))
    (void)context.light();
  std::vector<std::optional<Level>> told(rows.size());
  tbb::parallel_for(std::size_t{0}, rows.size(), [&](std::size_t i) {
    if (context.cancelled()) return;
    told[i] = rows[i]->of_shot(context, LevelStart(*rows[i], context.project));
    if (told[i]) told[i]->sure = !rows[i]->by_film() || context.quality.passes >= full_measure.passes;
  });
  std::vector<Level> list;
  for (auto& level : told)
    if (level) list.push_back(worded(std::move(*level)));
  return context.cancelled() ? std::vector<Level>{} : list;
}

/// The same quality where only these levels read, if there are any: nothing else is measured.
MeasureQuality reading(MeasureQuality quality, const Ids& ids) {
  unsigned reads = reads_nothing;
  for (const std::string& id : ids)
    if (const LevelRow* row = level_row(id); row && row->by_film()) reads |= row->reads;
  if (reads != reads_nothing) quality.reads = reads;
  return quality;
}

/// The standard error of a level's value, by the jackknife over independent batches of its measure: from how it
/// changes when one of them is left out (Tukey 1958), and by how much it lies off in the mean then as far as that
/// is more than chance, since medians and extremes of noisy pixels lie off by their noise (Quenouille 1956).
/// Nothing where too few have one.
std::optional<double> error_of(const LevelRow& row, const std::vector<ShotContext>& without, const Level& level) {
  double sum = 0.0, squares = 0.0;
  int count = 0;
  for (const ShotContext& context : without)
    if (const auto part = row.of_shot(context, LevelStart(row, context.project)); part && part->value) {
      // At the moment at which the whole is worst: two that stand equally far out to either side are no spread.
      const auto same = std::find_if(part->moments.begin(), part->moments.end(),
                                     [&](const MomentValue& m) { return m.set_time == level.set_time; });
      const double off = (same == part->moments.end() ? *part->value : same->value) - *level.value;
      sum += off, squares += off * off;
      ++count;
    }
  if (count < error_batches / 2) return std::nullopt;
  const double mean = sum / count, spread = std::max(0.0, squares - sum * mean);
  const double error = std::sqrt(spread * (count - 1) / count), bias = (count - 1) * std::abs(mean);
  return std::hypot(error, std::max(0.0, bias - error));
}

/// The moments at which a level may be worst: those that lie within three errors of the worst, or the worst four
/// as long as its error is not known. Nothing where it does not say how it stands at each.
std::vector<double> near_worst(const Level& level) {
  std::vector<std::pair<double, double>> by_badness;
  for (const MomentValue& m : level.moments) by_badness.emplace_back(badness(m.value, level.band), m.set_time);
  std::sort(by_badness.begin(), by_badness.end(), std::greater<>());
  std::vector<double> times;
  for (const auto& [bad, t] : by_badness)
    if (level.error ? bad >= by_badness.front().first - 3.0 * *level.error : times.size() < 4) times.push_back(t);
  return times;
}

/// Those that any of the levels needs, ascending; all of `moments` where one does not say which.
std::vector<double> needed(const std::vector<const Level*>& levels, const std::vector<LightMoment>& moments) {
  std::set<double> times;
  for (const Level* level : levels) {
    auto own = near_worst(*level);
    if (own.empty())
      for (const LightMoment& m : moments) own.push_back(m.set_time);
    times.insert(own.begin(), own.end());
  }
  return {times.begin(), times.end()};
}

}  // namespace

std::vector<Level> Forecaster::levels(const Project& project, std::size_t shot, const std::string& id,
                                      const std::atomic<bool>* cancel) const {
  return some_levels(project, shot, only(id), cancel);
}

std::vector<Level> Forecaster::some_levels(const Project& project, std::size_t shot, const Ids& ids,
                                           const std::atomic<bool>* cancel) const {
  if (shot >= project.shots.size()) return {};
  return levels_in(ShotContext(project, shot, *measures_, reading(quality_, ids), cancel), ids);
}

std::vector<Level> Forecaster::sure_levels(const Project& project, std::size_t shot, const std::string& id,
                                           const std::atomic<bool>* cancel, const Round& round) const {
  if (shot >= project.shots.size()) return {};
  MeasureQuality quality = reading(quality_, only(id));
  std::optional<ShotContext> context(std::in_place, project, shot, *measures_, quality, cancel);
  std::vector<Level> list = levels_in(*context, only(id));
  std::vector<std::size_t> open;  // places of those found by sampling, as long as they are not sure
  for (std::size_t i = 0; i < list.size(); ++i)
    if (const LevelRow* row = level_row(list[i].id); row && row->sampled() && list[i].value) open.push_back(i);
  const auto times_of_open = [&] {
    std::vector<const Level*> levels;
    for (const std::size_t i : open) levels.push_back(&list[i]);
    return needed(levels, context->light());
  };
  for (; quality.passes >= full_measure.passes && !open.empty(); quality.passes *= 2) {
    if (quality.passes > quality_.passes) {
      // Closer only at the moments, and for the levels, that are not sure yet.
      quality.paths = quality_.paths * quality.passes / quality_.passes;
      quality.only_at = times_of_open();
      quality.reads = reads_nothing;
      for (const std::size_t i : open) quality.reads |= level_row(list[i].id)->reads;
      context.emplace(project, shot, *measures_, quality, cancel);
      for (const std::size_t i : open) {
        auto anew = levels_in(*context, only(list[i].id));
        if (context->cancelled()) return {};
        if (!anew.empty() && anew[0].value) list[i] = std::move(anew[0]);
      }
    }
    std::vector<ShotContext> without;
    const auto times = times_of_open();
    for (int b = 0; b < error_batches; ++b) without.push_back(context->without_batch(b, times));
    tbb::parallel_for(std::size_t{0}, open.size(), [&](std::size_t place) {
      Level& level = list[open[place]];
      level.error = error_of(*level_row(level.id), without, level);
      level.sure = 2 * quality.passes > quality.most_passes || !level.error ||
                   sure_of(*level.value, *level.error, level.band);
    });
    if (context->cancelled()) return {};
    std::erase_if(open, [&](std::size_t i) { return list[i].sure; });
    if (!open.empty() && round) round(list);
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
