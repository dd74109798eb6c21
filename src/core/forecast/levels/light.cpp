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
#include "cinnabar/forecast/measures/shining.h"
#include "cinnabar/forecast/measures/strip_image.h"
#include "cinnabar/forecast/measures/strongest.h"
#include "cinnabar/photometry/sources.h"

namespace cinnabar {
namespace {

Band fill_band(FillRule fill) {
  if (fill == FillRule::big_far) return {1.0, 2.0};
  if (fill == FillRule::small_near) return {0.5, 1.5};
  return {2.0, 4.0};
}
bool chosen(const ShotContext& c, HouseRule rule) {
  return c.shot.house_rules.contains(rule) || (c.setup && c.setup->house_rules.contains(rule)) ||
         c.project.house_rules.contains(rule);
}

/// The light that gives most on the surface at the product's foot, the product taken away; nothing in the dark.
std::optional<std::size_t> main_light(const LightMoment& m) {
  std::optional<std::size_t> best;
  double most = 0.0;
  if (!m.measure->foot) return best;
  const auto& gives = m.measure->foot->without;
  for (std::size_t l = 0; l < gives.size(); ++l)
    if (const double lux = gives[l] * m.weights[l].x; lux > most) most = lux, best = l;
  return best;
}

/// Whether a label's visible span and an image share a part of the width, `distance` of the camera in plan.
bool crosses_label(const Product& product, const Straight& straight, double turn_deg, double camera_bearing,
                   double distance, const StripImage& image) {
  if (!product.label || product.label->high <= straight.low || product.label->low >= straight.high) return false;
  const Label& label = *product.label;
  const double middle = label.bearing_deg + turn_deg - camera_bearing;
  constexpr int steps = 180;
  for (int i = 0; i <= steps; ++i) {
    const auto at =
        seen_at(middle + label.arc_deg * (static_cast<double>(i) / steps - 0.5), distance, straight.radius);
    if (at && *at > image.left && *at < image.right) return true;
  }
  return false;
}

/// The moments at which the label must be clear of a stripe: while it must be read, or the whole shot.
std::vector<double> label_times(const ShotContext& c) {
  if (!c.quality.only_at.empty()) return c.light_times();
  std::vector<double> times;
  if (!c.shot.facing) {
    if (c.times.size() > 1 || c.shot.tracks.empty()) return c.times;
    for (int k = 0; k <= 16; ++k) times.push_back(c.end * k / 16);  // lights move or are dimmed
    return times;
  }
  for (int k = 0; k <= 8; ++k)
    times.push_back(
        c.shot.clock.set_at(std::min(c.shot.screen_time, c.shot.facing->at + c.shot.facing->lasting * k / 8)));
  return times;
}

/// Whether a light is set for the backdrop: said so, or aimed nearer to it than to any product.
bool for_backdrop(const Light& l, const ShotContext& c) {
  if (l.meant_for) return l.meant_for == MeantFor::backdrop;
  const double to_backdrop = std::abs(l.aim.z + c.setup->backdrop.distance);
  return std::all_of(c.shot.products.begin(), c.shot.products.end(), [&](const ShotProduct& p) {
    return to_backdrop < std::hypot(l.aim.x - p.place.x, l.aim.z - p.place.z);
  });
}

}  // namespace

std::optional<Level> light_ratio(const ShotContext& c, const LevelStart& start) {
  const Mood* mood = mood_named(c.project.mood);
  const bool by_fill = chosen(c, HouseRule::fill) || !mood;
  const auto fill = c.project.rule<FillRule>(c.shot);
  Level level = start(by_fill ? fill_band(fill) : mood->ratio,
                      (by_fill ? "house rule fill: " + rule_name(fill) : "mood " + c.project.mood) +
                          "; common practice, no source");
  std::vector<Worst> moments;
  std::vector<std::pair<double, double>> numbers;
  bool black = false;
  for (const LightMoment& m : c.light()) {
    if (m.measure->faces.empty()) continue;
    const double left = m.lux(m.measure->faces.front()), right = m.lux(m.measure->faces.back());
    const double bright = std::max(left, right), dark = std::min(left, right);
    if (bright <= darkest) continue;
    if (dark <= darkest) {
      black = true;
      continue;
    }
    moments.push_back({std::log2(bright / dark), m.set_time});
    numbers.emplace_back(bright, dark);
  }
  if (black) return unknown(level, "no light at all reaches the dark side");
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
      start(mood ? mood->soft : Band{}, "edge of a shadow on a level surface, geometry; " +
                                            (mood ? "mood " + c.project.mood + "; common practice, no source"
                                                  : std::string("no mood is chosen, so no band")));
  std::vector<Worst> moments;
  std::vector<std::string> formulas, names;
  for (const LightMoment& m : c.light()) {
    const auto main = main_light(m);
    if (!main) continue;
    const Light light = light_at(c.setup->lights[*main], c.shot, m.set_time);
    const auto edge = soft_edge(c.project, c.shot, *c.setup, light, m.set_time);
    if (!edge) continue;
    const Shining& shining = edge->shining;
    moments.push_back({1e3 * edge->across, m.set_time});
    names.push_back(shining.through.empty() ? light.name : said("{} through {}", light.name, shining.through));
    formulas.push_back(said("gap x size / (distance x sin(elevation)) = 0.02 m x {} m / ({} m x sin {}) = {} mm",
                            number_text(shining.side, 3), number_text(edge->distance, 3),
                            number_text(edge->elevation_deg, 3), number_text(1e3 * edge->across, 3)));
  }
  if (moments.empty() && c.shot.target_stops <= -3.0) return std::nullopt;  // a silhouette is not to be lit
  if (moments.empty()) return unknown(level, "no light falls on the surface at the product's foot");
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  level.formula = formulas[worst.at];
  level.sentence =
      said("A fingertip's shadow under {} has an edge {} mm wide.", names[worst.at], number_text(worst.value, 2));
  return level;
}

std::optional<Level> light_stripe(const ShotContext& c, const LevelStart& start) {
  // A strip whose dimmer is on a track is one while it shines.
  const bool some_strip = std::any_of(c.setup->lights.begin(), c.setup->lights.end(), [&](const Light& l) {
    Light shining = l;
    if (c.shot.track(Tracked::light_dimmer, l.id)) shining.dimmer = 1.0;
    return is_strip(shining);
  });
  if (!some_strip) return std::nullopt;
  Level level = start();
  struct Seen {
    std::optional<StripImage> image;
    std::string product;
  };
  std::vector<Worst> moments;
  std::vector<Seen> images;
  std::optional<Worst> crossing;
  // A body turning on its axis leaves the image where it is.
  const bool still =
      !c.camera_moves() && std::all_of(c.shot.tracks.begin(), c.shot.tracks.end(), [&](const auto& track) {
        return moved_by(track.target) != TrackedThing::light && moved_by(track.target) != TrackedThing::card &&
               moved_by(track.target) != TrackedThing::backdrop &&
               moved_by(track.target) != TrackedThing::product &&
               (!is_target(track.target, Tracked::turntable) ||
                std::all_of(c.shot.products.begin(), c.shot.products.end(),
                            [](const auto& p) { return std::hypot(p.place.x, p.place.z) < 1e-6; }));
      });
  for (const ShotProduct& placed : c.shot.products) {
    const Product* product = by_id(c.project.products, placed.product);
    const auto straight = product ? widest_straight(*product) : std::nullopt;
    if (!straight) continue;
    std::optional<StripImage> image;
    bool followed = false;
    for (const double t : label_times(c)) {
      const ProductPose pose = product_at(c.project, c.shot, placed, t);
      const Vec3 eye = c.pose(t).place - pose.place;
      if (!followed || !still) image = strip_image(c.project, c.shot, *c.setup, placed, *straight, t);
      followed = true;
      moments.push_back({image ? image->width_percent : 0.0, t, moments.size()});
      images.push_back({image, product->name.empty() ? product->id : product->name});
      if (image && !crossing &&
          crosses_label(*product, *straight, pose.turn_deg, degrees(std::atan2(eye.x, eye.z)),
                        std::hypot(eye.x, eye.z), *image))
        crossing = moments.back();
    }
  }
  if (moments.empty()) return std::nullopt;  // nothing upright mirrors
  const Worst worst = crossing ? *crossing : worst_of(moments, level.band);
  settle(level, worst);
  const auto& [image, product] = images[worst.at];
  if (!image) {
    level.formula = "0 of 721 lines of sight thrown back by the side meet a strip's lit side: 0 %";
    level.sentence = said("No strip is mirrored in {}.", product);
    return level;
  }
  const std::string& strip = c.setup->lights[image->light].name;
  level.formula = said("{}: image from {} to {} of the half width, {} of 721 lines of sight = {} %", strip,
                       signed_text(image->left, 2), signed_text(image->right, 2),
                       number_text(std::round(worst.value * 7.21)), number_text(worst.value, 3));
  level.sentence = said("{}'s stripe is {} % of the width of {}.", strip, number_text(worst.value, 2), product);
  if (crossing) {
    level.state = State::out;
    level.sentence += " It runs through the label.";
  }
  return level;
}

namespace {

/// What is left of a lamp's ripple in the picture, as a share.
struct Rippling {
  double share, cycles;
  bool alike;  ///< every frame begins at the same phase: only bands across the picture are left
};
Rippling ripple_left(const ShotContext& c, const LampRipple& lamp) {
  const double hz = lamp.hz, left = left_of_ripple(lamp, c.camera.shutter_time);
  const double periods = hz / c.optics.rate, off = std::abs(periods - std::round(periods));
  const bool alike = periods > 0.5 && off <= 0.001 * periods;
  // Over one readout the phase runs on by this much; a half period shows the whole depth.
  const double band = std::sin(std::min(1.0, 2.0 * hz * c.optics.readout) * pi / 2);
  return {alike ? left * band : left, hz * c.camera.shutter_time, alike};
}

}  // namespace

std::optional<Level> light_flicker(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::vector<Worst> moments;
  std::vector<std::string> formulas;
  double cycles = 2.0 * c.project.mains_hz * c.camera.shutter_time, most_hz = 2.0 * c.project.mains_hz;
  bool alike = false;
  for (const LightMoment& m : c.light()) {
    std::vector<double> shares = by_layer(m, is_lit_part);
    double sum = 0.0;
    for (const double s : shares) sum += s;
    if (sum <= 0.0 && m.measure->front()) {
      sum = m.lux(*m.measure->front());
      for (std::size_t l = 0; l + 1 < shares.size(); ++l) shares[l] = m.lux_of(*m.measure->front(), l);
    }
    if (sum <= darkest) continue;
    double left = 0.0;
    std::string formula;
    for (std::size_t l = 0; l < c.setup->lights.size() && l < shares.size(); ++l) {
      const Light& light = c.setup->lights[l];
      const double part = shares[l] / sum;
      if (!light.on || part <= 0.0) continue;
      const auto lamp = lamp_ripple(c.project, light);
      if (!lamp)
        return unknown(level,
                       said("how far {} ripples is not in the kit; a test at 1/1000 shows it, as bands or as "
                            "frames of unlike brightness",
                            light.name));
      const Rippling ripple = ripple_left(c, *lamp);
      if (ripple.share <= 0.0) continue;
      cycles = ripple.cycles, most_hz = lamp->hz, alike = alike || ripple.alike;
      left += part * ripple.share;
      formula += fmt::format("{}{} {} % x {} %", formula.empty() ? "" : " + ", light.name,
                             number_text(100 * part, 3), number_text(100 * ripple.share, 2));
    }
    moments.push_back({100.0 * left, m.set_time});
    formulas.push_back(formula.empty() ? "nothing of any lamp's ripple is left: 0 %"
                                       : formula + fmt::format(" = {} %", number_text(100.0 * left, 3)));
  }
  if (moments.empty()) return unknown(level, "no light reaches the product");
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  level.formula = said("{}; c = {} Hz x {} s = {}", formulas[worst.at], number_text(most_hz),
                       number_text(c.camera.shutter_time), number_text(cycles, 3));
  level.sentence = said("{} % of the lamps' ripple is left at the product.", number_text(worst.value, 2));
  if (alike) level.sentence += " Every frame meets it at the same moment: what is left are still bands.";
  if (worst.value > 0.0 && c.optics.readout > 0.0)
    level.sentence += said(" The readout of {} ms would show {} bands.", number_text(1e3 * c.optics.readout, 3),
                           number_text(most_hz * c.optics.readout, 2));
  return level;
}

std::optional<Level> light_shadow(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::vector<Worst> moments;
  std::vector<double> electrons;
  const double read = c.optics.read_noise_e;
  bool dark = false;
  for (const LightMoment& m : c.light()) {
    const Film& film = m.measure->film;
    if (std::none_of(film.first.begin(), film.first.end(), is_product)) continue;
    const Picture picture = mixed(film, m.weights);
    std::vector<std::optional<double>> shown(film.pixels());
    for (std::size_t p = 0; p < film.pixels(); ++p)
      if (is_product(film.first[p])) shown[p] = luminance(picture.pixels[p]);
    // The well is full at the lowest ISO; at others clipping comes sooner.
    const double e = c.optics.full_well_e * c.optics.iso_low / c.camera.iso * signal_per_luminance(m.camera) *
                     mean_of_extreme(film, shown, 0.1, false);
    if (e <= 0.0) {
      dark = true;
      continue;
    }
    electrons.push_back(e);
    moments.push_back({std::log2(e / std::sqrt(e + read * read)), m.set_time});
  }
  if (dark) return unknown(level, "no light at all reaches the product's darkest tenth");
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
  Level level = start.by("straight light with and without the product; house rule placing: " +
                         rule_name(c.project.rule<PlacingRule>(c.shot)) + "; common practice, no source");
  std::vector<Worst> moments;
  std::size_t places = 0;
  for (const LightMoment& m : c.light())
    if (const auto deepest = deepest_cast(m)) {
      moments.push_back({*deepest, m.set_time});
      places = std::max(places, m.measure->cast.size());
    }
  if (moments.empty()) return std::nullopt;  // no backdrop or no product in the picture
  const Worst worst = worst_of(moments, level.band);
  if (!std::isfinite(worst.value)) return unknown(level, "no light at all reaches the shadow on the backdrop");
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
                   [&](const Light& l) { return l.on && l.dimmer > 0.0 && for_backdrop(l, c); }))
    return std::nullopt;  // nothing is meant for the backdrop: light.backdrop judges what reaches it
  const auto rule = c.project.rule<AmbientRule>(c.shot);
  Level level = start.by("house rule ambient: " + rule_name(rule) + "; common practice, no source");
  std::vector<Worst> moments;
  std::vector<std::string> formulas;
  for (const LightMoment& m : c.light()) {
    const std::vector<double> layers = by_layer(m, is_backdrop);
    double all = 0.0, spilt = rule == AmbientRule::black_out ? layers.back() : 0.0;
    for (const double l : layers) all += l;
    if (all <= darkest) continue;
    std::string formula = spilt > 0.0 ? said("ambient {} %", number_text(100 * spilt / all, 3)) : "";
    for (std::size_t l = 0; l < lights.size(); ++l) {
      if (for_backdrop(lights[l], c) || layers[l] <= 0.0) continue;
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
