// Each knob is turned by staging the changed shot until the level is home, by the smallest step that does.
#include "cinnabar/forecast/levers/turning.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/forecast/level_table.h"
#include "cinnabar/planning/house.h"

namespace cinnabar {

Forecaster roughly(const Forecaster& f) {
  return f.with_quality(f.quality().passes > search_measure.passes ? search_measure : f.quality());
}

Forecaster only_at(const Forecaster& f, std::vector<double> set_times) {
  MeasureQuality quality = f.quality();
  quality.only_at = std::move(set_times);
  return f.with_quality(quality);
}

namespace {

/// Where the level is worst, and where it lies lowest and highest: what brings one end home must keep the other.
Forecaster at_worst(const Forecaster& f, const Level& level) {
  if (!level.set_time) return f;
  std::vector<double> times{*level.set_time};
  const auto [low, high] =
      std::minmax_element(level.moments.begin(), level.moments.end(),
                          [](const MomentValue& a, const MomentValue& b) { return a.value < b.value; });
  if (level.band.low && level.band.high && low != level.moments.end())
    times.insert(times.end(), {low->set_time, high->set_time});
  std::sort(times.begin(), times.end());
  times.erase(std::unique(times.begin(), times.end()), times.end());
  return only_at(f, std::move(times));
}

/// How a level's levers are looked for.
Forecaster searching(const Forecaster& f, const Level& level) {
  MeasureQuality quality = roughly(f).quality();
  constexpr int fewer = 48;
  if (const LevelRow* row = level_row(level.id); row && row->by_many)
    quality.width = std::min(quality.width, fewer);
  return f.with_quality(quality);
}

constexpr int by_line = 3;  // guesses on a line, before what is left is halved

/// Farther from home than three quarters of the band.
bool far_out(const Level& l) {
  const double width = width_of(l.band);
  return width > 0.0 && badness(*l.value, l.band) > 0.75 * width;
}

/// -1 under the band, +1 over it, 0 neither (out for another reason).
int side(const Level& l) {
  if (!l.value) return 0;
  const double middle = l.band.low && l.band.high ? 0.5 * (*l.band.low + *l.band.high)
                        : l.band.low              ? *l.band.low
                        : l.band.high             ? *l.band.high
                                                  : 0.0;
  return *l.value < middle ? -1 : 1;
}

}  // namespace

double rough_error(const Quest& quest, const Project& project) {
  const Level& level = quest.level;
  const auto now =
      at_worst(searching(quest.forecaster, level), level).levels(project, quest.shot, level.id, quest.cancel);
  return !now.empty() && !now[0].sure && now[0].value && level.value ? *level.value - *now[0].value : 0.0;
}

Turning::Turning(const Quest& quest, const Knob& knob, int tries)
    : quest_(quest),
      close_(at_worst(quest.forecaster, quest.level)),
      rough_(at_worst(searching(quest.forecaster, quest.level), quest.level)),
      knob_(knob),
      tries_(tries) {}

std::optional<Turning::Found> Turning::solve() {
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

std::optional<Turning::Found> Turning::further(double value) {
  const auto& steps = knob_.steps;
  const auto here = std::min_element(steps.begin(), steps.end(), [value](double a, double b) {
    return std::abs(a - value) < std::abs(b - value);
  });
  const int direction = value > knob_.current ? 1 : -1;
  const long next = here - steps.begin() + direction;
  if (here == steps.end() || next < 0 || next >= static_cast<long>(steps.size()) || within_slack(next)) return {};
  tries_ = std::max(tries_, 1);
  const Found* found = at(next);
  if (!found || found->level.state != State::level) return {};
  return closely(next, direction);
}

std::optional<Turning::Found> Turning::nearest() const {
  const Level& own = quest_.level;
  if (!own.value) return std::nullopt;
  const double start = badness(*own.value, own.band);
  const Found* best = nullptr;
  double least = 0.75 * start;
  for (const auto& [index, found] : tried_)
    if (found && found->level.value)
      if (const double bad = badness(*found->level.value, found->level.band); bad < least)
        least = bad, best = &*found;
  return best ? std::optional(*best) : std::nullopt;
}

long Turning::first_step(int direction) const {
  const auto& s = knob_.steps;
  const double slack = this->slack();
  if (direction > 0)
    return std::find_if(s.begin(), s.end(), [&](double v) { return v > knob_.current + slack; }) - s.begin();
  long i = static_cast<long>(s.size()) - 1;
  while (i >= 0 && s[static_cast<std::size_t>(i)] >= knob_.current - slack) --i;
  return i;
}

double Turning::slack() const { return std::max(knob_.least, 1e-6 * (1 + std::abs(knob_.current))); }
bool Turning::within_slack(long index) const {
  return std::abs(knob_.steps[static_cast<std::size_t>(index)] - knob_.current) <= slack();
}

std::optional<Document> Turning::turned(double value, Project& changed) {
  auto next = knob_.apply(quest_.document, value);
  if (!next) return std::nullopt;
  changed = reader_.read(*next);
  if (lights_from_above(changed, *changed.shots[quest_.shot]) > quest_.above) return std::nullopt;
  return next;
}

const Turning::Found* Turning::at(long index) {
  if (const auto known = tried_.find(index); known != tried_.end())
    return known->second ? &*known->second : nullptr;
  auto& slot = tried_[index];
  if (ended()) return nullptr;
  --tries_;
  const double value = knob_.steps[static_cast<std::size_t>(index)];
  Project changed;
  auto next = turned(value, changed);
  if (!next) return nullptr;
  auto levels = rough_.levels(changed, quest_.shot, quest_.level.id, quest_.cancel);
  if (levels.empty() || !levels[0].value) return nullptr;
  Level& found = levels[0];
  if (quest_.error != 0.0 && found.state == state_of(*found.value, found.band)) {
    *found.value += quest_.error;
    found.state = state_of(*found.value, found.band);
  }
  slot = Found{value, std::move(*next), std::move(levels[0])};
  return &*slot;
}

/// What was found roughly, looked at closely where it is worst. What the rough look turns out to err by there is
/// taken off, and the step nearest to it that is home then is looked at closely, twice at most.
std::optional<Turning::Found> Turning::closely(long index, int direction) {
  for (int looks = 0; looks < 3 && !quest_.ended(); ++looks) {
    const Found* rough = at(index);
    if (!rough) return std::nullopt;
    const double value = rough->value, roughly_at = *rough->level.value;
    Project changed;
    auto next = turned(value, changed);
    if (!next) return std::nullopt;
    const Forecaster close = rough->level.set_time ? only_at(quest_.forecaster, {*rough->level.set_time}) : close_;
    auto levels = close.levels(changed, quest_.shot, quest_.level.id, quest_.cancel);
    if (levels.empty() || !levels[0].value) return std::nullopt;
    if (levels[0].state == State::level) return Found{value, std::move(*next), std::move(levels[0])};
    if (far_out(levels[0])) return std::nullopt;  // the rough look misled
    const auto home = nearest_home(index, direction, *levels[0].value - roughly_at);
    if (!home) return std::nullopt;
    index = *home;
  }
  return std::nullopt;
}

/// Of the steps near one, first on in a direction, then back, the nearest that is home when `error`, give or take
/// a quarter, is added.
std::optional<long> Turning::nearest_home(long index, int direction, double error) {
  for (const int way : {direction, -direction})
    for (long step = 1; step <= 6; ++step) {
      const long i = index + way * step;
      if (i < 0 || i >= static_cast<long>(knob_.steps.size()) || within_slack(i)) break;
      const Found* found = at(i);
      if (!found) continue;
      const auto home = [&](double part) {
        return state_of(*found->level.value + part * error, found->level.band) == State::level;
      };
      if (home(0.75) && home(1.25)) return i;
    }
  return std::nullopt;
}

/// Index of the step found roughly, or of one that leans: looked at closely it may be home.
std::optional<long> Turning::found_or_near(int direction) {
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
std::optional<long> Turning::search(int direction) {
  const long first = first_step(direction), last = direction > 0 ? static_cast<long>(knob_.steps.size()) - 1 : 0;
  if (first < 0 || first >= static_cast<long>(knob_.steps.size())) return std::nullopt;
  const long room = std::abs(last - first);
  const int start_side = side(quest_.level);
  const double start_bad = quest_.level.value ? badness(*quest_.level.value, quest_.level.band) : 1e9;
  double least_bad = start_bad;
  // What is counted gains by whole things, after a long way perhaps.
  const bool patient = knob_.scan || (!quest_.level.band.low && quest_.level.band.high == 0.0);
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
      } else if (start_bad > 0.0 && !patient && (without_gain += bad > 1.1 * start_bad ? 2 : 1) >= 4) {
        return std::nullopt;
      }
    } else if (ended()) {
      return std::nullopt;
    }
    if (reach >= room) return std::nullopt;
    const long next = knob_.scan ? reach + 1 : std::min(room, stride(first, direction, before, reach));
    before = reach, reach = next;
  }
}

