// Levers: every knob is turned, on all cores, likeliest first; where each alone would do harm or does not reach,
// up to three are turned together.
#include <algorithm>
#include <cctype>
#include <limits>
#include <mutex>
#include <tuple>

#include "cinnabar/base/words.h"
#include "cinnabar/forecast/all_cores.h"
#include "cinnabar/forecast/levers/pricing.h"
#include "cinnabar/forecast/levers/turning.h"
#include "cinnabar/planning/house.h"

namespace cinnabar {
namespace {

bool least_harm_first(const Lever& a, const Lever& b) {
  return std::tuple(a.not_owned, a.harm, a.minutes) < std::tuple(b.not_owned, b.harm, b.minutes);
}

/// "Open from f/11 to f/8; dim every light by 0.9 stop"
std::string joined(const std::string& first, std::string second) {
  if (second.size() > 1 && std::islower(static_cast<unsigned char>(second[1])))
    second[0] = static_cast<char>(std::tolower(static_cast<unsigned char>(second[0])));
  return first + "; " + second;
}

/// Members that differ, by list, id and pointer.
std::set<std::string> touched(const Document& before, const Document& after) {
  std::set<std::string> members;
  for (const Change& change : edit_between(before, after, {}).changes)
    for (const Json& step : Json::diff(change.before.value_or(Json()), change.after.value_or(Json())))
      members.insert(change.list + "/" + change.id + step.value("path", std::string()));
  return members;
}

Turned after(const Turned& before, const Knob& knob, Turning::Found found) {
  const bool more = !before.title.empty();
  return {.title = more ? joined(before.title, knob.title(found.value)) : knob.title(found.value),
          .document = std::move(found.document),
          .minutes = before.minutes + knob.minutes,
          .gear = before.gear.empty() || knob.gear.empty() || before.gear == knob.gear
                      ? before.gear + (before.gear == knob.gear ? "" : knob.gear)
                      : before.gear + ", " + knob.gear,
          .shared = before.shared || knob.shared,
          .turns = before.turns + (more ? 1 : 0)};
}

/// A search for the levers of one level.
class Search {
 public:
  Search(const Forecaster& forecaster, const Document& document, const Project& project, std::size_t shot,
         const std::vector<Level>& before, const Level& own, const LeverSearch& how,
         const std::atomic<bool>* cancel)
      : forecaster_(forecaster),
        shot_(shot),
        own_(own),
        how_(how),
        cancel_(cancel),
        pricing_(forecaster, document, project, shot, before, own.id, cancel),
        quest_{forecaster, document, shot, own_, lights_from_above(project, *project.shots[shot]), 0.0, cancel},
        knobs_(knobs_for(document, project, shot, own)) {
    quest_.error = rough_error(quest_, project);
  }

  Forecaster::Levers run() {
    singly();
    if (how_.together && clean() == 0 && !ended()) together();
    Forecaster::Levers out;
    if (ended()) return out;
    for (Known& known : found_) out.list.push_back(std::move(known.priced.lever));
    std::stable_sort(out.list.begin(), out.list.end(), least_harm_first);
    if (out.list.empty()) out.why = said("Nothing tried brings it home: {}.", knobs_.why);
    return out;
  }

 private:
  struct Known {
    Turned change;
    Pricing::Priced priced;
    std::size_t order;  ///< of its knob, so that the same search gives the same list
  };
  struct Partway {
    Turned change;
    Level level;
    std::size_t knob;
  };
  static constexpr std::size_t seeds = 3, knobs_after = 6, row = 8;
  static constexpr std::ptrdiff_t enough = 4;
  static constexpr int most_turns = 3, all_tries = 3000, least_tries = 24;

  [[nodiscard]] bool ended() const { return cancel_ && cancel_->load(); }

  void keep(Known known) {
    const std::lock_guard lock(mutex_);
    if (how_.proved) how_.proved(known.priced.lever, tried_, knobs_.knobs.size());
    found_.push_back(std::move(known));
  }

  [[nodiscard]] Turned first(const Knob& knob, Turning::Found found) const {
    Turned change = after({}, knob, std::move(found));
    change.touched = touched(quest_.document, change.document);
    return change;
  }

  void singly() {
    const int tries = std::max(least_tries, all_tries / std::max(1, static_cast<int>(knobs_.knobs.size())));
    // Likeliest first, a row at a time: with enough that do no harm nobody asks for the rest.
    for (std::size_t from = 0; from < knobs_.knobs.size() && clean() < enough && !ended(); from += row)
      on_all_cores(std::min(row, knobs_.knobs.size() - from), [&](std::size_t k) { turn(from + k, tries); });
    std::sort(found_.begin(), found_.end(), [](const Known& a, const Known& b) { return a.order < b.order; });
  }

  [[nodiscard]] std::ptrdiff_t clean() const {
    return std::count_if(found_.begin(), found_.end(),
                         [](const Known& k) { return k.priced.lever.harm == 0 && !k.priced.lever.not_owned; });
  }

  void turn(std::size_t i, int tries) {
    if (ended()) return;
    const Knob& knob = knobs_.knobs[i];
    Turning turning(quest_, knob, tries);
    auto found = turning.solve();
    {
      const std::lock_guard lock(mutex_);
      ++tried_;
      if (!found)
        if (auto near = turning.nearest()) {
          Level level = near->level;
          partway_.push_back({first(knob, std::move(*near)), std::move(level), i});
        }
    }
    if (!found) return;
    const double value = found->value;
    Turned change = first(knob, std::move(*found));
    bool unsure = false;
    auto priced = pricing_.priced(change, {.unsure = &unsure});
    // Near an edge a step more is sooner sure than more passes are.
    if (unsure)
      if (auto more = turning.further(value)) {
        Turned beyond = first(knob, std::move(*more));
        bool still = false;
        if ((priced = pricing_.priced(beyond, {.unsure = &still}))) change = std::move(beyond);
      }
    if (unsure && !priced) priced = pricing_.priced(change, {});
    if (priced) keep({std::move(change), std::move(*priced), i});
  }

