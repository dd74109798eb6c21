#include "cinnabar/forecast/methods/methods.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>
#include <tuple>

#include "cinnabar/forecast/all_cores.h"
#include "cinnabar/forecast/levers/turning.h"
#include "cinnabar/forecast/methods/arrangement.h"
#include "cinnabar/forecast/moves/exposing.h"
#include "cinnabar/planning/house.h"
#include "cinnabar/planning/packing.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/making/materials.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {

namespace {
/// Whether a material is one of those that are ready for food, as far as a project keeps its numbers.
bool is_food(const Material& m) {
  return std::any_of(ready_materials().begin(), ready_materials().end(), [&m](const ReadyMaterial& ready) {
    if (ready.group != "food" || ready.material["kind"] != material_name(m.kind)) return false;
    const Json& colour = ready.material["colour"];
    const Vec3 apart = Vec3{colour[0], colour[1], colour[2]} - m.colour;
    return length(apart) < 1e-4 && std::abs(ready.material.value("roughness", 0.0) - m.roughness) < 1e-6;
  });
}
}  // namespace

std::vector<std::string> materials_of(const Product& product) {
  std::set<std::string> made_of;
  for (const Part& part : product.parts) {
    const Material& m = part.material;
    if (m.screen > 0.0) made_of.insert("screen");
    if (m.scatters() || is_food(m)) made_of.insert("food");
    switch (m.kind) {
      case MaterialKind::liquid:
        made_of.insert("liquid");
        break;
      case MaterialKind::glass:
      case MaterialKind::frosted:
        made_of.insert("glass");
        break;
      case MaterialKind::metal:
      case MaterialKind::mirror:
        made_of.insert("metal");
        break;
      case MaterialKind::gloss:
      case MaterialKind::satin:
        made_of.insert("gloss");
        break;
      case MaterialKind::cloth:
        made_of.insert("fabric");
        break;
      case MaterialKind::paper:
        made_of.insert("paper");
        break;
      default:
        made_of.insert("matte");
    }
  }
  // What is worn on a finger or about a neck: small and bare.
  constexpr double small = 0.05;
  const auto [low, high] = product.parts.empty() ? std::pair{0.0, 1.0} : height_span(product);
  if (made_of.contains("metal") && high - low < small && 2.0 * widest_reach(product) < small)
    made_of.insert("jewellery");
  std::vector<std::string> list;
  for (const char* word :
       {"jewellery", "screen", "liquid", "glass", "food", "gloss", "metal", "fabric", "paper", "matte"})
    if (made_of.contains(word)) list.emplace_back(word);
  if (list.empty()) list.emplace_back("matte");
  return list;
}

