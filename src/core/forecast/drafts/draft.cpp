#include "cinnabar/forecast/drafts/draft.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/drafts/draft_setup.h"
#include "cinnabar/forecast/level_table.h"
#include "cinnabar/forecast/levels/moods.h"
#include "cinnabar/forecast/moves/exposing.h"
#include "cinnabar/forecast/moves/ready_moves.h"
#include "cinnabar/planning/order.h"
#include "cinnabar/planning/packing.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/takes/log.h"

namespace cinnabar {
namespace {

/// A move as a part of a spot. Common practice, no source.
struct Casting {
  const char* move;
  ShotRole part;
  const char* moods;       ///< those it suits best
  const char* for_what;    ///< "any", "label", "drink" (a vessel with something in it), "box" or "food"
  bool own_setup = false;  ///< costs a change on the floor
  bool needs_slider = false;
};
const std::vector<Casting>& castings() {
  static const std::vector<Casting> list{{"slow-spin", ShotRole::hero, "gentle warm", "label"},
                                         {"slide-centred", ShotRole::hero, "gentle crisp", "any", false, true},
                                         {"light-sweep", ShotRole::hero, "warm dramatic", "any", true},
                                         {"out-of-dark", ShotRole::hero, "dramatic", "any", true},
                                         {"doors-of-light", ShotRole::hero, "dramatic", "any", true},
                                         {"pull-back", ShotRole::hero, "gentle crisp", "any"},
                                         {"push-past", ShotRole::hero, "dramatic warm", "any", true},
                                         {"silhouette", ShotRole::hero, "dramatic", "any", true},
                                         {"rack-focus", ShotRole::hero, "warm", "any"},
                                         {"macro-glide", ShotRole::detail, "gentle warm dramatic crisp", "any"},
                                         {"rack-focus", ShotRole::detail, "warm gentle", "any"},
                                         {"slow-spin", ShotRole::detail, "gentle warm", "any"},
                                         {"overhead", ShotRole::detail, "", "any"},
                                         {"pull-back", ShotRole::detail, "gentle", "any"},
                                         {"push-past", ShotRole::detail, "dramatic", "any", true},
                                         {"slide-centred", ShotRole::detail, "crisp", "any", false, true},
                                         {"pour", ShotRole::action, "warm gentle", "drink"},
                                         {"drop", ShotRole::action, "warm crisp", "drink"},
                                         {"splash", ShotRole::action, "dramatic crisp", "drink"},
                                         {"steam", ShotRole::action, "warm gentle", "food"},
                                         {"steam", ShotRole::action, "warm gentle", "drink"},
                                         {"mist", ShotRole::action, "gentle dramatic", "any"},
                                         {"falling", ShotRole::action, "dramatic crisp", "any"},
                                         {"layers", ShotRole::action, "crisp", "box"},
                                         {"burst", ShotRole::action, "crisp dramatic", "box"},
                                         {"hand-takes", ShotRole::action, "gentle crisp", "any"},
                                         {"stop-motion", ShotRole::action, "crisp", "any"},
                                         {"slow-spin", ShotRole::action, "gentle", "any"},
                                         {"hero-words", ShotRole::ending, "gentle warm dramatic crisp", "any"},
                                         {"pull-back", ShotRole::ending, "", "any"}};
  return list;
}

bool suits(const Casting& c, const Project& p) {
  const Product* product = p.products.empty() ? nullptr : p.products.front().get();
  if (c.needs_slider && std::none_of(p.supports.begin(), p.supports.end(),
                                     [](const auto& s) { return s->holding.owned && s->slides(); }))
    return false;
  const std::string_view what = c.for_what;
  if (what == "any") return true;
  if (!product) return false;
  if (what == "label") return product->label.has_value();
  const auto liquid = [](const Part& part) { return part.material.kind == MaterialKind::liquid; };
  const bool drink = std::any_of(product->parts.begin(), product->parts.end(), liquid);
  if (what == "drink") return drink;
  const auto is = [&](std::initializer_list<const char*> kinds) {
    return std::any_of(kinds.begin(), kinds.end(), [&](const char* k) {
      return std::any_of(product->parts.begin(), product->parts.end(),
                         [&](const Part& part) { return part.id == k; });
    });
  };
  if (what == "box") return is({"carton", "pouch", "lid"}) && !drink;
  return is({"fruit", "bowl", "cup"});  // food
}

/// The same for the same seed and move, spread evenly over 0 to 1.
double chance(unsigned seed, const std::string& move, ShotRole part) {
  std::uint64_t h = 1469598103934665603ull ^ (static_cast<std::uint64_t>(seed) * 0x9E3779B97F4A7C15ull);
  for (const char c : move + "/" + name_of(part)) h = (h ^ static_cast<unsigned char>(c)) * 1099511628211ull;
  h ^= h >> 29, h *= 0xBF58476D1CE4E5B9ull, h ^= h >> 32;
  return static_cast<double>(h >> 11) / 9007199254740992.0;
}

/// What a move is held against besides its levels: the mood, the floor, chance.
double prior(const Casting& c, const Project& p, unsigned seed) {
  const bool moods = !p.mood.empty() && std::string_view(c.moods).find(p.mood) != std::string_view::npos;
  return (p.mood.empty() || moods ? 0.0 : 1.6) + (c.own_setup ? 1.0 : 0.0) + 1.2 * chance(seed, c.move, c.part);
}

std::vector<const Casting*> cast_for(const Project& project, ShotRole part, unsigned seed) {
  std::vector<const Casting*> list;
  for (const Casting& c : castings())
    if (c.part == part && suits(c, project)) list.push_back(&c);
  std::stable_sort(list.begin(), list.end(), [&](const Casting* a, const Casting* b) {
    return prior(*a, project, seed) < prior(*b, project, seed);
  });
  return list;
}

class Drafting {
 public:
  Drafting(const Forecaster& forecaster, unsigned seed, const std::atomic<bool>* cancel)
      : full_(forecaster), rough_(forecaster.with_quality(search_measure)), seed_(seed), cancel_(cancel) {}

