#include "cinnabar/forecast/moves/ready_moves.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/moves/exposing.h"
#include "cinnabar/forecast/moves/move_bench.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/scene/effects_staged.h"

namespace cinnabar {
namespace {

/// Apertures a third of a stop apart, from one to another.
std::vector<double> third_stops(double from, double to) {
  std::vector<double> list{from};
  for (auto k = std::lround(6.0 * std::log2(std::max(0.5, from)) + 1); k < 60; ++k) {
    const double f = std::round(std::pow(2.0, k / 6.0) * 10) / 10;
    if (f > to * 1.001) break;
    if (f > list.back() + 0.05) list.push_back(f);
  }
  return list;
}

/// The shot's own exposure, turned until the product's lit face meets its target: ISO first, then what is left by
/// stopping down or ND where it is too bright, by opening where it is too dark, and by the dimmers of a set-up
/// that is the move's own.
class Exposing {
 public:
  Exposing(const Forecaster& forecaster, Document& document, std::size_t shot, std::string own_setup)
      : forecaster_(forecaster), document_(document), shot_(shot), own_(std::move(own_setup)) {}

  void expose() {
    for (int round = 0; round < 3; ++round) {
      // With the lights as they are at the end: a reveal is dark on purpose before.
      ProjectReader reader, ended_reader;
      const Project project = reader.read(document_);
      Document ended = document_;
      Json json = *document_.list("shots")[shot_];
      if (json.contains("tracks"))
        std::erase_if(json["tracks"].get_ref<Json::array_t&>(),
                      [](const Json& t) { return t.at("target").get<std::string>().starts_with("light."); });
      ended.lists["shots"][shot_] = std::make_shared<const Json>(std::move(json));
      const Project lit = ended_reader.read(ended);
      const auto levels = forecaster_.levels(lit, shot_, "light.product");
      const auto needed =
          levels.empty() || !levels[0].value ? forecaster_.levels(lit, shot_, "camera.stops") : levels;
      if (needed.empty() || !needed[0].value) return;
      const double over = *needed[0].value;
      if (std::abs(over) < 0.2) return;
      turn(project, std::clamp(over, -12.0, 12.0));
    }
  }

 private:
  void put(const std::string& key, double value) {
    if (auto next = with_value(document_, fmt::format("/shots/{}/camera/{}", shot_, key), value))
      document_ = std::move(*next);
  }
  void turn(const Project& project, double over) {
    const Shot& shot = *project.shots[shot_];
    if (!shot.camera) return;
    const ShotCamera& c = *shot.camera;
    const ShotOptics o = shot_optics(project, c);
    const double most = std::max(o.iso_low, std::min(o.iso_high, project.iso_limit.value_or(1600.0)));
    const double iso = std::clamp(c.iso * std::pow(2.0, -over), o.iso_low, most);
    put("iso", std::round(iso));
    double left = over + std::log2(iso / c.iso);
    if (left > 0.1) {  // still too bright: ND keeps the depth that was chosen
      put("nd_stops", std::round((c.nd_stops + left) * 3) / 3);
      return;
    }
    if (left < -0.1 && c.nd_stops > 0) {
      const double given = std::min(c.nd_stops, -left);
      put("nd_stops", std::round((c.nd_stops - given) * 3) / 3);
      left += given;
    }
    if (left < -0.1 && !own_.empty()) left += brighten(project, -left);
    if (left < -0.1) {
      const double open = std::max(o.f_number_low, c.f_number * std::pow(2.0, left / 2.0));
      put("f_number", std::round(open * 10) / 10);
    }
  }
  /// Dimmers of the own set-up up by as many stops as the most open of them has; how many that were.
  double brighten(const Project& project, double stops) {
    const Setup* setup = by_id(project.setups, own_);
    if (!setup || setup->lights.empty()) return 0.0;
    double most = 0.0;
    for (std::size_t l = 0; l < setup->own_lights(); ++l) most = std::max(most, setup->lights[l].dimmer);
    if (most <= 0.0) return 0.0;
    const double by = std::min(stops, -std::log2(most));
    if (by <= 0.05) return 0.0;
    for (std::size_t s = 0; s < project.setups.size(); ++s)
      if (project.setups[s].get() == setup)
        for (std::size_t l = 0; l < setup->own_lights(); ++l)
          if (auto next = with_value(document_, fmt::format("/setups/{}/lights/{}/dimmer", s, l),
                                     setup->lights[l].dimmer * std::pow(2.0, by)))
            document_ = std::move(*next);
    return by;
  }