namespace {

constexpr std::size_t least_offered = 2, most_offered = 3, most_tried = 6;

std::vector<Level> of_method(const Method& method, const std::vector<Level>& levels) {
  std::vector<Level> list;
  for (const Level& level : levels)
    if (level.id == "frame.gear" ||  // of any
        std::find(method.levels.begin(), method.levels.end(), level.id) != method.levels.end())
      list.push_back(level);
  return list;
}

/// All dimmers of the shot's set-up times a factor, none over full.
Maybe dimmed(const Document& document, std::size_t shot, double factor) {
  ProjectReader reader;
  const Project project = reader.read(document);
  const Bench b(document, project, shot);
  Maybe next(document);
  for (std::size_t l = 0; b.setup && l < b.setup->own_lights(); ++l)
    if (!b.setup->lights[l].daylight)
      next = set(next, b.light_path(l) + "/dimmer",
                 std::round(1e3 * std::clamp(b.setup->lights[l].dimmer * factor, 0.01, 1.0)) / 1e3);
  return next;
}

/// Whether a level that cannot be told is as it was meant: no light on what is to be black.
bool meant_dark(const Method& method, const Level& level) {
  return level.state == State::unknown && level.id == "light.backdrop" && method.rule == BackdropRule::black;
}

/// How badly what a method is made for stands: by states, and within them by how far outside its band.
double standing(const Method& method, const std::vector<Level>& all) {
  double sum = 0.0;
  for (const Level& level : of_method(method, all)) {
    if (meant_dark(method, level)) continue;
    sum += level.state == State::unknown ? 3.0 : weight_of(level.state);
    if (level.value && width_of(level.band) > 0.0)
      sum += 0.1 * std::clamp(badness(*level.value, level.band) / width_of(level.band), 0.0, 12.0);
  }
  return sum;
}

bool stands(const MethodStanding& one) {
  return std::none_of(one.levels.begin(), one.levels.end(), [&one](const Level& level) {
    return level.state == State::out || (level.state == State::unknown && !meant_dark(*one.method, level));
  });
}

/// Lamps that are dimmed: those for the backdrop as one, so that it stays even, each of the others by itself.
std::vector<std::vector<std::size_t>> turned_together(const Bench& b) {
  std::vector<std::vector<std::size_t>> list;
  std::vector<std::size_t> ground;
  for (std::size_t l = 0; l < b.setup->own_lights(); ++l) {
    const Light& light = b.setup->lights[l];
    if (!light.on || light.daylight || b.shot.track(Tracked::light_dimmer, light.id)) continue;
    if (light.meant_for == MeantFor::backdrop)
      ground.push_back(l);
    else
      list.push_back({l});
  }
  if (!ground.empty()) list.push_back(std::move(ground));
  return list;
}

/// Stops that a shot is to be exposed more for a method, as far as its camera goes.
double wanted_for(const Method& method, const Project& project, std::size_t shot,
                  const std::vector<Level>& levels) {
  return exposure_wanted(levels, exposure_left(project, *project.shots[shot]), method.levels);
}

/// Its lamps turned up and down against one another, one group at a time, as they stand with the shot exposed
/// anew: light is mixed anew, without rays. Ever the step after which the method's levels stand best, and smaller
/// ones where none helps. Its exposure is left as it is.
void balance(const LevelLook& look, const Method& method, Document& document, std::size_t shot,
             std::vector<Level>& levels, const std::atomic<bool>* cancel) {
  ProjectReader reader;
  const auto standing_exposed = [&](const Project& project, const std::vector<Level>& all) {
    return standing(method, exposed(all, wanted_for(method, project, shot, all)));
  };
  double least = standing_exposed(reader.read(document), levels);
  for (double step = 1.6; step > 0.35 && least >= 1.0;) {
    const Project project = reader.read(document);
    const Bench b(document, project, shot);
    double best = least - 0.02;
    std::optional<std::pair<Document, std::vector<Level>>> next;
    for (const std::vector<std::size_t>& together : turned_together(b))
      for (const double stops : {-step, step}) {
        if (cancel && cancel->load()) return;
        Maybe tried(document);
        bool turned = false;
        for (const std::size_t l : together) {
          const double was = b.setup->lights[l].dimmer,
                       dimmer = std::round(1e3 * std::clamp(was * std::exp2(stops), 0.002, 1.0)) / 1e3;
          turned = turned || dimmer != was;
          tried = set(tried, b.light_path(l) + "/dimmer", dimmer);
        }
        if (!turned || !tried) continue;
        const Project changed = reader.read(*tried);
        auto then = look(changed);
        if (const double off = standing_exposed(changed, then); off < best)
          best = off, next.emplace(*std::move(tried), std::move(then));
      }
    if (next)
      document = std::move(next->first), levels = std::move(next->second), least = best;
    else
      step /= 2.0;
  }
}

/// A method's lays, exposed and balanced: ever the one after which what it is made for stands best.
class LaySearch {
 public:
  LaySearch(const Forecaster& looks, const Bench& bench, const Method& method, const std::atomic<bool>* cancel)
      : looks_(only_at(looks, {0.0, bench.shot.set_time() / 2, bench.shot.set_time()})),
        bench_(bench),
        method_(method),
        cancel_(cancel),
        asked_(method.levels) {
    for (const char* id : {"frame.gear", "camera.iso"}) asked_.emplace_back(id);
    asked_.insert(asked_.end(), moved_by_exposure().begin(), moved_by_exposure().end());
  }

