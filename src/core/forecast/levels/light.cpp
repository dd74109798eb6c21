// Levels of light's quality: contrast, softness, the stripe in gloss, ripple, shadows and what spills.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/forecast/levels/moods.h"
#include "cinnabar/forecast/measures/cast.h"
#include "cinnabar/forecast/measures/light_numbers.h"
#include "cinnabar/photometry/sources.h"

namespace cinnabar {
namespace {

Band fill_band(const std::string& fill) {
  if (fill == "big-far") return {1.0, 2.0};
  if (fill == "small-near") return {0.5, 1.5};
  return {2.0, 4.0};
}
bool chosen(const ShotContext& c, const std::string& rule) {
  return c.shot.house_rules.contains(rule) || (c.setup && c.setup->house_rules.contains(rule)) ||
         c.project.house_rules.contains(rule);
}

/// The light that gives most to the product's two sides; nothing in the dark.
std::optional<std::size_t> main_light(const LightMoment& m) {
  std::optional<std::size_t> best;
  double most = 0.0;
  for (std::size_t l = 0; l < m.measure->world->lights.size(); ++l) {
    double lux = 0.0;
    for (const Reading& side : m.measure->sides) lux += m.lux_of(side, l);
    if (lux > most) most = lux, best = l;
  }
  return best;
}

/// Diameter or smaller side of a shining face.
double smaller_side(const Light& l) {
  return l.shape == LightShape::rectangle ? std::min(l.width, l.height)
         : l.shape == LightShape::tube    ? std::min(l.length, 2.0 * l.radius)
                                          : 2.0 * l.radius;
}

bool mirrors(const Material& m) {
  return m.kind != MaterialKind::matte && m.kind != MaterialKind::paper && m.kind != MaterialKind::cloth &&
         m.kind != MaterialKind::translucent;
}

/// The widest upright piece of a product's outline that mirrors.
struct Straight {
  double radius, low, high;
};
std::optional<Straight> widest_straight(const Product& product) {
  std::optional<Straight> best;
  for (const Part& part : product.parts)
    for (std::size_t i = 0; part.turned_on_axis() && i + 1 < part.profile.size(); ++i) {
      const ProfilePoint &a = part.profile[i], &b = part.profile[i + 1];
      const double tall = b.height - a.height;
      if (!mirrors(part.material) || tall <= 0.0 || std::abs(a.radius - b.radius) > 0.02 * tall) continue;
      const double r = std::max(a.radius, b.radius);
      if (!best || r > best->radius + 1e-9) best = Straight{r, a.height, b.height};
    }
  return best;
}

/// A strip's image as shares of the visible width, -1 at the left edge to +1 at the right.
struct Image {
  const Light* light;
  double left, right, width_percent;
};
std::optional<Image> image_in(const Light& strip, const Vec3& axis, double radius, double camera_bearing) {
  const Vec3 to = strip.place - axis;
  const double distance = std::hypot(to.x, to.z), bearing = degrees(std::atan2(to.x, to.z));
  const double width = strip.shape == LightShape::tube ? 2.0 * strip.radius : strip.width;
  if (distance <= radius) return std::nullopt;
  const auto whole = cylinder_stripe({camera_bearing, bearing, width, distance, radius});
  if (!whole || !whole->centre_fraction) return std::nullopt;
  const double half = degrees(std::atan2(width / 2, distance)), far = std::hypot(distance, width / 2);
  const auto edge = [&](double side) {
    const auto e = cylinder_stripe({camera_bearing, bearing + side * half, 0.0, far, radius});
    return e && e->centre_fraction ? *e->centre_fraction : side;
  };
  return Image{&strip, edge(-1.0), edge(1.0), 100.0 * whole->width_fraction};
}

bool is_strip(const Light& l) {
  if (!l.on || l.dimmer <= 0.0 || l.full_luminance() <= 0.0) return false;
  if (l.shape == LightShape::rectangle) return l.height >= 2.0 * l.width - 1e-9;
  return l.shape == LightShape::tube && l.length >= 4.0 * l.radius - 1e-9;
}

/// Whether a label's visible span and an image share a part of the width.
bool crosses_label(const Product& product, const Straight& straight, double turn_deg, double camera_bearing,
                   const Image& image) {
  if (!product.label || product.label->high <= straight.low || product.label->low >= straight.high) return false;
  const double middle = std::remainder(product.label->bearing_deg + turn_deg - camera_bearing, 360.0);
  for (const double turn : {-360.0, 0.0, 360.0}) {
    const double low = std::max(-90.0, middle + turn - product.label->arc_deg / 2),
                 high = std::min(90.0, middle + turn + product.label->arc_deg / 2);
    if (low >= high) continue;
    if (std::sin(radians(low)) < image.right && std::sin(radians(high)) > image.left) return true;
  }
  return false;
}

/// The moments at which the label must be clear of a stripe: while it must be read, or the whole shot.
std::vector<double> label_times(const ShotContext& c) {
  if (!c.shot.facing) return c.times;
  std::vector<double> times;
  for (int k = 0; k <= 8; ++k)
    times.push_back(
        c.shot.clock.set_at(std::min(c.shot.screen_time, c.shot.facing->at + c.shot.facing->lasting * k / 8)));
  return times;
}

/// Whether a light is set for the backdrop: said so, or aimed nearer to it than to the products' place.
bool for_backdrop(const Light& l, const Setup& setup) {
  if (!l.meant_for.empty()) return l.meant_for == "backdrop";
  const double to_backdrop = std::abs(l.aim.z + setup.backdrop.distance),
               to_product = std::hypot(l.aim.x, l.aim.z);
  return to_backdrop < to_product;
}

}  // namespace

std::optional<Level> light_ratio(const ShotContext& c, const LevelStart& start) {
  const Mood* mood = mood_named(c.project.mood);
  const bool by_fill = chosen(c, "fill") || !mood;
  const std::string fill = c.project.rule("fill", c.shot);
  Level level =
      start(by_fill ? fill_band(fill) : mood->ratio,
            (by_fill ? "house rule fill: " + fill : "mood " + c.project.mood) + "; common practice, no source");
  std::vector<Worst> moments;
  std::vector<std::pair<double, double>> numbers;
  for (const LightMoment& m : c.light()) {
    if (m.measure->sides.size() != 2) continue;
    const double left = m.lux(m.measure->sides[0]), right = m.lux(m.measure->sides[1]);
    const double bright = std::max(left, right), dark = std::min(left, right);
    if (bright <= darkest) continue;
    moments.push_back({std::min(30.0, log2_ratio(bright, dark)), m.set_time});
    numbers.emplace_back(bright, dark);
  }
  if (moments.empty()) return unknown(level, c.setup ? "no light reaches the product" : no_light(c));
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  level.formula = said("log2(bright side / dark side) = log2({} / {} lx) = {}, 60 degrees either way",
                       number_text(numbers[worst.at].first), number_text(numbers[worst.at].second),
                       fixed_text(worst.value, 2));
  level.sentence = said("The bright side gets {} stops more than the dark one.", fixed_text(worst.value, 1));
  return level;
}

std::optional<Level> light_soft(const ShotContext& c, const LevelStart& start) {
  const Mood* mood = mood_named(c.project.mood);
  Level level =
      start(mood ? mood->soft : Band{},
            "penumbra by similar triangles; " + (mood ? "mood " + c.project.mood + "; common practice, no source"
                                                      : std::string("no mood is chosen, so no band")));
  constexpr double gap = 0.02;
  std::vector<Worst> moments;
  std::vector<std::string> formulas, names;
  for (const LightMoment& m : c.light()) {
    const auto main = main_light(m);
    if (!main) continue;
    const Light light = light_at(c.setup->lights[*main], c.shot, m.set_time);
    const double distance = length(light.place - (c.shot.products.front().place + Vec3{0, gap, 0})),
                 size = smaller_side(light);
    const auto edge = penumbra({.source_size = size, .source_distance = distance, .gap = gap});
    if (!edge) continue;
    moments.push_back({1e3 * edge->width, m.set_time});
    names.push_back(light.name);
    formulas.push_back(said("size x gap / distance = {} m x 0.02 m / {} m = {} mm", number_text(size, 3),
                            number_text(distance, 3), number_text(1e3 * edge->width, 3)));
  }
  if (moments.empty() && c.shot.target_stops <= -3.0) return std::nullopt;  // a silhouette is not to be lit
  if (moments.empty()) return unknown(level, "no light reaches the product");
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  level.formula = formulas[worst.at];
  level.sentence =
      said("A fingertip's shadow under {} has an edge {} mm wide.", names[worst.at], number_text(worst.value, 2));
  return level;
}

std::optional<Level> light_stripe(const ShotContext& c, const LevelStart& start) {
  const ShotProduct& placed = c.shot.products.front();
  const Product* product = by_id(c.project.products, placed.product);
  const auto straight = product ? widest_straight(*product) : std::nullopt;
  if (!straight || std::none_of(c.setup->lights.begin(), c.setup->lights.end(), is_strip)) return std::nullopt;
  Level level = start();
  std::vector<Worst> moments;
  std::vector<std::optional<Image>> images;
  std::optional<Worst> crossing;
  for (const double t : label_times(c)) {
    const ProductPose pose = product_at(c.project, c.shot, placed, t);
    const Vec3 eye = c.pose(t).place - pose.place;
    const double camera_bearing = degrees(std::atan2(eye.x, eye.z));
    std::optional<Image> widest;
    std::vector<Light> moved;
    for (const Light& l : c.setup->lights) moved.push_back(light_at(l, c.shot, t));
    for (std::size_t l = 0; l < moved.size(); ++l) {
      if (!is_strip(moved[l])) continue;
      auto image = image_in(moved[l], pose.place, straight->radius, camera_bearing);
      if (image && (!widest || image->width_percent > widest->width_percent))
        widest = *image, widest->light = &c.setup->lights[l];
    }
    moments.push_back({widest ? widest->width_percent : 0.0, t});
    images.push_back(widest);
    if (widest && !crossing && crosses_label(*product, *straight, pose.turn_deg, camera_bearing, *widest))
      crossing = Worst{widest->width_percent, t, moments.size() - 1};
  }
  const Worst worst = crossing ? *crossing : worst_of(moments, level.band);
  settle(level, worst);
  const auto& image = images[worst.at];
  if (!image) {
    level.formula = "no strip's mirror image lies on the side that the camera sees: 0 %";
    level.sentence = "No strip is mirrored in the product.";
    return level;
  }
  level.formula = said("{}: image from {} to {} of the half width, ({} - {}) / 2 = {} %", image->light->name,
                       signed_text(image->left, 2), signed_text(image->right, 2), fixed_text(image->right, 2),
                       fixed_text(image->left, 2), number_text(worst.value, 3));
  level.sentence =
      said("{}'s stripe is {} % of the product's width.", image->light->name, number_text(worst.value, 2));
  if (crossing) {
    level.state = State::out;
    level.sentence += " It runs through the label.";
  }
  return level;
}

std::optional<Level> light_flicker(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  const double t = c.camera.shutter_time;
  std::vector<Worst> moments;
  std::vector<std::string> formulas;
  for (const LightMoment& m : c.light()) {
    std::vector<double> shares = by_layer(m, is_lit_part);
    double sum = 0.0;
    for (const double s : shares) sum += s;
    if (sum <= 0.0 && m.measure->card) {
      sum = m.lux(*m.measure->card);
      for (std::size_t l = 0; l + 1 < shares.size(); ++l) shares[l] = m.lux_of(*m.measure->card, l);
    }
    if (sum <= darkest) continue;
    double ripple = 0.0;
    std::string formula;
    for (std::size_t l = 0; l < c.setup->lights.size() && l < shares.size(); ++l) {
      const Light& light = c.setup->lights[l];
      const LightKit* kit = by_id(c.project.light_kits, light.kit);
      const auto f = flicker({.mains_hz = c.project.mains_hz, .depth = kit ? kit->ripple : 0.0, .time = t});
      const double part = shares[l] / sum;
      if (!light.on || part <= 0.0 || !f || f->residual <= 0.0) continue;
      ripple += part * f->residual;
      formula += fmt::format("{}{} {} % x {} %", formula.empty() ? "" : " + ", light.name,
                             number_text(100 * part, 3), number_text(100 * f->residual, 2));
    }
    moments.push_back({100.0 * ripple, m.set_time});
    formulas.push_back(formula.empty() ? "no lamp here is said to ripple: 0 %"
                                       : formula + fmt::format(" = {} %", number_text(100.0 * ripple, 3)));
  }
  if (moments.empty()) return unknown(level, "no light reaches the product");
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  level.formula = said("{}; c = 2 x {} Hz x {} s = {}", formulas[worst.at], number_text(c.project.mains_hz),
                       number_text(t), number_text(2 * c.project.mains_hz * t, 3));
  level.sentence = said("{} % of the mains' ripple is left at the product.", number_text(worst.value, 2));
  if (worst.value > 0.0 && c.optics.readout > 0.0)
    level.sentence += said(" The readout of {} ms would show {} bands.", number_text(1e3 * c.optics.readout, 3),
                           number_text(2 * c.project.mains_hz * c.optics.readout, 2));
  return level;
}

std::optional<Level> light_shadow(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::vector<Worst> moments;
  std::vector<double> electrons;
  const double read = c.optics.read_noise_e;
  for (const LightMoment& m : c.light()) {
    auto list = block_luminances(m, is_product);
    if (list.empty()) continue;
    // The well is full at the lowest ISO; at others clipping comes sooner.
    const double e = c.optics.full_well_e * c.optics.iso_low / c.camera.iso * signal_per_luminance(m.camera) *
                     quantile(list, 0.1);
    electrons.push_back(e);
    moments.push_back({std::max(-30.0, e > 0.0 ? std::log2(e / std::sqrt(e + read * read)) : -30.0), m.set_time});
  }
  if (moments.empty()) return unknown(level, c.setup ? "no product is in the picture" : no_light(c));
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const double e = electrons[worst.at];
  level.formula = said("log2(signal / sqrt(signal + read^2)) = log2({} / sqrt({} + {}^2)) = {}", number_text(e, 3),
                       number_text(e, 3), number_text(read, 3), signed_text(worst.value, 2));
  level.sentence = said("The product's darkest tenth stands {} stops {} the noise.",
                        fixed_text(std::abs(worst.value), 1), worst.value < 0 ? "under" : "above");
  return level;
}

std::optional<Level> light_cast(const ShotContext& c, const LevelStart& start) {
  const std::string rule = c.project.rule("placing", c.shot);
  Level level = start.by("straight light with and without the product; house rule placing: " + rule +
                         "; common practice, no source");
  std::vector<Worst> moments;
  std::size_t places = 0;
  for (const LightMoment& m : c.light())
    if (const auto deepest = deepest_cast(m)) {
      moments.push_back({*deepest, m.set_time});
      places = std::max(places, m.measure->cast.size());
    }
  if (moments.empty()) return std::nullopt;  // no backdrop or no product in the picture
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  level.formula = said("deepest log2(light without the product / with it) at {} places of the backdrop = {}",
                       places, fixed_text(worst.value, 2));
  level.sentence = worst.value < 0.05 ? std::string("No shadow of the product shows on the backdrop.")
                                      : said("The product's shadow on the backdrop is {} stop{} deep.",
                                             fixed_text(worst.value, 1), worst.value >= 1.95 ? "s" : "");
  return level;
}

std::optional<Level> light_spill(const ShotContext& c, const LevelStart& start) {
  const auto& lights = c.setup->lights;
  if (std::none_of(lights.begin(), lights.end(),
                   [&](const Light& l) { return l.on && l.dimmer > 0.0 && for_backdrop(l, *c.setup); }))
    return std::nullopt;  // nothing is meant for the backdrop: light.backdrop judges what reaches it
  const std::string rule = c.project.rule("ambient", c.shot);
  Level level = start.by("house rule ambient: " + rule + "; common practice, no source");
  std::vector<Worst> moments;
  std::vector<std::string> formulas;
  for (const LightMoment& m : c.light()) {
    const std::vector<double> layers = by_layer(m, is_backdrop);
    double all = 0.0, spilt = rule == "black-out" ? layers.back() : 0.0;
    for (const double l : layers) all += l;
    if (all <= darkest) continue;
    std::string formula = spilt > 0.0 ? said("ambient {} %", number_text(100 * spilt / all, 3)) : "";
    for (std::size_t l = 0; l < lights.size(); ++l) {
      if (for_backdrop(lights[l], *c.setup) || layers[l] <= 0.0) continue;
      spilt += layers[l];
      formula += fmt::format("{}{} {} %", formula.empty() ? "" : " + ", lights[l].name,
                             number_text(100 * layers[l] / all, 3));
    }
    moments.push_back({100.0 * spilt / all, m.set_time});
    formulas.push_back((formula.empty() ? "nothing else reaches it" : formula) +
                       fmt::format(" = {} %", number_text(100.0 * spilt / all, 3)));
  }
  if (moments.empty()) return std::nullopt;  // the backdrop is not in the picture
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  level.formula = formulas[worst.at];
  level.sentence =
      said("{} % of the backdrop's light comes from lights not meant for it.", number_text(worst.value, 2));
  return level;
}

}  // namespace cinnabar