/// Where the last two places tell the way home, as far as a line through them takes, at most eight times as far;
/// else twice as far.
long Turning::stride(long first, int direction, long before, long reach) const {
  const long doubled = std::max(reach + 1, reach * 2);
  const auto was = value_of(first, direction, before), now = value_of(first, direction, reach);
  if (!was || !now) return doubled;
  const double missing = home_from(*now) - *now, gained = *now - *was;
  if (gained * missing <= 0.0 || std::abs(gained) < 0.05 * std::abs(missing)) return doubled;
  const double more = std::ceil(missing / gained * static_cast<double>(reach - before));
  return std::clamp(reach + static_cast<long>(std::min(more, 1e9)), reach + 1, 8 * (reach + 1));
}

/// What was found at a place, the first step being 0; before it, the level as it stands.
std::optional<double> Turning::value_of(long first, int direction, long place) const {
  if (place < 0) return quest_.level.value;
  const auto known = tried_.find(first + direction * place);
  return known != tried_.end() && known->second ? known->second->level.value : std::nullopt;
}

/// The value that is wanted of one that is not: a twentieth of the band inside it, or the edge of one without
/// width.
double Turning::home_from(double value) const {
  const Band& band = quest_.level.band;
  const double width = band.low && band.high ? *band.high - *band.low : 0.0;
  if (band.low && value < *band.low) return *band.low + 0.05 * width;
  if (band.high && value > *band.high) return *band.high - 0.05 * width;
  return value;
}