  [[nodiscard]] bool stopped() const { return cancel_ && cancel_->load(); }
  static tl::unexpected<Error> cancelled() {
    return fail("the draft", "was not finished: it was cancelled", "ask for it again");
  }

  /// The best of the moves that suit, put into `draft` as shot `at`.
  Expected<Draft> choose(const Draft& draft, std::size_t at, const DraftPart& part,
                         const std::set<std::string>& refused) {
    ProjectReader reader;
    const Project project = reader.read(draft.document);
    std::set<std::string> used;
    for (const DraftShot& s : draft.shots) used.insert(s.move);
    std::vector<const Casting*> list, again;
    for (const Casting* c : cast_for(project, part.part, seed_)) {
      if (refused.contains(c->move)) continue;
      (used.contains(c->move) ? again : list).push_back(c);
    }
    if (list.empty()) list = again;
    if (list.empty())
      return fail("shot " + std::to_string(at + 1), "nothing else of the ready moves suits it here",
                  "leave it out, or add a shot of your own");
    constexpr std::size_t most_tried = 4;
    if (list.size() > most_tried) list.resize(most_tried);
    const std::size_t fresh = list.size();
    for (const Casting* c : again)
      if (std::find(list.begin(), list.end(), c) == list.end()) list.push_back(c);
    const auto was_short = static_cast<double>(shortages(project, packing(project)).size());
    constexpr double unowned = 30.0;
    struct Tried {
      double cost;
      const Casting* casting;
      MoveMade made;
    };
    std::vector<Tried> tried;
    for (std::size_t i = 0; i < list.size(); ++i) {
      const Casting* c = list[i];
      // A move twice only where the others want what is not there.
      if (i >= fresh && std::any_of(tried.begin(), tried.end(), [](const Tried& t) { return t.cost < unowned; }))
        break;
      if (stopped()) return cancelled();
      auto made = put(draft.document, *c, at, part, false);
      if (!made) continue;
      const Project then = reader.read(made->document);
      const double missing = static_cast<double>(shortages(then, packing(then)).size()) - was_short;
      tried.push_back({draft_cost(made->levels) + prior(*c, project, seed_) + unowned * std::max(0.0, missing), c,
                       std::move(*made)});
      if (tried.back().cost < 0.5) break;  // nothing can stand better
    }
    if (stopped()) return cancelled();
    if (tried.empty())
      return fail("shot " + std::to_string(at + 1), "could not be made", "choose another form or kit");
    std::stable_sort(tried.begin(), tried.end(), [](const Tried& a, const Tried& b) { return a.cost < b.cost; });
    // Looked at closely, the best may turn out to be past telling: then the next, or the one with least of that.
    std::optional<Draft> best;
    std::ptrdiff_t least = 0;
    for (const Tried& t : tried) {
      if (best && t.cost >= unowned) break;
      Draft next = finished(draft, at, part, *t.casting, t.made);
      if (stopped()) return cancelled();
      const auto& levels = next.shots[at].levels;
      const auto untold =
          std::count_if(levels.begin(), levels.end(), [](const Level& l) { return l.state == State::unknown; });
      if (!best || untold < least) best = std::move(next), least = untold;
      if (least == 0) break;
    }
    return std::move(*best);
  }

