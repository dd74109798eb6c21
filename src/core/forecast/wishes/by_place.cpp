// Wishes that are granted by where a light or a card stands: edges of glass, pools.
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/measures/light_numbers.h"
#include "cinnabar/forecast/wishes/granting.h"
#include "cinnabar/forecast/wishes/wish_stage.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

/// Where the product shows at a place of its own: what stands there in the world, and which way it looks.
struct Spot {
  Vec3 at, normal;
};
std::optional<Spot> spot_of(const WishStage& s, const LightMoment& m, const Vec3& own) {
  if (s.shot.products.empty()) return std::nullopt;
  const Vec3 world = product_at(s.project, s.shot, s.shot.products.front(), 0.0).world(own);
  const CameraPose& pose = m.camera.middle_pose();
  const auto image = image_of(pose, world);
  if (!image) return std::nullopt;
  const Film& film = m.measure->film;
  const int x = static_cast<int>(std::floor((image->x / m.camera.optics.sensor_width + 0.5) * film.width)),
            y = static_cast<int>(std::floor((0.5 - image->y / m.camera.optics.sensor_height) * film.height));
  if (x < 0 || y < 0 || x >= film.width || y >= film.height) return std::nullopt;
  const FirstHit& hit = film.first[film.at(x, y)];
  if (!is_product(hit) || std::abs(static_cast<double>(hit.distance) - length(world - pose.place)) > 0.02)
    return std::nullopt;
  Vec3 normal = unit(hit.normal.as<double>());
  if (dot(normal, pose.place - world) < 0) normal = normal * -1.0;
  return Spot{world, normal};
}

/// Stops by which the outer tenth of the product's picture on either side is brighter than the backdrop.
std::optional<double> edges_over_ground(const LightMoment& m) {
  const Film& film = m.measure->film;
  const Picture picture = mixed(film, m.weights);
  const Role role = backdrop_role(m);
  std::vector<double> ground;
  double edge = 0.0;
  int count = 0;
  for (int y = 0; y < film.height; ++y) {
    int left = film.width, right = -1;
    for (int x = 0; x < film.width; ++x) {
      const FirstHit& hit = film.first[film.at(x, y)];
      if (is_product(hit)) left = std::min(left, x), right = std::max(right, x);
      if (hit.mesh && hit.mesh->role == role) ground.push_back(luminance(picture.pixels[film.at(x, y)]));
    }
    if (right - left < 6) continue;
    const int band = std::max(1, (right - left + 1) / 10);
    for (int k = 0; k < band; ++k)
      for (const int x : {left + k, right - k}) {
        const FirstHit& hit = film.first[film.at(x, y)];
        if (!is_product(hit) || hit.mesh->medium < 0) continue;  // clear parts alone
        edge += luminance(picture.pixels[film.at(x, y)]), ++count;
      }
  }
  if (count == 0 || ground.empty()) return std::nullopt;
  const double behind = quantile(ground, 0.5);
  if (behind <= darkest || edge <= 0.0) return std::nullopt;
  return std::log2(edge / count / behind);
}

Expected<Grants> grant_edges(const WishBench& b, bool dark) {
  const char* kind = dark ? "dark-edge" : "bright-edge";
  const WishStage s(b.document, b.shot);
  if (!s.setup || !s.shot.camera || s.shot.products.empty())
    return fail(kind, "has no set-up, camera or product", "give the shot all three");
  const auto value_in = [&](const Document& document) -> std::optional<double> {
    ProjectReader reader;
    const Project project = reader.read(document);
    const auto m =
        b.forecaster.measures().at(project, *project.shots[b.shot], 0.0, b.forecaster.quality(), b.cancel);
    return m ? edges_over_ground(*m) : std::nullopt;
  };
  constexpr double wanted = 1.0;  // stop; common practice, no source
  const auto met = [&](double stops) { return dark ? stops <= -wanted : stops >= wanted; };
  const auto now = value_in(b.document);
  if (!now)
    return fail(kind, "no clear part of a product stands before a lit backdrop",
                "it is a wish for glass and drinks");
  Grants out;
  if (met(*now)) {
    out.list.push_back({said("It is so already"), {}, *now, true});
    return out;
  }
  out.short_of = dark ? *now + wanted : wanted - *now;
  out.why = said("the edges are {} stops {} the backdrop, whatever card stands beside",
                 fixed_text(std::abs(*now), 1), *now < 0 ? "under" : "over");
  if (b.look_only) return out;
  const Product* product = by_id(s.project.products, s.shot.products.front().product);
  if (!product) return out;
  const ProductPose pose = product_at(s.project, s.shot, s.shot.products.front(), 0.0);
  const auto [low, high] = height_span(*product);
  const double reach = widest_reach(*product), tall = std::max(0.1, 1.6 * (high - low));
  const CameraPose camera = camera_at(s.shot, 0.0);
  const ShotOptics optics = shot_optics(s.project, s.shot);
  const Vec3 middle = pose.place + Vec3{0, (low + high) / 2, 0};
  for (const double back : {0.0, 0.08, 0.16, -0.06})
    for (const double wide : {0.2, 0.35}) {
      if (b.cancel && b.cancel->load()) return out;
      if (out.list.size() >= 3) return out;
      const double depth = camera.depth(middle - Vec3{0, 0, back});
      const double frame = depth * optics.sensor_width / 2 / camera.image_distance();
      const double aside = std::max(reach + 0.02, frame + 0.01) + 0.35 * wide;
      Maybe after = b.document;
      for (const double side : {-1.0, 1.0}) {
        const Vec3 place = middle + Vec3{side * aside, 0, -back};
        if (after)
          after = with_more(s, *after, "cards", side < 0 ? "edge-left" : "edge-right",
                            {{"name", dark ? said("Black card") : said("White card")},
                             {"place", point(place)},
                             {"aim", point(middle)},
                             {"width", wide},
                             {"height", tall},
                             {"material", sheet_material(dark ? "black" : "white")}});
      }
      if (!after) continue;
      const Values changes{{s.setup_path + "/cards", value_at(*after, s.setup_path + "/cards")}};
      const auto then = value_in(*after);
      if (!then) continue;
      out.short_of = std::min(out.short_of, dark ? *then + wanted : wanted - *then);
      if (met(*then))
        out.list.push_back({said("Stand a {} card, {} by {}, on either side, {} from the axis{}",
                                 dark ? "black" : "white", s.len(wide), s.len(tall), s.len(aside),
                                 back > 0   ? said(" and {} behind it", s.len(back))
                                 : back < 0 ? said(" and {} before it", s.len(-back))
                                            : std::string()),
                            changes, *then, true});
    }
  return out;
}

}  // namespace

