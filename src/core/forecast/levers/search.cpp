// Levers: each knob is turned by staging the changed shot until the level is home, by the smallest step that does.
// The search looks roughly; what it finds is looked at again as closely as was asked.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/context.h"
#include "cinnabar/forecast/levers/knobs.h"
#include "cinnabar/planning/house.h"
#include "cinnabar/planning/packing.h"
#include "cinnabar/project/checks/validation.h"

namespace cinnabar {
namespace {

/// The same forecaster looking no closer than a search needs.
Forecaster roughly(const Forecaster& f) {
  return f.with_quality(f.quality().passes > search_measure.passes ? search_measure : f.quality());
}

/// The same looking only at the moment at which the level is worst.
Forecaster at_worst(const Forecaster& f, const Level& level) {
  MeasureQuality quality = f.quality();
  quality.only_at = level.set_time;
  return f.with_quality(quality);
}

/// What the rough look errs by now it errs by about as much after a turn: its noise has the same samples.
double rough_error(const Forecaster& f, const Project& project, std::size_t shot, const Level& level,
                   const std::atomic<bool>* cancel) {
  const auto now = at_worst(roughly(f), level).levels(project, shot, level.id, cancel);
  return !now.empty() && !now[0].sure && now[0].value && level.value ? *level.value - *now[0].value : 0.0;
}

/// What a search may cost, in rays, so that no project makes it endless.
class Purse {
 public:
  explicit Purse(const Forecaster& forecaster) : measures_(forecaster.measures()), at_first_(measures_.rays()) {}
  [[nodiscard]] bool empty() const { return measures_.rays() - at_first_ > most_rays; }

 private:
  static constexpr std::uint64_t most_rays = 60'000'000;
  const MeasureCache& measures_;
  std::uint64_t at_first_;
};

/// One knob being turned for one level.
class Turning {
 public:
  Turning(const Forecaster& forecaster, const Document& document, std::size_t shot, const Level& level,
          const Knob& knob, double error, const Purse& purse, const std::atomic<bool>* cancel)
      : close_(at_worst(forecaster, level)),
        purse_(purse),
        rough_(at_worst(roughly(forecaster), level)),
        document_(document),
        shot_(shot),
        level_(level),
        knob_(knob),
        cancel_(cancel),
        error_(error) {
    const Project project = reader_.read(document);
    above_ = lights_from_above(project, *project.shots[shot]);
  }

  struct Found {
    double value;
    Document document;
    Level level;
  };

  /// The smallest turn in either direction that brings the level home.
  std::optional<Found> solve() {
    std::vector<std::pair<double, std::pair<long, int>>> places;
    for (const int direction : {1, -1})
      if (const auto index = found_or_near(direction)) {
        const double value = knob_.steps[static_cast<std::size_t>(*index)];
        places.push_back({std::abs(value - knob_.current), {*index, direction}});
      }
    std::sort(places.begin(), places.end());
    for (const auto& [turn, place] : places)
      if (auto found = closely(place.first, place.second)) return found;
    return std::nullopt;
  }

 private:
  [[nodiscard]] bool ended() const { return purse_.empty() || (cancel_ && cancel_->load()); }

  /// Index of the first step beyond the present setting in a direction.
  [[nodiscard]] long first_step(int direction) const {
    const auto& s = knob_.steps;
    const double slack = std::max(knob_.least, 1e-6 * (1 + std::abs(knob_.current)));
    if (direction > 0)
      return std::find_if(s.begin(), s.end(), [&](double v) { return v > knob_.current + slack; }) - s.begin();
    long i = static_cast<long>(s.size()) - 1;
    while (i >= 0 && s[static_cast<std::size_t>(i)] >= knob_.current - slack) --i;
    return i;
  }

  const Found* at(long index) {
    if (const auto known = tried_.find(index); known != tried_.end())
      return known->second ? &*known->second : nullptr;
    auto& slot = tried_[index];
    if (ended()) return nullptr;
    const double value = knob_.steps[static_cast<std::size_t>(index)];
    auto next = knob_.apply(document_, value);
    if (!next) return nullptr;
    const Project changed = reader_.read(*next);
    if (lights_from_above(changed, *changed.shots[shot_]) > above_) return nullptr;
    auto levels = rough_.levels(changed, shot_, level_.id, cancel_);
    if (levels.empty() || !levels[0].value) return nullptr;
    Level& found = levels[0];
    if (error_ != 0.0 && found.state == state_of(*found.value, found.band)) {
      *found.value += error_;
      found.state = state_of(*found.value, found.band);
    }
    slot = Found{value, std::move(*next), std::move(levels[0])};
    return &*slot;
  }