  /// Levers of what stands out in most shots, on the set-up that they share: kept where the spot gains by it. What
  /// is then not as it was is measured closely anew.
  std::optional<Draft> levelled(Draft draft) const {
    constexpr int rounds = 3;
    constexpr std::size_t most_levers = 2;
    std::set<std::string> tried;
    ProjectReader reader;
    Project project = reader.read(draft.document);
    std::vector<double> costs;
    for (std::size_t i = 0; i < draft.shots.size(); ++i)
      costs.push_back(draft_cost(rough_.levels(project, i, {}, cancel_)));
    for (int round = 0; round < rounds && !stopped(); ++round) {
      std::map<std::string, std::vector<std::size_t>> off;  // in which shots
      for (std::size_t i = 0; i < draft.shots.size(); ++i)
        for (const Level& l : draft.shots[i].levels)
          if (l.state == State::out && !tried.contains(l.id)) off[l.id].push_back(i);
      const auto most = std::max_element(
          off.begin(), off.end(), [](const auto& a, const auto& b) { return a.second.size() < b.second.size(); });
      if (most == off.end() || most->second.size() < 3) break;
      tried.insert(most->first);
      const auto levers =
          rough_.levers(draft.document, most->second.front(), most->first, cancel_, {.together = false});
      for (std::size_t k = 0; k < std::min(most_levers, levers.list.size()) && !stopped(); ++k) {
        if (levers.list[k].not_owned) continue;
        const Document next = applied(draft.document, levers.list[k].edit);
        const Project then = reader.read(next);
        if (std::abs(then.screen_time() - project.screen_time()) > 1e-6) continue;
        std::vector<double> now;
        double gain = 0;
        for (std::size_t i = 0; i < draft.shots.size() && !stopped(); ++i) {
          now.push_back(draft_cost(rough_.levels(then, i, {}, cancel_)));
          gain += costs[i] - now.back();
        }
        if (stopped() || gain < 1.0) continue;
        auto close = measured(draft, next);
        if (!close) return std::nullopt;
        if (told_worse(*close, draft)) continue;
        draft = std::move(*close);
        project = reader.read(draft.document);
        costs = std::move(now);
        break;
      }
    }
    return stopped() ? std::nullopt : std::optional(std::move(draft));
  }

  /// What needs no light, told anew now that all shots are there: some of it counts them all.
  void retell(Draft& draft) const {
    ProjectReader reader;
    const Project project = reader.read(draft.document);
    for (std::size_t i = 0; i < draft.shots.size(); ++i)
      for (Level& level : draft.shots[i].levels)
        if (const LevelRow* row = level_row(level.id); row && !row->sampled())
          if (auto now = full_.levels(project, i, level.id, cancel_); !now.empty()) level = std::move(now[0]);
  }

 private:
  /// The draft with another document: of the shots that see a difference the exposure turned to where it stands
  /// best, and the levels as surely as they are told anywhere else.
  std::optional<Draft> measured(const Draft& draft, Document next) const {
    Draft now{std::move(next), draft.shots};
    ProjectReader reader, reader_before;
    const Project before = reader_before.read(draft.document), then = reader.read(now.document);
    for (std::size_t i = 0; i < now.shots.size(); ++i) {
      const Shot &is = *then.shots[i], &was = *before.shots[i];
      if (now.document.list("shots")[i] == draft.document.list("shots")[i] &&
          *now.document.find("setups", is.setup) == *draft.document.find("setups", was.setup))
        continue;
      now.shots[i].levels = closely(now.document, i);
      if (stopped()) return std::nullopt;
    }
    return now;
  }
  std::vector<Level> closely(Document& document, std::size_t shot) const {
    ProjectReader reader;
    auto levels = full_.levels(reader.read(document), shot, {}, cancel_);
    if (stopped()) return {};
    settle_exposure(full_, document, shot, levels);
    return full_.sure_levels(reader.read(document), shot, {}, cancel_);
  }

