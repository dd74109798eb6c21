// Levels of what stands about the product: gear that is seen or mirrored, the even backdrop, the key colour, the
// window.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/color/palette.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/forecast/measures/gear_seen.h"
#include "cinnabar/forecast/measures/light_numbers.h"
#include "cinnabar/photometry/daylight.h"
#include "cinnabar/photometry/sources.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/project/model/windows.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {

std::optional<Level> frame_gear(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::vector<Worst> moments;
  const auto& light = c.light();
  if (light.empty()) return unknown(level, no_light(c));
  const std::vector<Covered> seen = gear_in_pictures(c.project, c.shot, *c.setup, light);
  const std::size_t pixels = light.back().measure->film.pixels();
  for (std::size_t i = 0; i < seen.size(); ++i) moments.push_back({seen[i].percent, light[i].set_time});
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  level.formula = said("{} of {} lines of sight meet gear first = {} %",
                       number_text(std::round(worst.value / 100.0 * static_cast<double>(pixels))), pixels,
                       number_text(worst.value, 3));
  level.sentence = worst.value > 0.0 ? said("{} is in the picture: gear covers {} % of it.", seen[worst.at].most,
                                            number_text(worst.value, 2))
                                     : said("No light, card, stand or other gear is in the picture.");
  return level;
}

std::optional<Level> light_mirror(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::vector<Worst> moments;
  std::vector<Mirrored> seen;
  bool any = false;
  for (const LightMoment& m : c.light()) {
    seen.push_back(gear_mirrored(c.shot, *c.setup, m));
    any = any || seen.back().any;
    moments.push_back({seen.back().covered.percent, m.set_time});
  }
  if (moments.empty()) return unknown(level, no_light(c));
  if (!any) return std::nullopt;  // nothing in the picture is smooth enough to mirror
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const Mirrored& at = seen[worst.at];
  const char* what = at.product ? "the product's picture" : "the surface's picture";
  level.formula = said(
      "mirrored lines of sight that end on camera, gear, bare lamp or window: {} % of {}; the camera "
      "counts "
      "as a ball 12 cm wide",
      number_text(worst.value, 3), what);
  level.sentence = worst.value > 0.0
                       ? said("{} is mirrored: unwanted things cover {} % of {}.", at.covered.most,
                              number_text(worst.value, 2), what)
                       : said("Neither camera nor gear, bare lamp or window is mirrored in product or table.");
  return level;
}

namespace {

/// Luminances of the visible backdrop in tiles of a sixteenth of its picture's width.
std::vector<double> backdrop_tiles(const LightMoment& m) {
  const Film& film = m.measure->film;
  const Role role = backdrop_role(m);
  const auto wanted = [&](int x, int y) {
    const FirstHit& hit = film.first[film.at(x, y)];
    return hit.mesh && hit.mesh->role == role;
  };
  int left = film.width, right = -1, top = film.height, bottom = -1;
  for (int y = 0; y < film.height; ++y)
    for (int x = 0; x < film.width; ++x)
      if (wanted(x, y))
        left = std::min(left, x), right = std::max(right, x), top = std::min(top, y), bottom = std::max(bottom, y);
  std::vector<double> tiles;
  if (right < 0) return tiles;
  const Picture picture = mixed(film, m.weights);
  const double size = std::max(1.0, (right - left + 1) / 16.0);
  struct Sum {
    double light = 0;
    int count = 0;
  };
  const auto columns = static_cast<std::size_t>(std::ceil((right - left + 1) / size)),
             rows = static_cast<std::size_t>(std::ceil((bottom - top + 1) / size));
  std::vector<Sum> sums(columns * rows);
  for (int y = top; y <= bottom; ++y)
    for (int x = left; x <= right; ++x)
      if (wanted(x, y)) {
        Sum& sum = sums[static_cast<std::size_t>((y - top) / size) * columns +
                        static_cast<std::size_t>((x - left) / size)];
        sum.light += luminance(picture.pixels[film.at(x, y)]);
        ++sum.count;
      }
  for (const Sum& sum : sums)  // slivers beside the product are the edge's, not the backdrop's
    if (sum.count >= 0.25 * size * size) tiles.push_back(sum.light / sum.count);
  return tiles;
}

}  // namespace

