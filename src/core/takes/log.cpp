#include "cinnabar/takes/log.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "cinnabar/base/encoding.h"
#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/project/document/json_text.h"

namespace cinnabar {

Expected<Edit> take_edit(const Document& document, const NewTake& take) {
  const Json* shot = document.find("shots", take.shot);
  if (!shot) return fail(take.shot, "is no shot of this project", "name one of its shots");
  int number = 1;
  std::set<std::string> ids;
  for (const JsonPtr& t : document.list("takes")) {
    ids.insert(t->at("id").get<std::string>());
    if (t->value("shot", "") == take.shot) number = std::max(number, t->value("number", 0) + 1);
  }
  std::size_t k = ids.size() + 1;
  while (ids.contains("t" + std::to_string(k))) ++k;
  Json entry{{"id", "t" + std::to_string(k)}, {"shot", take.shot},  {"number", number}, {"kept", take.kept},
             {"reasons", take.reasons},       {"notes", take.notes}};
  if (!take.at.empty()) entry["at"] = take.at;
  Document next = document;
  next.lists["takes"].push_back(std::make_shared<const Json>(std::move(entry)));
  return edit_between(document, next, said("Take {} {}", number, take.kept ? "kept" : "dropped"));
}

std::optional<TakesLeft> ShotLog::left() const {
  if (further() == 0) return std::nullopt;
  const auto answer = takes_left({.tried = static_cast<double>(tried),
                                  .kept = static_cast<double>(kept),
                                  .wanted = static_cast<double>(further())});
  return answer ? std::optional(*answer) : std::nullopt;
}

ShotLog shot_log(const Project& project, const Shot& shot) {
  ShotLog log;
  log.wanted = shot.keepers_wanted;
  for (const auto& take : project.takes) {
    if (take->shot != shot.id) continue;
    log.takes.push_back(take);
    ++log.tried;
    log.kept += take->kept ? 1 : 0;
  }
  std::stable_sort(log.takes.begin(), log.takes.end(),
                   [](const auto& a, const auto& b) { return a->number < b->number; });
  return log;
}

std::vector<UseLeft> uses_left(const Project& project, const Shot& shot) {
  std::vector<UseLeft> list;
  for (const Use& use : shot.uses) {
    const Consumable* of = by_id(project.consumables, use.consumable);
    if (!of) continue;
    double used = 0.0;
    for (const auto& other : project.shots)
      for (const Use& theirs : other->uses)
        if (theirs.consumable == use.consumable)
          used += theirs.amount *
                  static_cast<double>(std::count_if(project.takes.begin(), project.takes.end(),
                                                    [&](const auto& take) { return take->shot == other->id; }));
    const double left = of->stock - used;
    const double takes = use.amount > 0.0 ? std::floor(std::max(0.0, left) / use.amount + 1e-9) : 1e6;
    list.push_back({of->name, of->unit, use.amount, left, static_cast<int>(std::min(takes, 1e6))});
  }
  return list;
}

double minutes_for(const Shot& shot, double takes) {
  return takes * (shot.set_time() / 60.0 + shot.reset_minutes);
}

std::vector<std::size_t> ordered_takes(const ShotLog& log, TakeOrder order,
                                       const std::vector<std::optional<std::size_t>>& changes, bool one_only) {
  const auto changed = [&](std::size_t k) { return k < changes.size() ? changes[k] : std::nullopt; };
  std::vector<std::size_t> places;
  for (std::size_t k = log.takes.size(); k-- > 0;)
    if (!one_only || changed(k) == 1u) places.push_back(k);
  const auto by = [&](auto less) { std::stable_sort(places.begin(), places.end(), less); };
  switch (order) {
    case TakeOrder::newest:
      break;
    case TakeOrder::oldest:
      std::reverse(places.begin(), places.end());
      break;
    case TakeOrder::fewest_changes:
      by([&](std::size_t a, std::size_t b) {
        return changed(a).value_or(1u << 30) < changed(b).value_or(1u << 30);
      });
      break;
    case TakeOrder::kept_first:
      by([&](std::size_t a, std::size_t b) { return log.takes[a]->kept > log.takes[b]->kept; });
      break;
    case TakeOrder::reason:
      by([&](std::size_t a, std::size_t b) { return log.takes[a]->reasons < log.takes[b]->reasons; });
      break;
  }
  return places;
}

std::vector<std::string> reasons_offered(const Project& project, const Shot& shot, std::size_t count) {
  std::map<std::string, std::pair<int, std::size_t>>
      uses;  // how often in this shot, and the first place in the log
  std::size_t place = 0;
  for (const auto& take : project.takes)
    for (const std::string& reason : take->reasons) {
      auto& use = uses.try_emplace(reason, 0, place++).first->second;
      use.first += take->shot == shot.id ? 100 : 1;
    }
  std::vector<std::pair<std::string, std::pair<int, std::size_t>>> sorted(uses.begin(), uses.end());
  std::sort(sorted.begin(), sorted.end(), [](const auto& a, const auto& b) {
    return std::pair(-a.second.first, a.second.second) < std::pair(-b.second.first, b.second.second);
  });
  std::vector<std::string> list;
  for (const auto& [reason, use] : sorted) list.push_back(reason);
  for (const char* common :
       {"label turned", "late", "focus", "highlight", "smeared", "dust", "shadow of hand", "other"})
    if (std::find(list.begin(), list.end(), common) == list.end()) list.emplace_back(common);
  if (list.size() > count) list.resize(count);
  return list;
}

namespace {

using Phrases = std::vector<std::string>;

std::string value_text(const Json& v) {
  if (v.is_null()) return "none";
  if (v.is_number()) return number_text(v.get<double>());
  if (v.is_boolean()) return v.get<bool>() ? "on" : "off";
  if (v.is_string()) return v.get<std::string>();
  return clipped(json_text(v), 40);
}

std::string spaced(std::string key) {
  std::replace(key.begin(), key.end(), '_', ' ');
  return key;
}

Vec3 vec(const Json& v) { return {v[0].get<double>(), v[1].get<double>(), v[2].get<double>()}; }
bool is_point(const Json& v) {
  return v.is_array() && v.size() == 3 && v[0].is_number() && v[1].is_number() && v[2].is_number();
}

/// A member that changed, in the trade's words.
std::string member_words(const std::string& name, const std::string& key, const Json& before, const Json& after) {
  const std::string lead = name.empty() ? "" : name + " ";
  const bool numbers = before.is_number() && after.is_number();
  const double a = numbers ? before.get<double>() : 0, b = numbers ? after.get<double>() : 0;
  if (key == "dimmer" && numbers && a > 0 && b > 0) return lead + signed_text(std::log2(b / a), 1) + " stop";
  if (key == "iso" && numbers) return lead + "ISO " + number_text(a, 6) + " to " + number_text(b, 6);
  if (key == "f_number" && numbers) return lead + "f/" + number_text(a, 3) + " to f/" + number_text(b, 3);
  if (key == "shutter_time" && numbers) return lead + "shutter " + shutter_text(a) + " to " + shutter_text(b);
  if (key == "focal" && numbers)
    return lead + "lens " + number_text(a * 1e3, 3) + " to " + number_text(b * 1e3, 3) + " mm";
  if (key == "focus" && numbers) return lead + said("focus {:.3f} to {:.3f} m", a, b);
  if (key == "kelvin" && numbers) return lead + said("{:.0f} to {:.0f} K", a, b);
  if (key == "on" && before.is_boolean() && after.is_boolean())
    return lead + (after.get<bool>() ? "switched on" : "switched off");
  if (is_point(before) && is_point(after)) {
    const double moved = length(vec(after) - vec(before));
    return lead + (key == "aim" ? "aim " : "") + "moved " + length_text(moved);
  }
  if (key == "keys" && before.is_array() && after.is_array() && !before.empty() && !after.empty()) {
    const auto ends = [](const Json& keys) {
      return number_text(keys.front().at(1).get<double>()) + " to " +
             number_text(keys.back().at(1).get<double>()) + " in " +
             number_text(keys.back().at(0).get<double>() - keys.front().at(0).get<double>(), 3) + " s";
    };
    return lead + ends(before) + ", now " + ends(after);
  }
  if (key == "play" && after.is_array() && !after.empty())
    return lead + "plays at " + number_text(after.front().at(1).get<double>() * 100, 3) + " %";
  if (before.is_array() || after.is_array() || before.is_object() || after.is_object())
    return lead + spaced(key) + " changed";
  return lead + spaced(key) + " " + value_text(before) + " to " + value_text(after);
}

void differences(const std::string& name, const Json& before, const Json& after, Phrases& words);

/// Lists of things with ids: each by its own name.
void list_differences(const std::string& fallback, const Json& before, const Json& after, Phrases& words) {
  const auto name_of = [&](const Json& item) {
    return item.value("name", item.value("target", item.value("product", item.value("id", fallback))));
  };
  const auto key_of = [](const Json& item) {
    return item.value("id", item.value("target", item.value("product", "")));
  };
  std::map<std::string, const Json*> old;
  for (const Json& item : before)
    if (item.is_object()) old[key_of(item)] = &item;
  for (const Json& item : after) {
    if (!item.is_object()) continue;
    const auto was = old.find(key_of(item));
    if (was == old.end()) {
      words.push_back(name_of(item) + " added");
      continue;
    }
    differences(name_of(item), *was->second, item, words);
    old.erase(was);
  }
  for (const auto& [key, item] : old) words.push_back(name_of(*item) + " taken away");
}

void differences(const std::string& name, const Json& before, const Json& after, Phrases& words) {
  if (before == after) return;
  static const std::set<std::string> silent{"name", "notes", "takes_planned", "keepers_wanted", "needs", "size"};
  std::set<std::string> keys;
  for (const Json* j : {&before, &after})
    for (const auto& [key, value] : j->items()) keys.insert(key);
  // A thing whose place and aim moved together, or along its own line, is said once, by its distance.
  const bool has_aim =
      before.contains("aim") && after.contains("aim") && before.contains("place") && after.contains("place");
  bool said_place = false;
  if (has_aim && before["place"] != after["place"] && before["aim"] == after["aim"] && is_point(before["place"]) &&
      is_point(after["place"])) {
    const double a = length(vec(before["place"]) - vec(before["aim"])),
                 b = length(vec(after["place"]) - vec(after["aim"]));
    if (std::abs(a - b) > 0.004) {
      words.push_back(said("{} {} to {} away", name.empty() ? "camera" : name, length_text(a), length_text(b)));
      said_place = true;
    }
  }
  for (const std::string& key : keys) {
    const Json was = before.contains(key) ? before[key] : Json(), is = after.contains(key) ? after[key] : Json();
    if (was == is || silent.contains(key) || (key == "place" && said_place)) continue;
    const bool lists =
        (was.is_array() || is.is_array()) && ((was.is_array() && !was.empty() && was[0].is_object()) ||
                                              (is.is_array() && !is.empty() && is[0].is_object()));
    if (lists)
      list_differences(spaced(key), was.is_array() ? was : Json::array(), is.is_array() ? is : Json::array(),
                       words);
    else if (was.is_object() && is.is_object())
      differences(key == "camera" || key == "locked" ? (key == "locked" ? "lock" : "") : spaced(key), was, is,
                  words);
    else
      words.push_back(member_words(name, key, was, is));
  }
}

}  // namespace

std::vector<std::string> changes_in_words(const std::vector<EntityChange>& changes, const Json& shot) {
  std::set<std::string> seen{"shots/" + shot.value("id", ""), "setups/" + shot.value("setup", "")};
  for (const Json& p : shot.value("products", Json::array())) {
    seen.insert("products/" + p.value("product", ""));
    seen.insert("kit/supports/" + p.value("on", ""));
  }
  if (const auto camera = shot.find("camera"); camera != shot.end()) {
    seen.insert("kit/cameras/" + camera->value("camera", ""));
    seen.insert("kit/lenses/" + camera->value("lens", ""));
  }
  Phrases words;
  for (const EntityChange& c : changes) {
    const bool relevant = seen.contains(c.list + "/" + c.id) || c.list == "kit/lights";
    if (!relevant || !c.before || !c.after) continue;
    const std::string name = c.list == "shots" ? "" : c.list == "setups" ? "" : c.after->value("name", c.id);
    differences(name, *c.before, *c.after, words);
  }
  return words;
}

}  // namespace cinnabar
