// Wishes that a level measures: its band is set to what is wanted, and its levers are the answers.
#include <fmt/format.h>

#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/measures/light_numbers.h"
#include "cinnabar/forecast/wishes/granting.h"

namespace cinnabar {
namespace {

/// Values that lead from one JSON to another, objects and lists of one length gone into.
void differing(const std::string& pointer, const Json& before, const Json& after, Values& out) {
  if (before == after) return;
  if (before.is_object() && after.is_object()) {
    for (const auto& [key, value] : after.items())
      if (before.contains(key))
        differing(pointer + "/" + key, before[key], value, out);
      else
        out.emplace_back(pointer + "/" + key, value);
    for (const auto& [key, value] : before.items())
      if (!after.contains(key)) out.emplace_back(pointer + "/" + key, std::nullopt);
    return;
  }
  const bool same_list = before.is_array() && after.is_array() && before.size() == after.size() &&
                         !before.empty() && before[0].is_object();
  if (!same_list) {
    out.emplace_back(pointer, after);
    return;
  }
  for (std::size_t i = 0; i < before.size(); ++i)
    differing(pointer + "/" + std::to_string(i), before[i], after[i], out);
}

/// An edit as values by pointer; nothing where it adds or removes whole entities.
std::optional<Values> values_of(const Document& document, const Edit& edit) {
  Values out;
  for (const Change& change : edit.changes) {
    if (!change.before || !change.after) return std::nullopt;
    std::string pointer = "/" + (change.list.empty() ? change.id : change.list);
    if (!change.list.empty()) {
      const auto list = value_at(document, pointer);
      std::size_t index = 0;
      while (list && index < list->size() && (*list)[index].value("id", "") != change.id) ++index;
      if (!list || index >= list->size()) return std::nullopt;
      pointer += "/" + std::to_string(index);
    }
    differing(pointer, *change.before, *change.after, out);
  }
  return out;
}

struct ByLevel {
  std::string level;
  Band band;
  std::string backdrop_rule;  ///< under which it is measured; empty: as it is
  std::function<bool(const Document&)> also = {};
  std::string also_not = {};
};

Expected<Grants> by_level(const WishBench& b, const ByLevel& w) {
  Json band = Json::object();
  band["low"] = w.band.low ? Json(*w.band.low) : Json(nullptr);
  band["high"] = w.band.high ? Json(*w.band.high) : Json(nullptr);
  Document scratch = b.document;
  for (const char* parent : {"/bands"})
    if (!value_at(scratch, parent)) scratch = with_value(scratch, parent, Json::object()).value_or(scratch);
  if (const auto set = with_value(scratch, "/bands/" + w.level, band)) scratch = *set;
  if (!w.backdrop_rule.empty()) {
    const std::string rules = fmt::format("/shots/{}/house_rules", b.shot);
    if (!value_at(scratch, rules)) scratch = with_value(scratch, rules, Json::object()).value_or(scratch);
    if (const auto set = with_value(scratch, rules + "/backdrop", w.backdrop_rule)) scratch = *set;
  }
  ProjectReader reader;
  const Project project = reader.read(scratch);
  const auto now = b.forecaster.sure_levels(project, b.shot, w.level, b.cancel);
  if (now.empty()) return fail(w.level, "does not apply to this shot", "see `forecast` for what does");
  const Level& level = now.front();
  if (!level.value) return fail(w.level, "cannot be told here: " + level.formula, "set that right first");
  Grants out;
  const bool sided = !w.also || w.also(b.document);
  if (badness(*level.value, w.band) <= 1e-9 && sided) {
    out.list.push_back({said("It is so already"), {}, *level.value, true});
    return out;
  }
  out.short_of = std::max(0.0, badness(*level.value, w.band));
  out.why = sided ? level.sentence : w.also_not;
  if (b.look_only) return out;
  const auto levers = b.forecaster.levers(scratch, b.shot, w.level, b.cancel);
  if (!levers.why.empty()) out.why = levers.why;
  for (const Lever& lever : levers.list) {
    if (lever.not_owned || badness(lever.after, w.band) > 1e-9) continue;
    auto values = values_of(scratch, lever.edit);
    if (!values) continue;
    const auto after = with_values(b.document, *values);
    if (!after || (w.also && !w.also(*after))) continue;
    out.list.push_back({lever.title, std::move(*values), lever.after, true});
  }
  return out;
}

Band about(double value, double by) { return {value - by, value + by}; }

/// Stops by which one side of the visible backdrop is brighter than the one across.
std::optional<double> brighter_side(const WishBench& b, const Document& document, const std::string& side) {
  ProjectReader reader;
  const Project project = reader.read(document);
  const auto m =
      b.forecaster.measures().at(project, *project.shots[b.shot], 0.0, b.forecaster.quality(), b.cancel);
  if (!m) return std::nullopt;
  const Film& film = m->measure->film;
  const Picture picture = mixed(film, m->weights);
  const Role role = backdrop_role(*m);
  double sums[2] = {0, 0};
  int counts[2] = {0, 0};
  for (int y = 0; y < film.height; ++y)
    for (int x = 0; x < film.width; ++x) {
      const std::size_t p = film.at(x, y);
      if (!film.first[p].mesh || film.first[p].mesh->role != role) continue;
      const double across = side == "left" || side == "right" ? (x + 0.5) / film.width : (y + 0.5) / film.height;
      if (across > 1.0 / 3 && across < 2.0 / 3) continue;
      const bool near = (side == "left" || side == "top") ? across <= 1.0 / 3 : across >= 2.0 / 3;
      sums[near ? 0 : 1] += luminance(picture.pixels[p]), ++counts[near ? 0 : 1];
    }
  if (!counts[0] || !counts[1] || sums[0] <= darkest || sums[1] <= darkest) return std::nullopt;
  return std::log2(sums[0] / counts[0] / (sums[1] / counts[1]));
}

}  // namespace

Expected<Grants> grant_backdrop(const WishBench& b, const Wish& w) {
  return by_level(b, {"light.backdrop", about(w.numbers.at("stops"), 0.2), "colour"});
}
Expected<Grants> grant_soft(const WishBench& b, const Wish& w) {
  return by_level(b, {"light.soft", about(w.numbers.at("mm"), 0.1 * w.numbers.at("mm")), ""});
}
Expected<Grants> grant_ratio(const WishBench& b, const Wish& w) {
  return by_level(b, {"light.ratio", about(w.numbers.at("stops"), 0.15), ""});
}
Expected<Grants> grant_even(const WishBench& b, const Wish& w) {
  return by_level(b, {"light.even", {{}, w.numbers.at("stops")}, "white"});
}
Expected<Grants> grant_gradient(const WishBench& b, const Wish& w) {
  return by_level(b, {"light.backdrop", about(w.numbers.at("stops"), 0.25), "gradient",
                      [&b, side = w.from](const Document& d) {
                        const auto stops = brighter_side(b, d, side);
                        return stops && *stops > 0.2;
                      },
                      said("the backdrop is not brightest at the {}", w.from)});
}

}  // namespace cinnabar