std::optional<Level> light_even(const ShotContext& c, const LevelStart& start) {
  const auto rule = c.project.rule<BackdropRule>(c.shot);
  const bool white = rule == BackdropRule::white;
  if (!white && rule != BackdropRule::key) return std::nullopt;
  Level level =
      start({{}, white ? 0.5 : 0.3}, "house rule backdrop: " + rule_name(rule) + "; common practice, no source");
  std::vector<Worst> moments;
  std::vector<std::array<double, 3>> numbers;
  bool dark = false;
  for (const LightMoment& m : c.light()) {
    auto tiles = backdrop_tiles(m);
    if (tiles.empty()) continue;
    const double bright = quantile(tiles, 0.95), dim = quantile(tiles, 0.05);
    if (dim <= darkest) {
      dark = true;
      continue;
    }
    moments.push_back({std::log2(bright / dim), m.set_time});
    numbers.push_back({bright, dim, static_cast<double>(tiles.size())});
  }
  if (dark) return unknown(level, "no light at all reaches a part of the backdrop");
  if (moments.empty()) return std::nullopt;  // the backdrop is not in the picture
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const auto& [bright, dim, tiles] = numbers[worst.at];
  level.formula = said("log2(95th / 5th percentile of {} tiles) = log2({} / {} cd/m2) = {}", number_text(tiles),
                       number_text(bright), number_text(dim), fixed_text(worst.value, 2));
  level.sentence = said("The visible backdrop varies by {} stops.", fixed_text(worst.value, 2));
  return level;
}

namespace {

/// Lux that the backdrop, of one luminance all over, gives where a patch lies.
double from_backdrop(const std::vector<AcrossBackdrop>& lines, double luminance, const Vec3& at,
                     const Vec3& normal) {
  double sum = 0.0;
  for (std::size_t i = 1; i < lines.size(); ++i) {
    const Vec3 corners[] = {lines[i - 1].left, lines[i - 1].right, lines[i].right, lines[i].left};
    sum += polygon_illuminance(luminance, corners, at, normal);
  }
  return sum;
}

struct KeySeen {
  double difference, spill_percent;
  Vec3 screen;
};
/// The second percentile of the difference between product and backdrop as recorded; nothing where one is not
/// seen.
std::optional<KeySeen> key_seen(const ShotContext& c, const LightMoment& m) {
  const Film& film = m.measure->film;
  const Picture picture = mixed(film, m.balanced);
  const double signal = signal_per_luminance(m.camera);
  const Role role = backdrop_role(m);
  const auto recorded = [&](const Rgb& light) {
    const auto held = [signal](float v) { return std::clamp(v * signal, 0.0, 1.0); };
    return Vec3{held(light.x), held(light.y), held(light.z)};
  };
  std::vector<double> bands[3];
  for (std::size_t p = 0; p < film.pixels(); ++p)
    if (film.first[p].mesh && film.first[p].mesh->role == role) {
      const Vec3 v = recorded(picture.pixels[p]);
      bands[0].push_back(v.x), bands[1].push_back(v.y), bands[2].push_back(v.z);
    }
  if (bands[0].empty()) return std::nullopt;
  KeySeen seen{0, 0, {quantile(bands[0], 0.5), quantile(bands[1], 0.5), quantile(bands[2], 0.5)}};
  // By four pixels, whose noise is half of one's, and away from the product's edge, where a pixel shows both.
  std::vector<double> differences;
  for (const int edge : {1, 0}) {
    for (int y = edge; y + 2 + edge <= film.height; y += 2)
      for (int x = edge; x + 2 + edge <= film.width; x += 2) {
        Rgb sum{};
        bool whole = true;
        for (int j = -edge; j < 2 + edge; ++j)
          for (int i = -edge; i < 2 + edge; ++i) whole = whole && is_product(film.first[film.at(x + i, y + j)]);
        for (const auto& [i, j] : {std::pair{0, 0}, {1, 0}, {0, 1}, {1, 1}})
          sum += picture.pixels[film.at(x + i, y + j)] * 0.25f;
        if (whole) differences.push_back(difference_of(recorded(sum), seen.screen));
      }
    if (!differences.empty()) break;
  }
  if (differences.empty()) return std::nullopt;
  seen.difference = quantile(differences, 0.02);
  // The key colour that falls on the product, of all that does, over the patches that face the camera.
  std::vector<double> ground;
  const Picture plain = mixed(film, m.weights);
  for (std::size_t p = 0; p < film.pixels(); ++p)
    if (film.first[p].mesh && film.first[p].mesh->role == role) ground.push_back(luminance(plain.pixels[p]));
  const double bright = quantile(ground, 0.5);
  const ShotProduct& placed = c.shot.products.front();
  const Product* product = by_id(c.project.products, placed.product);
  if (!product || m.measure->faces.empty()) return seen;
  const ProductPose pose = product_at(c.project, c.shot, placed, m.set_time);
  const auto [low, high] = height_span(*product);
  const Vec3 middle = pose.place + Vec3{0, (low + high) / 2, 0}, eye = c.pose(m.set_time).place - middle;
  const double bearing = std::atan2(eye.x, eye.z), radius = widest_reach(*product);
  const auto lines = backdrop_lines(*c.setup, backdrop_at(c.setup->backdrop, c.shot, m.set_time));
  double part = 0.0, all = 0.0;
  const auto faces = static_cast<int>(m.measure->faces.size());
  const int front = faces / 2;
  for (int i = 0; i < faces; ++i) {
    const double angle = bearing + radians(15.0 * (i - front));
    const Vec3 normal{std::sin(angle), 0, std::cos(angle)};
    part += from_backdrop(lines, bright, middle + normal * radius, normal);
    all += m.lux(m.measure->faces[static_cast<std::size_t>(i)]);
  }
  if (all > darkest) seen.spill_percent = std::min(100.0, 100.0 * part / all);
  return seen;
}

}  // namespace