  struct Found {
    Lay lay;
    Document document;
    bool stands;  ///< as far as it was looked at
  };
  /// The best of those beside `from` and beside one another; nothing where it cannot be built.
  std::optional<Found> best(const Lay& from) {
    std::vector<Lay> first{from};
    if (made_for("light.product")) first.push_back(from), first.back().label = !from.label;
    look(first);
    for (int round = 0; round < rounds && best_ && best_->off >= 1.0 && !ended(); ++round)
      if (!look(beside(best_->lay))) break;
    if (!best_) return std::nullopt;
    return Found{best_->lay, std::move(best_->document), best_->off < 1.0};
  }

 private:
  struct Tried {
    Lay lay;
    Document document;
    double off;
  };
  static constexpr int rounds = 6;

  [[nodiscard]] bool ended() const { return cancel_ && cancel_->load(); }

  /// One thing differs; none goes farther than a set allows.
  [[nodiscard]] std::vector<Lay> beside(const Lay& lay) const {
    std::vector<Lay> list;
    const bool strip = striped();  // which stands where its image is wanted
    const auto with = [&](double Lay::*member, double value, double low, double high) {
      Lay next = lay;
      next.*member = value;
      if (value >= low && value <= high) list.push_back(next);
    };
    if (!strip) {
      with(&Lay::toward, lay.toward + 25, -45, 80), with(&Lay::toward, lay.toward - 25, -45, 80);
      with(&Lay::higher, lay.higher - 20, -45, 45), with(&Lay::higher, lay.higher + 20, -45, 45);
    }
    with(&Lay::distance, lay.distance * 0.7, 0.3, 2.5), with(&Lay::distance, lay.distance * 1.4, 0.3, 2.5);
    with(&Lay::size, lay.size * 1.4, 0.5, 2.8), with(&Lay::size, lay.size / 1.4, 0.5, 2.8);
    with(&Lay::cards, lay.cards * 0.7, 0.3, 1.0);
    if (grounded())
      for (const double farther : {2.0, 1.3, 1.0 / 1.3}) with(&Lay::ground, lay.ground * farther, 0.6, 3.0);
    if (made_for("light.product")) {
      Lay other = lay;
      other.label = !lay.label;
      list.push_back(other);
    }
    return list;
  }

  /// False where none of them stands better than the best so far.
  bool look(const std::vector<Lay>& lays) {
    std::vector<std::optional<Tried>> tried(lays.size());
    on_all_cores(lays.size(), [&](std::size_t i) {
      if (!ended() && std::find(seen_.begin(), seen_.end(), lays[i]) == seen_.end()) tried[i] = laid(lays[i]);
    });
    seen_.insert(seen_.end(), lays.begin(), lays.end());
    bool better = false;
    for (auto& one : tried)
      if (one && (!best_ || one->off < best_->off - 0.02)) best_ = std::move(one), better = true;
    return better;
  }

  [[nodiscard]] bool made_for(const char* level) const {
    return std::find(method_.levels.begin(), method_.levels.end(), level) != method_.levels.end();
  }
  [[nodiscard]] bool striped() const { return made_for("light.stripe"); }
  [[nodiscard]] bool grounded() const { return made_for("light.even"); }

  [[nodiscard]] std::optional<Tried> laid(const Lay& lay) const {
    Arrangement arrangement(bench_, lay);
    if (lay.label && arrangement.lamps() <= std::max(1, method_.lamps)) return std::nullopt;
    arrangement.build(method_);
    auto built = arrangement.set_up(method_);
    // What a card is held by serves a lamp first.
    const auto whole = built;
    ProjectReader reader;
    for (bool left = true; left && built && !newly_short(bench_.project, reader.read(*built)).empty();) {
      left = arrangement.without_last_card();
      built = left ? arrangement.set_up(method_) : whole;
    }
    if (!built || !validate(*built).empty()) return std::nullopt;
    const Project project = reader.read(*built);
    if (lights_from_above(project, *project.shots[bench_.index]) > lights_from_above(bench_.project, bench_.shot))
      return std::nullopt;
    Document document =
        striped() ? with_stripes(looks_, *built, bench_.index, static_cast<std::size_t>(method_.lamps), cancel_)
                  : *std::move(built);
    const LevelLook look = [this](const Project& p) {
      return looks_.some_levels(p, bench_.index, asked_, cancel_);
    };
    auto levels = look(reader.read(document));
    for (const Level& level : levels)
      if (level.id == "light.product" && level.value && std::abs(*level.value) > 0.2)
        if (const auto next = dimmed(document, bench_.index, std::exp2(-*level.value))) {
          document = *next, levels = look(reader.read(document));
          break;
        }
    balance(look, method_, document, bench_.index, levels, cancel_);
    if (ended()) return std::nullopt;
    settle_exposure(look, document, bench_.index, levels, method_.levels);
    const double off = standing(method_, levels);
    return Tried{lay, std::move(document), off};
  }