  /// Whether the close look takes back what the rough one promised, or can tell less.
  static bool told_worse(const Draft& now, const Draft& before) {
    double cost = 0;
    std::ptrdiff_t untold = 0;
    for (const auto& [draft, sign] : {std::pair(&now, 1), std::pair(&before, -1)})
      for (const DraftShot& s : draft->shots) {
        cost += sign * draft_cost(s.levels);
        untold += sign * std::count_if(s.levels.begin(), s.levels.end(),
                                       [](const Level& l) { return l.state == State::unknown; });
      }
    return cost >= 0 || untold > 0;
  }

  /// The draft with the move as it was tried, brought nearer by its own levers and measured closely.
  Draft finished(const Draft& draft, std::size_t at, const DraftPart& part, const Casting& c,
                 MoveMade made) const {
    if (weight_of(made.levels) > 0)
      if (auto level = put(draft.document, c, at, part, true);
          level && draft_cost(level->levels) <= draft_cost(made.levels))
        made = std::move(*level);
    Draft next = draft;
    next.document = std::move(made.document);
    auto levels = closely(next.document, at);
    next.shots.insert(next.shots.begin() + static_cast<std::ptrdiff_t>(at),
                      {c.move, part.part, std::move(levels)});
    return next;
  }

  Expected<MoveMade> put(const Document& document, const Casting& c, std::size_t at, const DraftPart& part,
                         bool levelling) const {
    return with_move(
        rough_, document, c.move, at == 0 ? static_cast<std::size_t>(-1) : at - 1,
        {.levelling = levelling, .levers = 3, .setup = "A", .seconds = part.seconds, .role = part.part}, cancel_);
  }