std::optional<Level> light_key(const ShotContext& c, const LevelStart& start) {
  if (c.project.rule<BackdropRule>(c.shot) != BackdropRule::key) return std::nullopt;
  Level level = start();
  std::vector<Worst> moments;
  std::vector<KeySeen> seen;
  std::size_t spilt = 0;
  for (const LightMoment& m : c.light()) {
    const auto now = key_seen(c, m);
    if (!now) continue;
    if (!seen.empty() && now->spill_percent > seen[spilt].spill_percent) spilt = seen.size();
    seen.push_back(*now);
    moments.push_back({now->difference, m.set_time});
  }
  if (moments.empty()) return std::nullopt;  // the backdrop or the product is not in the picture
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const double spill = seen[spilt].spill_percent;
  level.formula =
      said("2nd percentile of the CIEDE2000 from the backdrop's {} = {}; key light on the product {} % of all",
           hex_of(seen[worst.at].screen), fixed_text(worst.value, 1), number_text(spill, 2));
  level.sentence = said(
      "All but 2 % of the product differ by at least {} from the key colour; {} % of its light comes "
      "from the backdrop.",
      fixed_text(worst.value, 0), number_text(spill, 2));
  constexpr double most_spill = 5.0;
  if (spill > 1.1 * most_spill) {
    level.state = State::out;
    level.sentence += said(" Over 5 % tints its edges.");
  } else if (spill > 0.9 * most_spill && level.state == State::level) {
    level.state = State::leaning;
  }
  return level;
}

std::optional<Level> light_daylight(const ShotContext& c, const LevelStart& start) {
  const auto pane = std::find_if(c.setup->lights.begin(), c.setup->lights.end(),
                                 [](const Light& l) { return l.daylight && l.on && l.dimmer > 0.0; });
  const bool by_rule = c.project.rule<AmbientRule>(c.shot) == AmbientRule::window;
  if (pane == c.setup->lights.end() && !by_rule) return std::nullopt;
  // Where nothing is told of when and where, nobody has asked yet.
  if (c.project.date.empty() && !c.project.hour && !c.project.latitude && !c.setup->north_deg) return std::nullopt;
  Level level = start();
  if (pane == c.setup->lights.end()) return unknown(level, "no window is set up, as a light that is daylight");
  const Project& p = c.project;
  std::string missing;
  const auto want = [&missing](bool there, const char* what) {
    if (!there) missing += (missing.empty() ? "" : ", ") + std::string(what);
  };
  want(!p.date.empty(), "the date");
  want(p.hour.has_value(), "the hour of the first take");
  want(p.latitude && p.longitude, "latitude and longitude");
  want(c.setup->north_deg.has_value(), "where north is in the room (room.north_deg)");
  if (!missing.empty())
    return unknown(level, missing + (missing.find(',') == std::string::npos ? " is" : " are") + " not known");
  const double takes = std::max(1.0, c.shot.takes_planned.value_or(1.0));
  const double minutes =
      std::clamp(std::ceil(takes * ((c.end + lead_seconds) / 60.0 + c.shot.reset_minutes)), 1.0, 720.0);
  // The pane looks out against the way its light comes in; bearings on the floor grow against the compass.
  const Vec3 out = -facing(pane->place, pane->aim, pane->roll_deg).ahead;
  const double azimuth = *c.setup->north_deg - degrees(std::atan2(out.x, out.z));
  const std::string& sky = sky_names()[static_cast<std::size_t>(c.setup->room.sky)];
  const auto when = first_take_utc(p);
  if (!when) return unknown(level, "the date cannot be read");
  const auto drift = window_drift({*p.latitude, *p.longitude, *when, minutes, azimuth, sky});
  if (!drift) return unknown(level, drift.error().message);
  if (!drift->spread) return unknown(level, "the sun is down within the time that the takes need");
  settle(level, {*drift->spread, 0.0});
  level.formula =
      said("most over least in {} min from {} UTC on a pane facing {}\u00b0 = {} stops; {} sky, open view",
           number_text(minutes), when->substr(11),
           fixed_text(std::fmod(std::fmod(azimuth, 360.0) + 360.0, 360.0), 0), fixed_text(*drift->spread, 2),
           sky == "partly"  ? said("partly clouded")
           : sky == "clear" ? said("clear")
                            : said("overcast"));
  level.sentence = said("The window's light changes by {} stops over the {} minutes that {} takes need.",
                        fixed_text(*drift->spread, 2), number_text(minutes), number_text(takes));
  return level;
}

}  // namespace cinnabar
