// Prices: exact levels by the change itself, sampled ones by the difference of two rough looks with the same
// samples.
#include "cinnabar/forecast/levers/pricing.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/context.h"
#include "cinnabar/forecast/levers/turning.h"
#include "cinnabar/forecast/measures/gear_seen.h"
#include "cinnabar/planning/packing.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/document/variations.h"

namespace cinnabar {
namespace {

/// Share of the picture that gear takes up, at the moment where it is most.
double most_gear(const Project& project, std::size_t shot, const Forecaster& forecaster,
                 const std::atomic<bool>* cancel) {
  MeasureQuality quality = forecaster.quality();
  quality.reads = reads_nothing;  // what is met first is enough
  const ShotContext context(project, shot, forecaster.measures(), quality, cancel);
  double most = 0.0;
  if (context.setup)
    for (const Covered& seen : gear_in_pictures(project, context.shot, *context.setup, context.light()))
      most = std::max(most, seen.percent / 100.0);
  return most;
}

/// The same forecaster not seeking for ever to tell a level that stands at an edge.
Forecaster quickly(const Forecaster& f) {
  MeasureQuality quality = f.quality();
  quality.most_passes = 32;
  return f.with_quality(quality);
}

/// Levels whose state a lever changes; of its own shot also those that it moves by a quarter of their band or
/// more.
void add_moved(Lever& lever, const std::vector<Level>& before, const std::vector<Level>& after,
               const std::string& own, const std::optional<std::size_t>& shot) {
  for (const Level& now : after) {
    const Level* was = level_named(before, now.id);
    if (now.id != own && was && has_moved(*was, now, !shot)) lever.moved.push_back({shot, *was, now});
  }
}

/// The set times at which levels are worst, ascending.
std::vector<double> moments_of(std::initializer_list<const Level*> levels) {
  std::set<double> times;
  for (const Level* level : levels)
    if (level->set_time) times.insert(*level->set_time);
  return {times.begin(), times.end()};
}

bool is_unsure(const std::vector<Level>& own) {
  return !own.empty() && own[0].value && own[0].error && !sure_of(*own[0].value, *own[0].error, own[0].band);
}

/// Whether a value that errs by so much may be no level one.
bool on_edge_within(double value, double err, const Band& band) {
  return state_of(value - err, band) != State::level || state_of(value + err, band) != State::level;
}

/// Whether a value that a difference of so much brought here may lie on the other side of an edge between states:
/// the difference is known to a quarter.
bool on_edge(double value, double difference, const Band& band) {
  const double margin = 0.25 * std::abs(difference) + 0.02 * width_of(band);
  return state_of(value - margin, band) != state_of(value, band) ||
         state_of(value + margin, band) != state_of(value, band);
}

}  // namespace

Pricing::Pricing(const Forecaster& forecaster, const Document& document, const Project& project, std::size_t shot,
                 const std::vector<Level>& before, std::string own, const std::atomic<bool>* cancel)
    : forecaster_(quickly(forecaster)),
      patient_(forecaster),
      rough_(roughly(forecaster)),
      document_(document),
      project_(project),
      shot_(shot),
      before_(before),
      own_(std::move(own)),
      cancel_(cancel),
      rough_before_(rough_.levels(project, shot, {}, cancel)),
      times_(times_of(project)),
      spot_(spot_levels(project)),
      gear_(most_gear(project, shot, rough_, cancel)) {
  const auto along = setups_along(document, project.shots[shot]->setup);
  for (std::size_t i = 0; i < project.shots.size(); ++i)
    if (i != shot && along.contains(project.shots[i]->setup))
      others_.push_back({i, rough_.levels(project, i, {}, cancel)});
  if (const Level* was = level_named(before, own_); was && was->moments.size() > worst_moments)
    if (auto rough = only_at(rough_, times_).levels(project, shot, own_, cancel); !rough.empty())
      rough_own_ = std::move(rough[0].moments);
}

std::vector<Level> Pricing::levels_after(const Project& changed) const {
  std::vector<Level> after = rough_.levels(changed, shot_, {}, cancel_);
  std::optional<std::vector<double>> all;  // moments
  for (Level& level : after) {
    if (level.sure || level.id == own_ || !level.value) continue;
    const Level *was = level_named(before_, level.id), *roughly_was = level_named(rough_before_, level.id);
    if (!was || !roughly_was || !was->value || !roughly_was->value) continue;
    const double difference = *level.value - *roughly_was->value;
    if (difference == 0.0 && level.state == roughly_was->state) {
      level.value = was->value, level.state = was->state;
      continue;
    }
    if (level.state != state_of(*level.value, level.band)) continue;  // not told by its value alone
    level.value = *was->value + difference;
    level.state = state_of(*level.value, level.band);
    if (level.state == was->state && !on_edge(*level.value, difference, level.band)) continue;
    // What was worst before may be no moment that is looked at now: another rate or move has moments of its own.
    auto times = moments_of({was, &level});
    if (!all) all = times_of(changed);
    std::erase_if(times, [&](double t) {
      return std::none_of(all->begin(), all->end(), [t](double now) { return std::abs(now - t) < 1e-9; });
    });
    if (times.empty()) times = moments_of({&level});
    auto close = only_at(forecaster_, std::move(times)).levels(changed, shot_, level.id, cancel_);
    if (!close.empty() && close[0].value) level = std::move(close[0]);
  }
  return after;
}

std::vector<Level> Pricing::own_after(const Project& changed, bool patiently) const {
  const Level* was = level_named(before_, own_);
  const auto all = times_of(changed);
  if (!was || was->moments.size() <= worst_moments || rough_own_.size() != was->moments.size() || all != times_)
    return surely(changed, {}, patiently);
  // Every moment by the difference of two rough looks; then closely where it would be worst, lowest and highest.
  const auto rough = only_at(rough_, all).levels(changed, shot_, own_, cancel_);
  if (rough.empty() || rough[0].moments.size() != was->moments.size()) return surely(changed, {}, patiently);
  std::vector<MomentValue> then = rough[0].moments;
  for (std::size_t i = 0; i < then.size(); ++i) then[i].value += was->moments[i].value - rough_own_[i].value;
  std::set<double> closely;
  const auto take = [&](const auto& first) {
    std::sort(then.begin(), then.end(), first);
    for (std::size_t i = 0; i < worst_moments / 2; ++i) closely.insert(then[i].set_time);
  };
  take([](const MomentValue& a, const MomentValue& b) { return a.value < b.value; });
  take([](const MomentValue& a, const MomentValue& b) { return a.value > b.value; });
  auto own = surely(changed, {closely.begin(), closely.end()}, patiently);
  if (own.empty() || own[0].state != State::level) return own;
  // Where the others may err as much as these did and one of them could be out, it is looked at as well.
  double err = 0.0;
  for (const MomentValue& seen : own[0].moments)
    for (const MomentValue& guessed : then)
      if (std::abs(seen.set_time - guessed.set_time) < 1e-9)
        err = std::max(err, std::abs(seen.value - guessed.value));
  const std::size_t looked = closely.size();
  for (const MomentValue& guessed : then)
    if (on_edge_within(guessed.value, err, own[0].band)) closely.insert(guessed.set_time);
  return closely.size() > looked ? surely(changed, {closely.begin(), closely.end()}, patiently) : own;
}

/// At those moments, all where there are none: quickly, and where that is not sure as it will be told once
/// applied.
std::vector<Level> Pricing::surely(const Project& changed, const std::vector<double>& times,
                                   bool patiently) const {
  const auto with = [&](const Forecaster& f) {
    return (times.empty() ? f : only_at(f, times)).sure_levels(changed, shot_, own_, cancel_);
  };
  auto own = with(forecaster_);
  if (patiently && is_unsure(own)) own = with(patient_);
  return own;
}

std::vector<double> Pricing::times_of(const Project& project) const {
  return ShotContext(project, shot_, forecaster_.measures(), forecaster_.quality(), cancel_).light_times();
}

std::string Pricing::told_of_others(const Document& document, const Project& changed, Lever& lever) const {
  std::string effects, untouched;
  const std::vector<std::size_t> shots = touched_shots(document_, document);
  const std::set<std::size_t> reached(shots.begin(), shots.end());
  for (const Other& other : others_) {
    if (!reached.contains(other.shot)) continue;
    std::vector<Level> before = other.before, after = rough_.levels(changed, other.shot, {}, cancel_);
    for (Level& level : after) {
      Level* was = level_named(before, level.id);
      if (level.sure || !was || was->state == level.state) continue;
      // Only what a closer look sees too is told.
      const Forecaster close = only_at(forecaster_, moments_of({&level}));
      auto then = close.levels(changed, other.shot, level.id, cancel_);
      auto now = close.levels(project_, other.shot, level.id, cancel_);
      if (then.empty() || now.empty()) continue;
      level = std::move(then[0]), *was = std::move(now[0]);
    }
    const std::string words = told_effects(before, after, {}, lever.harm);
    add_moved(lever, before, after, {}, other.shot);
    if (words.empty())
      untouched += (untouched.empty() ? "" : ", ") + std::to_string(other.shot + 1);
    else
      effects += said("; in shot {}: {}", other.shot + 1, words);
  }
  if (!untouched.empty())
    effects += said("; the set-up is shared with shot {}, no level of which changes its state", untouched);
  return effects;
}

std::optional<Pricing::Priced> Pricing::priced(const Turned& change, const Asked& asked) const {
  const Edit edit = edit_between(document_, change.document, change.title);
  if (edit.changes.empty() || !validate(change.document, edit).empty()) return std::nullopt;
  ProjectReader reader;
  const Project changed = reader.read(change.document);
  const std::string short_of = newly_short(project_, changed);
  if (asked.owned && !short_of.empty()) return std::nullopt;
  if (most_gear(changed, shot_, rough_, cancel_) > gear_ + 0.001) return std::nullopt;
  // Verified: it must come home, as surely as it is told.
  const auto own = own_after(changed, !asked.unsure);
  if (asked.unsure && is_unsure(own)) {
    *asked.unsure = true;
    return std::nullopt;
  }
  if (own.empty() || own[0].state != State::level) return std::nullopt;
  if (own[0].error && !sure_of(*own[0].value, *own[0].error / 3.0, own[0].band)) return std::nullopt;  // hardly
  Priced out{{.title = change.title,
              .edit = edit,
              .after = *own[0].value,
              .state_after = own[0].state,
              .minutes = change.minutes},
             levels_after(changed)};
  Lever& lever = out.lever;
  const std::string effects = told_effects(before_, out.after, own_, lever.harm);
  const std::vector<Level> spot = spot_levels(changed);
  const std::string of_spot = told_effects(spot_, spot, own_, lever.harm);
  if (lever.harm >= asked.less_harm) return std::nullopt;
  add_moved(lever, before_, out.after, own_, {});
  const std::string of_others = change.shared ? told_of_others(change.document, changed, lever) : std::string();
  if (lever.harm >= asked.less_harm) return std::nullopt;
  lever.price = change.minutes > 0 ? said("{} min", number_text(change.minutes, 2)) : said("no time");
  if (!change.gear.empty()) lever.needs = said("needs {}", change.gear);
  if (!short_of.empty()) {
    lever.not_owned = true;
    lever.needs += (lever.needs.empty() ? "" : ", ") + said("not owned: {}", short_of);
  }
  if (!lever.needs.empty()) lever.price += ", " + lever.needs;
  lever.price += "; " + (effects.empty() ? std::string("no other level changes its state") : effects) + of_others;
  if (!of_spot.empty()) lever.price += said("; of the spot: {}", of_spot);
  add_moved(lever, spot_, spot, own_, {});
  worst_first(lever.moved);
  return cancel_ && cancel_->load() ? std::nullopt : std::optional(std::move(out));
}

std::optional<Level> Pricing::most_harmed(const std::vector<Level>& after) const {
  const Level* most = nullptr;
  int step = 0;
  for (const Level& level : after) {
    const Level* was = level_named(before_, level.id);
    if (level.id == own_ || !level.value || !was) continue;
    const int harm = weight_of(level.state) - weight_of(was->state);
    if (harm > step) step = harm, most = &level;
  }
  return most ? std::optional(*most) : std::nullopt;
}

}  // namespace cinnabar