Expected<Grants> grant_dark_edge(const WishBench& b, const Wish&) { return grant_edges(b, true); }
Expected<Grants> grant_bright_edge(const WishBench& b, const Wish&) { return grant_edges(b, false); }

Expected<Grants> grant_pool(const WishBench& b, const Wish& w) {
  const WishStage s(b.document, b.shot);
  if (!s.setup || !s.shot.camera) return fail("pool", "has no set-up or camera", "give the shot both");
  const double radius = w.numbers.at("radius");
  const auto m = b.forecaster.measures().at(s.project, s.shot, 0.0, b.forecaster.quality(), b.cancel);
  if (!m) return fail("pool", "was stopped", "ask again");
  const auto spot = spot_of(s, *m, *w.at);
  if (!spot)
    return fail("pool at", "is not a place of the first product that the camera sees",
                "give one that it does, in the product's own metres");
  const Vec3 aside = facing(spot->at, spot->at + spot->normal).right,
             up = facing(spot->at, spot->at + spot->normal).up;
  // The middle over the mean of six places round it, all on the plane that touches the product there.
  const auto stops_in = [&](const Document& document) -> std::optional<double> {
    ProjectReader reader;
    const Project project = reader.read(document);
    const Tracer tracer(
        std::make_shared<const StagedWorld>(stage(project, *project.shots[b.shot], 0.0, {.motion = false})));
    constexpr double clear = 2e-3;
    const auto lux = [&](const Vec3& at) {
      return illuminance(tracer, at + spot->normal * clear, spot->normal, {.paths = 1024}).total();
    };
    double ring = 0.0;
    for (int k = 0; k < 6; ++k)
      ring += lux(spot->at + aside * (radius * std::cos(k * pi / 3)) + up * (radius * std::sin(k * pi / 3))) / 6;
    const double middle = lux(spot->at);
    return middle > 0.0 && ring > 0.0 ? std::optional(std::log2(middle / ring)) : std::nullopt;
  };
  const auto met = [](double stops) { return stops >= 0.7 && stops <= 2.0; };
  Grants out;
  const auto now = stops_in(b.document);
  if (now && met(*now)) {
    out.list.push_back({said("It is so already"), {}, *now, true});
    return out;
  }
  out.short_of = 1.0 - now.value_or(0.0);
  out.why =
      said("the light there falls off by {} stops within {}", fixed_text(now.value_or(0.0), 1), s.len(radius));
  if (b.look_only) return out;
  std::vector<const LightKit*> spare = spare_lamps(s);
  spare.erase(std::unique(spare.begin(), spare.end()), spare.end());
  for (const LightKit* kit : spare) {
    if (!kit->output) continue;
    for (const double distance : {0.6, 0.35})
      for (const double bearing : {-30.0, 30.0})
        for (const double tight : {1.0, 0.6}) {  // of the grid: steeper where other light fills in
          if (b.cancel && b.cancel->load()) return out;
          if (out.list.size() >= 3) return out;
          const Vec3 out_from = unit(turned(spot->normal, bearing) + Vec3{0, 0.6, 0});
          const double grid = std::clamp(degrees(2.0 * std::atan(tight * radius / distance)), 2.0, 120.0);
          for (const double dimmer : {0.25, 1.0}) {
            const auto after = with_more(s, b.document, "lights", "pool",
                                         lamp_json(s, *kit, spot->at + out_from * distance, spot->at,
                                                   {{"shape", "disc"},
                                                    {"radius", 0.03},
                                                    {"transmittance", 0.3},
                                                    {"grid_deg", std::round(grid * 10) / 10},
                                                    {"dimmer", dimmer},
                                                    {"meant_for", "product"}}));
            const auto then = after ? stops_in(*after) : std::nullopt;
            if (!then) continue;
            const Values changes{{s.setup_path + "/lights", value_at(*after, s.setup_path + "/lights")}};
            out.short_of = std::min(out.short_of, std::max(0.0, 0.7 - *then));
            if (!met(*then)) continue;
            out.list.push_back({said("Set up {} {} away, gridded to {} degrees and aimed at the place, at {} %",
                                     kit->name.empty() ? kit->id : kit->name, s.len(distance), fixed_text(grid, 0),
                                     fixed_text(100 * dimmer, 0)),
                                changes, *then, true});
            break;
          }
        }
  }
  return out;
}

}  // namespace cinnabar