  const Forecaster& forecaster_;
  Document& document_;
  std::size_t shot_;
  std::string own_;
};

/// Stops down, and moves the sharp plane, until what must be sharp is, as far as diffraction allows. Neither needs
/// light. A move that pulls focus keeps its marks.
void reach_depth(const Forecaster& forecaster, Document& document, std::size_t shot) {
  ProjectReader reader;
  const auto value = [&](const Document& tried, const char* id) -> std::optional<double> {
    const auto levels = forecaster.levels(reader.read(tried), shot, id);
    return levels.empty() ? std::nullopt : levels[0].value;
  };
  const Project project = reader.read(document);
  const Shot& now = *project.shots[shot];
  const auto short_of = value(document, "focus.depth");
  if (!now.camera || !short_of || *short_of >= 0.3 || now.track(Tracked::camera_focus)) return;
  const ShotOptics optics = shot_optics(project, *now.camera);
  const std::string camera = fmt::format("/shots/{}/camera/", shot);
  double best = *short_of;
  for (const double f : third_stops(now.camera->f_number, optics.f_number_high)) {
    bool clear = true;
    for (const double shift : {0.0, -0.12, 0.12, -0.25, 0.25}) {  // of the product's depth of focus now
      const double focus = now.camera->focus + shift * std::abs(*short_of) * 1e-3;
      const auto tried = with_values(document, {{camera + "f_number", Json(f)}, {camera + "focus", Json(focus)}});
      if (!tried) continue;
      if (shift == 0.0) {
        const auto blur = value(*tried, "focus.diffraction");
        if (!blur || *blur > 2.0) {
          clear = false;
          break;
        }
      }
      if (const auto got = value(*tried, "focus.depth"); got && *got > best + 0.02) {
        best = *got;
        document = *tried;
      }
    }
    if (!clear || best >= 0.3) return;
  }
}

/// The shot with the effect that its move is about, let go in time. What is to fall into a liquid that is not
/// there is a drop that meets the product as it is.
void begin_effect(Document& document, std::size_t shot, const std::string& kind) {
  std::vector<std::string> kinds{kind};
  if (kind == "splash") kinds.emplace_back("drop");
  for (const std::string& id : kinds) {
    const EffectKind* known = effect_kind(id);
    if (!known) return;
    ProjectReader reader;
    Json list = Json::array();
    list.push_back(begun_effect(reader.read(document), shot, *known));
    if (id == "burst") list[0]["water"] = 0.0;  // it is a box that opens here
    const auto with = with_values(document, {{fmt::format("/shots/{}/effects", shot), list}});
    if (!with) return;
    const Project then = reader.read(*with);
    if (!told_effects(then, *then.shots[shot]).front().outcome) continue;
    document = *with;
    return;
  }
}

/// Whether an edit leaves everything alone but the new shot and its own set-up.
bool keeps_to(const Edit& edit, const std::string& shot, const std::string& own_setup) {
  return std::all_of(edit.changes.begin(), edit.changes.end(), [&](const Change& c) {
    return (c.list == "shots" && c.id == shot) || (c.list == "setups" && !own_setup.empty() && c.id == own_setup);
  });
}

}  // namespace

const std::vector<ReadyMove>& ready_moves() {
  static const std::vector<ReadyMove> moves = [] {
    std::vector<ReadyMove> list;
    for (const MoveEntry& entry : move_table()) list.push_back(entry.move);
    return list;
  }();
  return moves;
}
const ReadyMove* ready_move(const std::string& id) {
  const auto found =
      std::find_if(ready_moves().begin(), ready_moves().end(), [&](const ReadyMove& m) { return m.id == id; });
  return found == ready_moves().end() ? nullptr : &*found;
}

Expected<MoveMade> with_move(const Forecaster& forecaster, const Document& document, const std::string& move,
                             std::size_t after, const MoveOptions& options, const std::atomic<bool>* cancel) {
  const auto entry = std::find_if(move_table().begin(), move_table().end(),
                                  [&](const MoveEntry& e) { return e.move.id == move; });
  if (entry == move_table().end())
    return fail("move", "\"" + move + "\" is no ready move", "give one of the list");
  MoveBench bench(document, after, entry->move, options.setup, options.seconds);
  entry->make(bench);
  if (options.role) bench.shot["role"] = name_of(*options.role);
  if (!entry->move.later.empty()) bench.note(said("To be computed later: {}.", entry->move.later));
  MoveMade made;
  made.shot = bench.finish();
  made.document = std::move(bench.document());
  begin_effect(made.document, made.shot, entry->effect);
  const std::string shot_id = made.document.list("shots")[made.shot]->at("id"), own = bench.own_setup_id();
  reach_depth(forecaster, made.document, made.shot);
  Exposing(forecaster, made.document, made.shot, own).expose();

  ProjectReader reader;
  const auto stopped = [&] { return cancel && cancel->load(); };
  const auto cancelled = [&] { return fail("move", "was not made: it was cancelled", "ask for it again"); };
  if (stopped()) return cancelled();
  made.levels = forecaster.levels(reader.read(made.document), made.shot, {}, cancel);
  if (stopped()) return cancelled();
  settle_exposure(forecaster, made.document, made.shot, made.levels);
  // Levers that touch nothing but this shot, kept where they help on the whole. What only light could mend takes a
  // picture for every step of the search: that is left to the level's own levers.
  std::set<std::string> tried;
  for (int pulled = 0; options.levelling && pulled < options.levers && weight_of(made.levels) > 0;) {
    const Level* worst = nullptr;
    for (const Level& l : made.levels)
      if ((l.state == State::out || l.state == State::leaning) && !tried.contains(l.id) &&
          !l.id.starts_with("light.") && (!worst || (l.state == State::out && worst->state != State::out)))
        worst = &l;
    if (!worst) break;
    const std::string id = worst->id;
    tried.insert(id);
    const auto levers =
        forecaster.levers(made.document, made.shot, id, cancel, {.known = made.levels, .together = false});
    if (stopped()) return cancelled();
    for (const Lever& lever : levers.list) {
      if (!keeps_to(lever.edit, shot_id, own)) continue;
      Document next = applied(made.document, lever.edit);
      const double lasts = next.list("shots")[made.shot]->value("screen_time", 0.0);
      if (options.seconds && std::abs(lasts - *options.seconds) > 1e-6) continue;  // the cut stays where it is
      auto levels = forecaster.levels(reader.read(next), made.shot, {}, cancel);
      if (stopped()) return cancelled();
      if (weight_of(levels) >= weight_of(made.levels)) continue;
      made.document = std::move(next);
      made.levels = std::move(levels);
      made.done.push_back(lever.title);
      ++pulled;
      break;
    }
  }
  return made;
}

}  // namespace cinnabar