  /// What was found roughly, looked at closely; a few steps farther where that is not home yet.
  std::optional<Found> closely(long index, int direction) {
    for (const long farther : {0L, 1L, 3L, 6L}) {
      const long i = index + direction * farther;
      if (i < 0 || i >= static_cast<long>(knob_.steps.size()) || ended()) return std::nullopt;
      const double value = knob_.steps[static_cast<std::size_t>(i)];
      auto next = knob_.apply(document_, value);
      if (!next) continue;
      const Project changed = reader_.read(*next);
      if (lights_from_above(changed, *changed.shots[shot_]) > above_) continue;
      auto levels = close_.levels(changed, shot_, level_.id, cancel_);
      if (!levels.empty() && levels[0].state == State::level)
        return Found{value, std::move(*next), std::move(levels[0])};
      if (levels.empty() || !levels[0].value || far_out(levels[0])) return std::nullopt;  // the rough look misled
    }
    return std::nullopt;
  }
  /// Farther from home than three quarters of the band.
  static bool far_out(const Level& l) {
    const double width = l.band.low && l.band.high
                             ? *l.band.high - *l.band.low
                             : std::abs(l.band.low ? *l.band.low : l.band.high.value_or(0.0));
    return width > 0.0 && badness(*l.value, l.band) > 0.75 * width;
  }

  /// -1 under the band, +1 over it, 0 neither (out for another reason).
  static int side(const Level& l) {
    if (!l.value) return 0;
    const double middle = l.band.low && l.band.high ? 0.5 * (*l.band.low + *l.band.high)
                          : l.band.low              ? *l.band.low
                          : l.band.high             ? *l.band.high
                                                    : 0.0;
    return *l.value < middle ? -1 : 1;
  }

  /// Index of the step found roughly, or of one that leans: looked at closely it may be home.
  std::optional<long> found_or_near(int direction) {
    if (const auto index = search(direction)) return index;
    const long first = first_step(direction);
    std::optional<long> nearest_home;
    double least = 0.0;
    for (const auto& [index, found] : tried_) {
      if (!found || found->level.state != State::leaning || (index - first) * direction < 0) continue;
      const double bad = badness(*found->level.value, found->level.band);
      if (!nearest_home || bad < least) nearest_home = index, least = bad;
    }
    return nearest_home;
  }

  /// Index of the step found roughly.
  std::optional<long> search(int direction) {
    const long first = first_step(direction), last = direction > 0 ? static_cast<long>(knob_.steps.size()) - 1 : 0;
    if (first < 0 || first >= static_cast<long>(knob_.steps.size())) return std::nullopt;
    const long room = std::abs(last - first);
    const int start_side = side(level_);
    const double start_bad = level_.value ? badness(*level_.value, level_.band) : 1e9;
    double least_bad = start_bad;
    // What is counted gains by whole things, after a long way perhaps.
    const bool patient = knob_.scan || (!level_.band.low && level_.band.high == 0.0);
    long before = -1, reach = 0;
    int without_gain = 0;
    for (;;) {
      const Found* found = at(first + direction * reach);
      if (found) {
        if (found->level.state == State::level) return refined(first, direction, before, reach);
        const bool by_value =
            badness(*found->level.value, found->level.band) > 0.0 || found->level.state == State::leaning;
        if (by_value && !knob_.scan && start_side != 0 && side(found->level) != start_side)
          return between(first, direction, before, reach, start_side);
        const double bad = badness(*found->level.value, found->level.band);
        if (bad < least_bad - 1e-12) {
          least_bad = bad;
          without_gain = 0;
        } else if (start_bad > 0.0 && !patient && ++without_gain >= 4) {
          return std::nullopt;
        }
      } else if (ended()) {
        return std::nullopt;
      }
      before = reach;
      if (reach >= room) return std::nullopt;
      reach = knob_.scan ? reach + 1 : std::min(room, std::max(reach + 1, reach * 2));
    }
  }

  /// `good` is home and `bad` is not: the step nearest to the present setting that is still home.
  long refined(long first, int direction, long bad, long good) {
    while (good - bad > 1) {
      const long middle = (good + bad) / 2;
      const Found* found = at(first + direction * middle);
      if (found && found->level.state == State::level)
        good = middle;
      else
        bad = middle;
    }
    return first + direction * good;
  }

