#include "cinnabar/project/model/track_target.h"

#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/project/model/ranges.h"

namespace cinnabar {
namespace {

/// Whether an id stands between: of a thing that there may be several of.
bool of_many(const TrackKind& kind) { return kind.of == "product" || kind.of == "light" || kind.of == "card"; }

}  // namespace

const std::vector<TrackKind>& track_kinds() {
  static const std::vector<TrackKind> all{
      {"", "turntable", false, angle_range, false},   {"camera", "slide", false, angle_range, true},
      {"camera", "pan", false, angle_range, true},    {"camera", "tilt", false, angle_range, true},
      {"camera", "focus", false, angle_range, true},  {"camera", "place", true, place_range, true},
      {"camera", "aim", true, place_range, true},     {"camera", "roll", false, angle_range, true},
      {"camera", "focal", false, focal_range, true},  {"product", "place", true, place_range, false},
      {"product", "turn", false, angle_range, false}, {"product", "tilt", false, angle_range, false},
      {"light", "dimmer", false, share, false},       {"light", "turn", false, angle_range, false},
      {"light", "doors", false, leaf_range, false},   {"light", "place", true, place_range, false},
      {"light", "aim", true, place_range, false},     {"card", "place", true, place_range, false},
      {"card", "turn", false, angle_range, false},    {"", "crop", true, share, false}};
  return all;
}

std::optional<TrackTarget> read_target(std::string_view target) {
  for (const TrackKind& kind : track_kinds()) {
    if (!of_many(kind)) {
      if (target == target_text(kind, "")) return TrackTarget{&kind, ""};
      continue;
    }
    const std::string begin = std::string(kind.of) + ".", end = "." + std::string(kind.what);
    if (target.size() > begin.size() + end.size() && target.starts_with(begin) && target.ends_with(end))
      return TrackTarget{&kind,
                         std::string(target.substr(begin.size(), target.size() - begin.size() - end.size()))};
  }
  return std::nullopt;
}

std::string target_text(const TrackKind& kind, const std::string& id) {
  std::string text;
  if (!kind.of.empty()) text = std::string(kind.of) + ".";
  if (of_many(kind)) text += id + ".";
  return text + std::string(kind.what);
}

Json keys_json(const KeyedTrack& track, double later) {
  const auto tidy = [](double v) { return std::round(v * 1e6) / 1e6; };
  Json list = Json::array();
  for (std::size_t i = 0; i < track.keys.size(); ++i) {
    const double t = tidy(track.keys[i].first + later);
    if (track.places.empty()) {
      list.push_back({t, tidy(track.keys[i].second)});
    } else {
      const Vec3& at = track.places[i];
      list.push_back({t, {tidy(at.x), tidy(at.y), tidy(at.z)}});
    }
  }
  return list;
}

std::string key_text(const KeyedTrack& track, std::size_t key) {
  if (track.places.empty()) return number_text(track.keys[key].second, 4);
  const Vec3& at = track.places[key];
  return number_text(at.x, 4) + ", " + number_text(at.y, 4) + ", " + number_text(at.z, 4);
}

std::string all_targets() {
  std::string text;
  for (const TrackKind& kind : track_kinds()) text += (text.empty() ? "" : ", ") + target_text(kind, "ID");
  return text;
}

}  // namespace cinnabar