  /// What the singles spoil mended by a second and a third turn, and what came nearest alone turned on by others.
  void together() {
    std::vector<std::size_t> order(found_.size());
    for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
      return least_harm_first(found_[a].priced.lever, found_[b].priced.lever);
    });
    std::vector<Known> begun;
    for (const std::size_t i : order)
      if (begun.size() < seeds && !found_[i].priced.lever.not_owned) begun.push_back(found_[i]);
    if (own_.state == State::leaning && begun.size() > 1) begun.resize(1);
    if (own_.state == State::out)
      for (Known& known : reached()) begun.push_back(std::move(known));
    std::vector<std::optional<Known>> better(begun.size());
    on_all_cores(begun.size(), [&](std::size_t i) { better[i] = mended(begun[i]); });
    for (auto& known : better)
      if (known) keep(std::move(*known));
  }

  /// Those that came nearest alone, turned on by a second knob.
  std::vector<Known> reached() {
    std::sort(partway_.begin(), partway_.end(), [](const Partway& a, const Partway& b) {
      return std::tuple(badness(*a.level.value, a.level.band), a.knob) <
             std::tuple(badness(*b.level.value, b.level.band), b.knob);
    });
    if (partway_.size() > seeds) partway_.resize(seeds);
    std::vector<std::optional<Known>> both(partway_.size());
    on_all_cores(partway_.size(), [&](std::size_t i) {
      const Partway& part = partway_[i];
      both[i] = turned_on(part.change, part.level, quest_.error, std::numeric_limits<int>::max());
    });
    std::vector<Known> list;
    for (auto& known : both)
      if (known) {
        keep(*known);
        list.push_back(std::move(*known));
      }
    return list;
  }

  /// A lever with one or two turns more that take back what it spoils; nothing where none does less harm.
  std::optional<Known> mended(const Known& seed) {
    std::optional<Known> best;
    const Known* from = &seed;
    while (from->change.turns < most_turns && from->priced.lever.harm > 0 && !ended()) {
      const auto spoilt = pricing_.most_harmed(from->priced.after);
      if (!spoilt) break;
      auto next = turned_on(from->change, *spoilt, 0.0, from->priced.lever.harm);
      if (!next) break;
      best = std::move(next);
      from = &*best;
    }
    return best;
  }

  /// A change and one knob more, for `level` as it stands after the change: the first of those tried that does no
  /// harm, else the one that does least, and less than that; of what is owned.
  std::optional<Known> turned_on(const Turned& change, const Level& level, double error, int less_harm) {
    ProjectReader reader;
    const Project project = reader.read(change.document);
    const KnobList more = knobs_for(change.document, project, shot_, level);
    const Quest quest{
        forecaster_, change.document, shot_, level, lights_from_above(project, *project.shots[shot_]),
        error,       cancel_};
    std::optional<Known> best;
    for (std::size_t i = 0; i < std::min(knobs_after, more.knobs.size()) && !ended(); ++i) {
      auto found = Turning(quest, more.knobs[i], least_tries).solve();
      if (!found) continue;
      // One thing is turned once.
      auto members = touched(change.document, found->document);
      if (std::any_of(members.begin(), members.end(),
                      [&](const std::string& m) { return change.touched.contains(m); }))
        continue;
      Turned both = after(change, more.knobs[i], std::move(*found));
      both.touched = change.touched;
      both.touched.merge(members);
      auto priced = pricing_.priced(both, {.owned = true, .less_harm = less_harm});
      if (!priced || (best && !least_harm_first(priced->lever, best->priced.lever))) continue;
      less_harm = priced->lever.harm + 1;
      best = Known{std::move(both), std::move(*priced), knobs_.knobs.size() + i};
      if (best->priced.lever.harm == 0) break;
    }
    return best;
  }

  const Forecaster& forecaster_;
  const std::size_t shot_;
  const Level own_;
  const LeverSearch& how_;
  const std::atomic<bool>* cancel_;
  const Pricing pricing_;
  Quest quest_;
  const KnobList knobs_;
  std::mutex mutex_;
  std::size_t tried_ = 0;
  std::vector<Known> found_;
  std::vector<Partway> partway_;
};

}  // namespace

Forecaster::Levers Forecaster::levers(const Document& document, std::size_t shot, const std::string& id,
                                      const std::atomic<bool>* cancel, const LeverSearch& how) const {
  ProjectReader reader;
  const Project project = reader.read(document);
  if (shot >= project.shots.size()) return {};
  std::vector<Level> before = how.known.empty() ? levels(project, shot, {}, cancel) : how.known;
  const auto own = std::find_if(before.begin(), before.end(), [&](const Level& l) { return l.id == id; });
  if (own == before.end()) return {};
  // How the level itself stands is known as surely as it is told.
  if (how.known.empty())
    if (auto sure = sure_levels(project, shot, id, cancel); !sure.empty()) *own = std::move(sure[0]);
  if (own->state == State::level) return {{}, said("it is level")};
  if (own->state == State::unknown) return {{}, own->formula};
  return Search(*this, document, project, shot, before, *own, how, cancel).run();
}

}  // namespace cinnabar