  const Forecaster looks_;
  const Bench& bench_;
  const Method& method_;
  const std::atomic<bool>* cancel_;
  std::optional<Tried> best_;
  std::vector<std::string> asked_;  ///< the levels that it is searched by
  std::vector<Lay> seen_;
};

/// As it stands when looked at closely, its lamps balanced.
MethodStanding closely(const Forecaster& forecaster, const Method& method, Document document, std::size_t shot,
                       const std::atomic<bool>* cancel) {
  ProjectReader reader;
  auto levels = forecaster.levels(reader.read(document), shot, {}, cancel);
  balance([&](const Project& p) { return forecaster.levels(p, shot, {}, cancel); }, method, document, shot, levels,
          cancel);
  settle_exposure(forecaster, document, shot, levels, method.levels);
  return {&method, std::move(document), of_method(method, levels)};
}

/// What it is made for brought home by levers.
MethodStanding levelled(const Forecaster& forecaster, const Method& method, Document document, std::size_t shot,
                        const std::atomic<bool>* cancel) {
  const auto levels_of = [&](const Document& d) {
    ProjectReader reader;
    return forecaster.levels(reader.read(d), shot, {}, cancel);
  };
  auto levels = levels_of(document);
  // Of all levers of what is off, ever the one after which the method's own levels stand best.
  constexpr int most_levers = 5;
  const auto weight = [&](const std::vector<Level>& all) { return standing(method, all); };
  for (int pulled = 0; pulled < most_levers && weight(levels) >= 1.0; ++pulled) {
    double best = weight(levels) - 0.02;
    std::optional<std::pair<Document, std::vector<Level>>> next;
    for (const Level& level : of_method(method, levels)) {
      if (level.state != State::out || (cancel && cancel->load())) continue;
      for (const Lever& lever :
           forecaster.levers(document, shot, level.id, cancel, {.known = levels, .together = false}).list) {
        if (lever.not_owned) continue;
        Document then = applied(document, lever.edit);
        auto stand = levels_of(then);
        settle_exposure(forecaster, then, shot, stand, method.levels);
        if (weight(stand) < best) best = weight(stand), next.emplace(std::move(then), std::move(stand));
      }
    }
    if (!next) break;
    document = std::move(next->first), levels = std::move(next->second);
  }
  return {&method, document, of_method(method, levels)};
}

}  // namespace