  /// Between `near` (still on the starting side) and `far` (beyond the band) something may be home.
  std::optional<long> between(long first, int direction, long near, long far, int start_side) {
    while (far - near > 1) {
      const long middle = (far + near) / 2;
      const Found* found = at(first + direction * middle);
      if (!found) return std::nullopt;
      if (found->level.state == State::level) return refined(first, direction, near, middle);
      (side(found->level) == start_side ? near : far) = middle;
    }
    return std::nullopt;
  }

  const Forecaster close_;
  const Purse& purse_;
  const Forecaster rough_;
  const Document& document_;
  std::size_t shot_;
  const Level& level_;
  const Knob& knob_;
  const std::atomic<bool>* cancel_;
  const double error_;  ///< of the rough look, as things stand
  int above_ = 0;       ///< lights that stand against the house rule already
  ProjectReader reader_;
  std::map<long, std::optional<Found>> tried_;
};

/// The other shots of a set-up: what a change of it does to their levels.
class Sharing {
 public:
  Sharing(const Project& project, std::size_t shot) : project_(project) {
    for (std::size_t i = 0; i < project.shots.size(); ++i)
      if (i != shot && project.shots[i]->setup == project.shots[shot]->setup) others_.push_back(i);
  }

  std::string told(const Forecaster& forecaster, const Project& changed, int& harm,
                   const std::atomic<bool>* cancel) {
    // Roughly, before and after alike: both are measured with the same samples.
    const Forecaster rough = roughly(forecaster);
    std::string effects, untouched;
    for (const std::size_t i : others_) {
      const std::string words =
          told_effects(kept(rough, i, cancel), rough.levels(changed, i, {}, cancel), {}, harm);
      if (words.empty())
        untouched += (untouched.empty() ? "" : ", ") + std::to_string(i + 1);
      else
        effects += said("; in shot {}: {}", i + 1, words);
    }
    if (!untouched.empty())
      effects += said("; the set-up is shared with shot {}, no level of which changes its state", untouched);
    return effects;
  }

 private:
  const std::vector<Level>& kept(const Forecaster& forecaster, std::size_t shot, const std::atomic<bool>* cancel) {
    auto& levels = before_[shot];
    if (levels.empty()) levels = forecaster.levels(project_, shot, {}, cancel);
    return levels;
  }

  const Project& project_;
  std::vector<std::size_t> others_;
  std::map<std::size_t, std::vector<Level>> before_;
};

/// Share of the pictures that lights, their stands' heads and cards take up, at the moment where it is most.
double gear_in_picture(const Project& project, std::size_t shot, const Forecaster& forecaster,
                       const std::atomic<bool>* cancel) {
  const ShotContext context(project, shot, forecaster.measures(), forecaster.quality(), cancel);
  double most = 0.0;
  for (const LightMoment& m : context.light()) {
    const auto& first = m.measure->film.first;
    const auto seen = std::count_if(first.begin(), first.end(), [](const FirstHit& hit) {
      return hit.mesh && (hit.mesh->role == Role::light || hit.mesh->role == Role::card);
    });
    most = std::max(most, static_cast<double>(seen) / static_cast<double>(first.size()));
  }
  return most;
}

/// What the changed project needs beyond what the kit holds, and the one before did not, in words.
std::string newly_short(const Project& before, const Project& after) {
  const Packing was = packing(before), is = packing(after);
  std::string names;
  for (const PackedThing& thing : is.things) {
    const auto known = std::find_if(was.things.begin(), was.things.end(), [&](const PackedThing& t) {
      return t.list == thing.list && t.id == thing.id && t.name == thing.name;
    });
    if (thing.missing() > (known == was.things.end() ? 0.0 : known->missing()) + 1e-9)
      names += (names.empty() ? "" : ", ") + (thing.name.empty() ? thing.id : thing.name);
  }
  return names;
}

/// What a lever does besides bringing its level home.
class Pricing {
 public:
  Pricing(const Forecaster& forecaster, const Project& project, std::size_t shot, const std::vector<Level>& before,
          const std::string& own, const std::atomic<bool>* cancel)
      : forecaster_(forecaster),
        project_(project),
        shot_(shot),
        before_(before),
        own_(own),
        cancel_(cancel),
        sharing_(project, shot),
        spot_(spot_levels(project)),
        gear_(gear_in_picture(project, shot, forecaster, cancel)) {}