  const Forecaster& full_;
  Forecaster rough_;
  unsigned seed_;
  const std::atomic<bool>* cancel_;
};

}  // namespace

std::vector<DraftPart> draft_parts(const Project& p) {
  const double length = p.allowed_time.value_or(20.0);
  const Mood* mood = mood_named(p.mood);
  const double usual = mood ? mood->shot_seconds : usual_shot_seconds;
  double words = 0;
  for (const Deliverable& d : p.deliverables)
    if (d.words) words = std::max(words, d.words->last_seconds);
  const auto count = static_cast<std::size_t>(std::clamp(static_cast<int>(std::lround(length / usual)), 4, 10));
  // Cuts fall on beats, or on whole frames where there is no tempo; every shot has one at least.
  const double frame = 1.0 / p.timeline_rate;
  double unit = p.beats_per_minute ? 60.0 / *p.beats_per_minute : frame;
  while (unit * static_cast<double>(count) > 0.9 * length) unit /= 2;
  const auto all = static_cast<int>(std::floor(length / unit + 1e-9));
  const double ending_share = std::clamp((words + 0.6) / length, 1.0 / static_cast<double>(count), 0.45);
  const int ending = std::max(1, static_cast<int>(std::lround(ending_share * all)));
  std::vector<DraftPart> parts;
  const int shared = all - ending;
  const auto others = static_cast<int>(count) - 1;
  int given = 0;
  double at = 0;
  for (int i = 0; i < others; ++i) {
    // The opening a little longer than the rest.
    const double part_share = (i + 1 + 0.35) / (others + 0.35);
    const int until =
        i + 1 == others ? shared : std::max(given + 1, static_cast<int>(std::lround(part_share * shared)));
    const double out = std::round(until * unit * 1e6) / 1e6;
    parts.push_back({i == 0       ? ShotRole::hero
                     : i % 2 == 1 ? ShotRole::detail
                                  : ShotRole::action,
                     std::round((out - at) * 1e6) / 1e6});
    given = until, at = out;
  }
  parts.push_back({ShotRole::ending, std::round((length - at) * 1e6) / 1e6});
  return parts;
}

std::vector<std::string> draft_candidates(const Project& project, ShotRole part, unsigned seed) {
  std::vector<std::string> list;
  for (const Casting* c : cast_for(project, part, seed))
    if (std::find(list.begin(), list.end(), c->move) == list.end()) list.emplace_back(c->move);
  return list;
}

Expected<Draft> drafted(const Forecaster& forecaster, const Document& begun, const DraftOptions& options,
                        const std::atomic<bool>* cancel) {
  Drafting drafting(forecaster, options.seed, cancel);
  ProjectReader reader;
  const auto parts = draft_parts(reader.read(begun));
  Draft draft{begun, {}};
  draft.document.lists["shots"].clear();
  if (draft.document.list("setups").empty()) {
    auto with = with_draft_setup(forecaster.with_quality(search_measure), draft.document, cancel);
    if (!with) return Drafting::cancelled();
    draft.document = std::move(*with);
  }
  // Words stand in the spot's last seconds: no shot is held to them until its ending is chosen.
  const std::vector<JsonPtr> deliverables = draft.document.list("deliverables");
  std::vector<JsonPtr> wordless;
  for (const JsonPtr& d : deliverables) {
    Json plain = *d;
    plain.erase("words");
    wordless.push_back(std::make_shared<const Json>(std::move(plain)));
  }
  const auto tell = [&] {
    if (!options.progress) return;
    Draft shown = draft;
    shown.document.lists["deliverables"] = deliverables;
    options.progress(shown, parts.size());
  };
  tell();
  for (std::size_t i = 0; i < parts.size(); ++i) {
    draft.document.lists["deliverables"] = i + 1 == parts.size() ? deliverables : wordless;
    auto next = drafting.choose(draft, i, parts[i], {});
    if (!next) return tl::unexpected(next.error());
    draft = std::move(*next);
    tell();
  }
  auto level = drafting.levelled(std::move(draft));
  if (!level) return Drafting::cancelled();
  drafting.retell(*level);
  if (options.progress) options.progress(*level, parts.size());
  return *level;
}

std::optional<Draft> first_sketch(const Forecaster& forecaster, const Document& begun, unsigned seed,
                                  const std::atomic<bool>* cancel) {
  ProjectReader reader;
  const Project project = reader.read(begun);
  const auto moves = draft_candidates(project, ShotRole::hero, seed);
  if (moves.empty()) return std::nullopt;
  Draft sketch{begun, {{moves.front(), ShotRole::hero, {}}}};
  sketch.document.lists["setups"] = {std::make_shared<const Json>(setup_of(first_plan(project), project, "A"))};
  auto made =
      with_move(forecaster.with_quality(quick_measure), sketch.document, moves.front(),
                static_cast<std::size_t>(-1), {.levelling = false, .setup = "A", .role = ShotRole::hero}, cancel);
  if (!made || (cancel && cancel->load())) return std::nullopt;
  sketch.document = std::move(made->document);
  sketch.shots.front().levels = std::move(made->levels);
  return sketch;
}

Expected<Draft> with_another(const Forecaster& forecaster, const Draft& draft, std::size_t shot,
                             const std::set<std::string>& refused, unsigned seed,
                             const std::atomic<bool>* cancel) {
  if (shot >= draft.shots.size()) return fail("the shot", "is not in the draft", "choose one of it");
  const Json& was = *draft.document.list("shots")[shot];
  const DraftPart part{draft.shots[shot].part, was.value("screen_time", 3.0)};
  std::set<std::string> not_again = refused;
  not_again.insert(draft.shots[shot].move);
  return Drafting(forecaster, seed, cancel).choose(left_out(draft, shot), shot, part, not_again);
}

Draft left_out(const Draft& draft, std::size_t shot) {
  Draft next = draft;
  if (shot >= next.shots.size()) return next;
  auto& shots = next.document.lists["shots"];
  const std::string setup = shots[shot]->value("setup", "");
  shots.erase(shots.begin() + static_cast<std::ptrdiff_t>(shot));
  next.shots.erase(next.shots.begin() + static_cast<std::ptrdiff_t>(shot));
  auto& setups = next.document.lists["setups"];
  if (setups.size() > 1 && !setups.empty() && setups.front()->value("id", "") != setup &&
      std::none_of(shots.begin(), shots.end(), [&](const JsonPtr& s) { return s->value("setup", "") == setup; }))
    std::erase_if(setups, [&](const JsonPtr& s) { return s->value("id", "") == setup; });
  return next;
}

DraftNeeds draft_needs(const Project& p) {
  DraftNeeds needs;
  std::set<std::string> used;
  for (const auto& shot : p.shots) {
    const double takes = std::max(1.0, shot->takes_planned.value_or(1.0));
    needs.takes += static_cast<int>(takes);
    needs.hands = std::max(needs.hands, shot->hands);
    needs.minutes += minutes_for(*shot, takes) + takes;
    used.insert(shot->setup);
  }
  needs.set_ups = static_cast<int>(used.size());
  needs.minutes += 20.0 * needs.set_ups + 2.0 * things_moved(p, shooting_order(p));
  const Packing packed = packing(p);
  for (const PackedThing& t : packed.things)
    if (t.list == "kit/consumables")
      needs.uses.push_back(said("{} {} {}", t.name, number_text(t.wanted, 3), t.unit));
  needs.short_of = shortages(p, packed);
  return needs;
}

}  // namespace cinnabar