Expected<std::vector<MethodStanding>> methods_for(const Forecaster& forecaster, const Document& document,
                                                  std::size_t shot, const std::string& name,
                                                  const std::atomic<bool>* cancel) {
  ProjectReader reader;
  const Project project = reader.read(document);
  const Bench bench(document, project, shot);
  const std::string place = fmt::format("shot {}", shot + 1);
  if (!bench.setup) return fail(place, "has no set-up", "give it one");
  if (!bench.shot.camera || bench.shot.products.empty())
    return fail(place, "has no camera or no product", "give it both");
  const Product* product = by_id(project.products, bench.shot.products.front().product);
  if (!product) return fail(place, "shows a product that is not there", "choose one of the project's");
  const auto made_of = materials_of(*product);
  const auto rule = project.rule<BackdropRule>(bench.shot);
  const int lamps = Arrangement(bench).lamps();
  std::vector<const Method*> suit;
  std::size_t suiting = 1;  // of them; the others are for anything
  if (!name.empty()) {
    std::string all;
    for (const Method& m : methods()) {
      if (m.id == name) suit.push_back(&m);
      all += (all.empty() ? "" : ", ") + m.id;
    }
    if (suit.empty()) return fail("--name " + name, "is no method", "give one of " + all);
    if (suit.front()->lamps > lamps)
      return fail("--name " + name, fmt::format("needs {} lights, and {} are owned", suit.front()->lamps, lamps),
                  "add them to the kit");
  } else {
    // By the product's most telling material first; those for the house rule before those for any.
    const auto rank = [&](const Method& m) {
      std::size_t best = made_of.size();
      for (std::size_t i = made_of.size(); i-- > 0;)
        if (std::find(m.materials.begin(), m.materials.end(), made_of[i]) != m.materials.end()) best = i;
      return std::pair{best, m.rule == rule ? 0 : 1};
    };
    const bool daylight = lamps == 0 || project.rule<AmbientRule>(bench.shot) == AmbientRule::window;
    const auto can_be = [&](const Method& m) { return m.lamps == 0 ? daylight : m.lamps <= lamps; };
    for (const Method& m : methods())
      if (can_be(m) && (!m.rule || m.rule == rule) && rank(m).first < made_of.size()) suit.push_back(&m);
    std::stable_sort(suit.begin(), suit.end(),
                     [&](const Method* a, const Method* b) { return rank(*a) < rank(*b); });
    suiting = suit.size();
    for (const Method& m : methods())  // something for everything
      if (!m.rule && can_be(m) && std::find(suit.begin(), suit.end(), &m) == suit.end() &&
          (m.id == "big-side" || m.id == "one-strip" || m.id == "window-side" || m.id == "window-front"))
        suit.push_back(&m);
  }
  // Those that stand come first; others only where there is hardly one that does, after levers were tried.
  std::vector<MethodStanding> out;
  std::size_t stand = 0, tried = 0;
  const auto ended = [cancel] { return cancel && cancel->load(); };
  for (const Method* method : suit) {
    if (stand >= (tried < suiting ? most_offered : least_offered) || tried++ == most_tried || ended()) break;
    auto laid = LaySearch(roughly(forecaster), bench, *method, cancel).best({});
    if (!laid && !name.empty() && !ended())
      return fail(
          "--name " + name, "cannot be built in this set-up",
          "take away tracks of lights that move or peak in its shots, or a house rule against lights from above");
    if (!laid) continue;
    out.push_back(closely(forecaster, *method, std::move(laid->document), shot, cancel));
    if (laid->stands && !stands(out.back()))  // the rough looks misled
      if (auto again = LaySearch(forecaster, bench, *method, cancel).best(laid->lay)) {
        auto other = closely(forecaster, *method, std::move(again->document), shot, cancel);
        if (standing(*method, other.levels) < standing(*method, out.back().levels)) out.back() = std::move(other);
      }
    stand += stands(out.back()) ? 1 : 0;
  }
  const auto those_that_stand_first = [&] {
    std::sort(out.begin(), out.end(), [&suit](const MethodStanding& a, const MethodStanding& b) {
      const auto place = [&suit](const MethodStanding& one) {
        return std::tuple(stands(one) ? 0.0 : standing(*one.method, one.levels),
                          std::find(suit.begin(), suit.end(), one.method));
      };
      return place(a) < place(b);
    });
  };
  those_that_stand_first();
  for (MethodStanding& one : out) {
    const bool first = one.method == suit.front();  // it tells most
    if ((stand >= least_offered && !first) || stands(one) || ended()) continue;
    one = levelled(forecaster, *one.method, std::move(one.after), shot, cancel);
    stand += stands(one) ? 1 : 0;
  }
  those_that_stand_first();
  if (const std::size_t kept = std::min(most_offered, std::max(stand, least_offered)); out.size() > kept)
    out.erase(out.begin() + static_cast<std::ptrdiff_t>(kept), out.end());
  return out;
}

}  // namespace cinnabar