  /// False where it would put gear into the picture.
  bool price(Lever& lever, const Knob& knob, const Project& changed, const std::vector<Level>& after) {
    if (gear_in_picture(changed, shot_, forecaster_, cancel_) > gear_ + 0.001) return false;
    const std::string effects = told_effects(before_, after, own_, lever.harm);
    lever.price = knob.minutes > 0 ? said("{} min", number_text(knob.minutes, 2)) : "no time";
    if (!knob.gear.empty()) lever.price += ", needs " + knob.gear;
    if (const std::string names = newly_short(project_, changed); !names.empty()) {
      lever.not_owned = true;
      lever.price += said(", not owned: {}", names);
    }
    lever.price += "; " + (effects.empty() ? std::string("no other level changes its state") : effects);
    if (knob.shared) lever.price += sharing_.told(forecaster_, changed, lever.harm, cancel_);
    if (const std::string spot = told_effects(spot_, spot_levels(changed), own_, lever.harm); !spot.empty())
      lever.price += said("; of the spot: {}", spot);
    return true;
  }

 private:
  const Forecaster& forecaster_;
  const Project& project_;
  std::size_t shot_;
  const std::vector<Level>& before_;
  const std::string& own_;
  const std::atomic<bool>* cancel_;
  Sharing sharing_;
  const std::vector<Level> spot_;
  const double gear_;
};

}  // namespace

Forecaster::Levers Forecaster::levers(const Document& document, std::size_t shot, const std::string& id,
                                      const std::atomic<bool>* cancel, const Proved& proved) const {
  Levers out;
  ProjectReader reader;
  const Project project = reader.read(document);
  if (shot >= project.shots.size()) return out;
  std::vector<Level> before = levels(project, shot, {}, cancel);
  const auto own = std::find_if(before.begin(), before.end(), [&](const Level& l) { return l.id == id; });
  if (own == before.end()) return out;
  // How the level itself stands is known as surely as it is told.
  if (auto sure = sure_levels(project, shot, id, cancel); !sure.empty()) *own = std::move(sure[0]);
  if (own->state == State::level) {
    out.why = "it is level";
    return out;
  }
  if (own->state == State::unknown) {
    out.why = own->formula;
    return out;
  }
  Pricing pricing(*this, project, shot, before, id, cancel);
  const KnobList candidates = knobs_for(document, project, shot, *own);
  const Purse purse(*this);
  const double error = rough_error(*this, project, shot, *own, cancel);
  std::size_t tried = 0;
  for (const Knob& knob : candidates.knobs) {
    if (cancel && cancel->load()) return {};
    if (purse.empty()) break;
    ++tried;
    auto found = Turning(*this, document, shot, *own, knob, error, purse, cancel).solve();
    if (!found) continue;
    const Edit edit = edit_between(document, found->document, knob.title(found->value));
    if (edit.changes.empty() || !validate(found->document, edit).empty()) continue;
    const Project changed = reader.read(found->document);
    std::vector<Level> after = levels(changed, shot, {}, cancel);
    const auto now = std::find_if(after.begin(), after.end(), [&](const Level& l) { return l.id == id; });
    if (now == after.end() || now->state != State::level) continue;  // verified: it must come home
    if (auto sure = sure_levels(changed, shot, id, cancel); !sure.empty()) *now = std::move(sure[0]);
    if (now->state != State::level) continue;
    Lever lever{.title = edit.title,
                .edit = edit,
                .after = *now->value,
                .state_after = now->state,
                .minutes = knob.minutes};
    if (!pricing.price(lever, knob, changed, after)) continue;
    if (proved) proved(lever, tried, candidates.knobs.size());
    out.list.push_back(std::move(lever));
  }
  std::stable_sort(out.list.begin(), out.list.end(), [](const Lever& a, const Lever& b) {
    return std::tuple(a.not_owned, a.harm, a.minutes) < std::tuple(b.not_owned, b.harm, b.minutes);
  });
  if (out.list.empty()) out.why = "Nothing tried brings it home: " + candidates.why + ".";
  if (out.list.empty() && tried < candidates.knobs.size())
    out.why += said(" Looked at {} of {} changes.", tried, candidates.knobs.size());
  return out;
}

}  // namespace cinnabar