/// A place between two others, of which one has a value on this side of `wanted` and one beyond: on the line
/// through both, in the middle where there is none.
long Turning::on_line(long first, int direction, long from, long to, double wanted) const {
  const auto a = value_of(first, direction, from), b = value_of(first, direction, to);
  const long middle = (from + to) / 2;
  if (!a || !b || *a == *b) return middle;
  const double part = (wanted - *a) / (*b - *a);
  if (!(part > 0.0 && part < 1.0)) return middle;
  const auto place =
      static_cast<long>(std::ceil(static_cast<double>(from) + part * static_cast<double>(to - from)));
  return std::clamp(place, from + 1, to - 1);
}

/// `good` is home and `bad` is not: the step nearest to the present setting that is still home.
long Turning::refined(long first, int direction, long bad, long good) {
  for (int tries = 0; good - bad > 1; ++tries) {
    const auto was = value_of(first, direction, bad);
    const long middle =
        was && tries < by_line ? on_line(first, direction, bad, good, home_from(*was)) : (good + bad) / 2;
    const Found* found = at(first + direction * middle);
    if (found && found->level.state == State::level)
      good = middle;
    else
      bad = middle;
  }
  return first + direction * good;
}

/// Between `near` (still on the starting side) and `far` (beyond the band) something may be home.
std::optional<long> Turning::between(long first, int direction, long near, long far, int start_side) {
  for (int tries = 0; far - near > 1; ++tries) {
    const auto was = value_of(first, direction, near), then = value_of(first, direction, far);
    const long middle = was && then && tries < by_line
                            ? on_line(first, direction, near, far, 0.5 * (home_from(*was) + home_from(*then)))
                            : (far + near) / 2;
    const Found* found = at(first + direction * middle);
    if (!found) return std::nullopt;
    if (found->level.state == State::level) return refined(first, direction, near, middle);
    (side(found->level) == start_side ? near : far) = middle;
  }
  return std::nullopt;
}

}  // namespace cinnabar
