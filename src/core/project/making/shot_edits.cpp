#include "cinnabar/project/making/shot_edits.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "cinnabar/project/document/variations.h"
#include "cinnabar/project/making/new_shot.h"
#include "cinnabar/project/model/entities.h"
#include "cinnabar/project/model/track_target.h"

namespace cinnabar {
namespace {

tl::unexpected<Error> no_shot(std::size_t shot) {
  return fail(fmt::format("shot {}", shot + 1), "is not there", "choose one of the list");
}
double tidy(double v) { return std::round(v * 1e6) / 1e6; }

Shot read_shot(const Document& document, std::size_t shot) {
  ProjectReader reader;
  return *reader.read(document).shots[shot];
}

Json points_of(const std::vector<SpeedPoint>& points) {
  Json list = Json::array();
  for (const SpeedPoint& p : points) list.push_back({tidy(p.set_time), tidy(p.speed)});
  return list;
}

/// A track from a set time on, counted from there, or until it: with what it is at the cut.
Json keys_from(const KeyedTrack& track, double cut) {
  std::vector<double> times{cut};
  for (const auto& key : track.keys)
    if (key.first > cut + 1e-6) times.push_back(key.first);
  return keys_json(track.resampled(times), -cut);
}
KeyedTrack until(const KeyedTrack& track, double cut) {
  std::vector<double> times;
  for (const auto& key : track.keys)
    if (key.first < cut - 1e-6) times.push_back(key.first);
  times.push_back(cut);
  return track.resampled(times);
}

/// A track as straight pieces where an eased move would be cut in its middle: each half of it eased anew would be
/// another move.
std::optional<KeyedTrack> straightened(const KeyedTrack& track, double cut) {
  if (track.shape == Shape::linear) return std::nullopt;
  for (std::size_t i = 0; i + 1 < track.keys.size(); ++i) {
    const auto [t0, v0] = track.keys[i];
    const auto [t1, v1] = track.keys[i + 1];
    if (v0 == v1 || cut <= t0 + 1e-6 || cut >= t1 - 1e-6) continue;
    std::vector<double> times;
    for (std::size_t k = 0; k + 1 < track.keys.size(); ++k) {
      const double from = track.keys[k].first, to = track.keys[k + 1].first;
      const int pieces = track.keys[k].second == track.keys[k + 1].second ? 1 : 32;
      for (int j = 0; j < pieces; ++j) times.push_back(tidy(from + (to - from) * j / pieces));
    }
    times.push_back(track.keys.back().first);
    KeyedTrack straight = track.resampled(times);
    straight.shape = Shape::linear;
    return straight;
  }
  return std::nullopt;
}

/// A set-up like that of a shot, with an id of its own and without its hand meter's readings.
Expected<Json> like_setup_of(const Document& document, const Json& shot) {
  const Json* setup = document.find("setups", shot.value("setup", ""));
  if (!setup) return fail("its set-up", "is not there", "give the shot a set-up first");
  Json own = *setup;
  own["id"] = fresh_id(document, "setups", setup->value("id", "A") + "-");
  if (own.contains("pins"))
    for (Json& pin : own["pins"]) pin.erase("measured");
  return own;
}
/// The shot on a set-up that is new: a variation after what it varies and what else varies that, else the last.
void put_on(Document& document, Json& shot, Json setup) {
  shot["setup"] = setup["id"];
  auto& list = document.lists["setups"];
  auto at = list.end();
  const std::string of = varied_from(setup);
  const auto along = setups_along(document, of);
  for (auto it = list.begin(); it != list.end(); ++it)
    if (along.contains((*it)->value("id", std::string()))) at = it + 1;
  list.insert(at, std::make_shared<const Json>(std::move(setup)));
}

}  // namespace

Expected<Document> with_shot_moved(const Document& document, std::size_t from, std::size_t to) {
  Document next = document;
  auto& shots = next.lists["shots"];
  if (from >= shots.size() || to >= shots.size()) return no_shot(std::max(from, to));
  const JsonPtr moved = shots[from];
  shots.erase(shots.begin() + static_cast<std::ptrdiff_t>(from));
  shots.insert(shots.begin() + static_cast<std::ptrdiff_t>(to), moved);
  return next;
}

Expected<Document> with_shot_copied(const Document& document, std::size_t shot, bool own_setup) {
  if (shot >= document.list("shots").size()) return no_shot(shot);
  Document next = document;
  const Json& of = *document.list("shots")[shot];
  Json copy = new_shot(next, &of, of.value("name", std::string("Shot")) + ", copy");
  if (own_setup) {
    auto own = like_setup_of(document, of);
    if (!own) return tl::unexpected(own.error());
    own->erase("of");
    (*own)["name"] = own->value("name", own->at("id").get<std::string>()) + ", copy";
    put_on(next, copy, *std::move(own));
  }
  insert_shot(next, std::move(copy), shot + 1);
  return next;
}

Expected<Document> with_setup_varied(const Document& document, std::size_t shot, const std::string& name) {
  if (shot >= document.list("shots").size()) return no_shot(shot);
  Document next = document;
  Json varied = *document.list("shots")[shot];
  auto own = like_setup_of(document, varied);
  if (!own) return tl::unexpected(own.error());
  (*own)["of"] = varied["setup"];
  // Named after the set-up that all its variations come from.
  const Json* root = document.find("setups", varied["setup"].get<std::string>());
  for (std::size_t k = 0; root && !varied_from(*root).empty() && k < document.list("setups").size(); ++k)
    root = document.find("setups", varied_from(*root));
  const std::string stem = (root ? *root : *own).value("name", varied["setup"].get<std::string>()) + ", variation";
  std::set<std::string> taken;
  for (const JsonPtr& s : document.list("setups")) taken.insert(s->value("name", std::string()));
  std::string made = stem;
  for (int k = 2; taken.contains(made); ++k) made = fmt::format("{} {}", stem, k);
  (*own)["name"] = name.empty() ? made : name;
  put_on(next, varied, *std::move(own));
  next.lists["shots"][shot] = std::make_shared<const Json>(std::move(varied));
  return next;
}

Expected<Document> changed_for_shot_alone(const Document& before, const Document& after, std::size_t shot) {
  if (shot >= after.list("shots").size()) return no_shot(shot);
  const std::string base = after.list("shots")[shot]->value("setup", "");
  const Json *was = before.find("setups", base), *is = after.find("setups", base);
  if (!was || !is) return fail("its set-up", "is not there before and after", "give the shot a set-up first");
  Document next = after;
  for (JsonPtr& setup : next.lists["setups"])
    for (const JsonPtr& old : before.list("setups"))
      if (old->at("id") == setup->at("id")) setup = old;
  auto varied = with_setup_varied(next, shot);
  if (!varied) return varied;
  const std::string id = varied->list("shots")[shot]->at("setup");
  auto& list = varied->lists["setups"];
  JsonPtr& made = *std::find_if(list.begin(), list.end(), [&](const JsonPtr& s) { return s->at("id") == id; });
  Json own = *is;
  for (const char* key : {"id", "name", "of"}) own[key] = made->at(key);
  made = std::make_shared<const Json>(std::move(own));
  return varied;
}

Expected<Document> with_shot_split(const Document& document, std::size_t shot, double screen_time) {
  if (shot >= document.list("shots").size()) return no_shot(shot);
  const Shot of = read_shot(document, shot);
  if (!(screen_time > 1e-3) || screen_time > of.screen_time - 1e-3)
    return fail("the cut", "lies at an end of the shot", "put the time cursor between its ends");
  if (of.reversed)
    return fail("the shot", "plays backward", "turn it forward first, and each part backward after");
  const double cut = of.clock.set_at(screen_time);
  Document next = document;
  Json first = *document.list("shots")[shot];
  Json second = new_shot(next, &first, of.name + ", second part");
  first["screen_time"] = tidy(screen_time);
  second["screen_time"] = tidy(of.screen_time - screen_time);
  if (!of.clock.points().empty()) {
    std::vector<SpeedPoint> before, after{{0.0, of.clock.speed_at(cut)}};
    for (const SpeedPoint& p : of.clock.points()) {
      if (p.set_time < cut - 1e-6) before.push_back(p);
      if (p.set_time > cut + 1e-6) after.push_back({p.set_time - cut, p.speed});
    }
    before.push_back({cut, of.clock.speed_at(cut)});
    first["play"] = points_of(before);
    second["play"] = points_of(after);
  }
  for (std::size_t i = 0; i < of.tracks.size(); ++i) {
    const auto straight = straightened(of.tracks[i], cut);
    first["tracks"][i]["keys"] = keys_json(until(straight.value_or(of.tracks[i]), cut));
    second["tracks"][i]["keys"] = keys_from(straight.value_or(of.tracks[i]), cut);
    if (straight) first["tracks"][i]["profile"] = second["tracks"][i]["profile"] = "linear";
  }
  if (of.facing) {
    const bool in_second = of.facing->at >= screen_time;
    Json& keeps = in_second ? second : first;
    (in_second ? first : second)["needs"].erase("facing");
    if (in_second) keeps["needs"]["facing"]["at"] = tidy(of.facing->at - screen_time);
  }
  for (Json* part : {&first, &second})
    if (part->contains("needs")) (*part)["needs"].erase("length");
  next.lists["shots"][shot] = std::make_shared<const Json>(std::move(first));
  insert_shot(next, std::move(second), shot + 1);
  return next;
}

Expected<Document> with_shots_joined(const Document& document, std::size_t shot) {
  if (shot + 1 >= document.list("shots").size())
    return fail("the shot", "is the last", "choose one that another follows");
  const Shot a = read_shot(document, shot), b = read_shot(document, shot + 1);
  if (a.setup != b.setup || a.camera.has_value() != b.camera.has_value() ||
      (a.camera && (a.camera->camera != b.camera->camera || a.camera->mode != b.camera->mode)))
    return fail("the two shots", "are not of one set-up, camera and mode",
                "cut between them, or make them alike first");
  for (const JsonPtr& take : document.list("takes"))
    if (take->value("shot", "") == b.id)
      return fail("the second shot", "has takes", "keep it, or take its takes out of the log first");
  if (a.reversed || b.reversed)
    return fail("the two shots", "do not both play forward", "turn them forward first");
  const double end = a.set_time();
  Document next = document;
  Json joined = *document.list("shots")[shot];
  joined["screen_time"] = tidy(a.screen_time + b.screen_time);
  if (!a.clock.points().empty() || !b.clock.points().empty()) {
    std::vector<SpeedPoint> points;
    for (const SpeedPoint& p : a.clock.points())
      if (p.set_time < end - 1e-5) points.push_back(p);
    points.push_back({end - 1e-5, a.clock.speed_at(end)});
    points.push_back({end, b.clock.speed_at(0.0)});
    for (const SpeedPoint& p : b.clock.points())
      if (p.set_time > 1e-5) points.push_back({end + p.set_time, p.speed});
    joined["play"] = points_of(points);
  }
  for (const KeyedTrack& track : b.tracks) {
    // What was there until the cut, then theirs from it on.
    Json keys = Json::array();
    if (const KeyedTrack* own = a.track(track.target)) {
      keys = keys_json(until(*own, end));
      keys.back()[0] = tidy(end - 1e-5);
    }
    Json theirs = keys_from(track, 0.0);
    for (Json& key : theirs) {
      key[0] = tidy(key[0].get<double>() + end);
      keys.push_back(std::move(key));
    }
    bool put = false;
    for (Json& known : joined["tracks"])
      if (known.value("target", "") == track.target) known["keys"] = keys, put = true;
    if (!put) {
      for (const Json& t : document.list("shots")[shot + 1]->at("tracks"))
        if (t.value("target", "") == track.target) {
          Json whole = t;
          whole["keys"] = keys;
          joined["tracks"].push_back(whole);
        }
    }
  }
  if (b.facing && !a.facing) {
    joined["needs"]["facing"] = document.list("shots")[shot + 1]->at("needs").at("facing");
    joined["needs"]["facing"]["at"] = tidy(b.facing->at + a.screen_time);
  }
  next.lists["shots"][shot] = std::make_shared<const Json>(std::move(joined));
  next.lists["shots"].erase(next.lists["shots"].begin() + static_cast<std::ptrdiff_t>(shot) + 1);
  return next;
}

Expected<Document> without_shot(const Document& document, std::size_t shot) {
  if (shot >= document.list("shots").size()) return no_shot(shot);
  Document next = document;
  const std::string id = document.list("shots")[shot]->value("id", "");
  next.lists["shots"].erase(next.lists["shots"].begin() + static_cast<std::ptrdiff_t>(shot));
  if (next.lists.contains("takes"))
    std::erase_if(next.lists["takes"], [&](const JsonPtr& t) { return t->value("shot", "") == id; });
  return next;
}

}  // namespace cinnabar
