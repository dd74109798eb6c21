#include "cinnabar/forecast/knobs.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/bench.h"

namespace cinnabar {
namespace {

void exposure_knobs(const Bench& b, std::vector<Knob>& list) {
  const bool light_first = b.project.rule("exposure", b.shot) == "add-light";
  const auto lights = [&] {
    if (auto k = all_dimmers_knob(b)) list.push_back(*k);
    if (const int l = strongest_light(b); l >= 0)
      list.push_back(light_distance_knob(b, static_cast<std::size_t>(l)));
  };
  if (light_first) lights();
  list.push_back(iso_knob(b));
  list.push_back(aperture_knob(b));
  list.push_back(shutter_knob(b));
  list.push_back(nd_knob(b));
  if (!light_first) lights();
}

}  // namespace

int strongest_light(const Bench& b) {
  int best = -1;
  double most = 0.0;
  for (std::size_t l = 0; b.setup && l < b.setup->lights.size(); ++l) {
    const Light& light = b.setup->lights[l];
    const double d2 = dot(light.place, light.place),
                 gives =
                     light.on ? light.full_luminance() * light.area() * light.dimmer / std::max(1e-3, d2) : 0.0;
    if (gives > most) most = gives, best = static_cast<int>(l);
  }
  return best;
}

KnobList knobs_for(const Document& document, const Project& project, std::size_t shot, const Level& level) {
  // The knobs refer to the bench for as long as they live: it is kept alive by each of them.
  const auto bench = std::make_shared<Bench>(document, project, shot);
  const Bench& b = *bench;
  KnobList out;
  auto& list = out.knobs;
  const std::string& id = level.id;
  if (id == "frame.backdrop-edge")
    edge_knobs(b, list), out.why = "no change of lens, camera place or set size within reach hides the edge";
  if (id == "frame.size") {
    list.push_back(dolly_knob(b));
    if (auto k = focal_knob(b)) list.push_back(*k);
    if (auto k = lens_knob(b)) list.push_back(*k);
    out.why = "the lenses of the kit focus no nearer, and none is longer";
  }
  if (id == "light.product" || id == "camera.stops")
    exposure_knobs(b, list), out.why = "neither the lights nor the camera of this kit reach that far";
  if (id == "light.backdrop") {
    for (std::size_t l = 0; l < b.setup->lights.size(); ++l) {
      if (auto k = dimmer_knob(b, l)) list.push_back(*k);
      if (b.setup->lights[l].on) {
        door_knobs(b, l, list);
        list.push_back(grid_knob(b, l)), list.push_back(light_distance_knob(b, l));
      }
    }
    const Backdrop& drop = b.setup->backdrop;
    list.push_back(member_knob(b, b.setup_path + "/backdrop/distance", drop.distance,
                               even_steps(0.2, drop.distance + 3, 0.1), "Stand the backdrop", 5,
                               "room behind the table", true));
    const double tone = (drop.material.colour.x + drop.material.colour.y + drop.material.colour.z) / 3;
    if (tone > 0.0)
      list.push_back(
          {within({0.001, 0.005, 0.01, 0.02, 0.03, 0.05, 0.08, 0.12, 0.18, 0.25, 0.35, 0.5, 0.65, 0.8, 0.9}, 0.001,
                  0.9),
           tone,
           [&b, tone](const Document& d, double v) {
             const Vec3 c = b.setup->backdrop.material.colour * (v / tone);
             Json material{{"kind", material_name(b.setup->backdrop.material.kind)}};
             if (const auto own = value_at(d, b.setup_path + "/backdrop/material")) material = *own;
             material["colour"] = {std::min(0.95, c.x), std::min(0.95, c.y), std::min(0.95, c.z)};
             return set(d, b.setup_path + "/backdrop/material", material);
           },
           [tone](double v) {
             return said("Hang a {} backdrop, reflecting {} % instead of {} %", v < tone ? "darker" : "paler",
                         number_text(v * 100, 2), number_text(tone * 100, 2));
           },
           6, "that backdrop", true});
    out.why = "no light, grid, distance or cloth of this kit moves the backdrop that far";
  }
  if (id == "light.highlight") {
    for (std::size_t l = 0; b.setup && l < b.setup->lights.size(); ++l)
      if (auto k = dimmer_knob(b, l)) list.push_back(*k);
    if (auto k = all_dimmers_knob(b)) list.push_back(*k);
    list.push_back(iso_knob(b)), list.push_back(aperture_knob(b)), list.push_back(shutter_knob(b)),
        list.push_back(nd_knob(b));
    out.why = "neither the lights nor the camera of this kit reach that far";
  }
  if (id == "light.white")
    white_knobs(b, list), out.why = "no gel or setting of the kit meets the camera's balance";
  if (id == "motion.smear") {
    const double t = b.camera.shutter_time;
    if (auto k = slower_table_knob(b)) list.push_back(*k);
    list.push_back(shutter_knob(b));
    list.push_back(paid_in_iso(b, shutter_knob(b), [t](double v) { return std::log2(t / v); }));
    list.push_back(dolly_knob(b));
    if (auto k = focal_knob(b)) list.push_back(*k);
    out.why = "no shutter of this camera is short enough";
  }
  if (id == "motion.slow") {
    list.push_back(speed_knob(b));
    if (auto k = mode_knob(b)) {
      list.push_back(*k);
      if (b.shot.slow) {  // another rate, and the film played as slow as was asked
        const double speed = 1.0 / *b.shot.slow;
        const Knob play = speed_knob(b);
        list.push_back({k->steps, k->current,
                        [turn = k->apply, slow = play.apply, speed](const Document& d, double v) {
                          const Maybe next = turn(d, v);
                          return next ? slow(*next, speed) : Maybe();
                        },
                        [title = k->title, speed](double v) {
                          return said("{}, and play at {} %", title(v), number_text(speed * 100, 3));
                        },
                        0.5, "", false});
      }
    }
    out.why = "no mode of this camera records enough frames";
  }
  if (id == "motion.length") {
    const double frame = 1.0 / project.timeline_rate;
    std::vector<double> steps;
    for (int k = 1; k <= 4000; ++k) steps.push_back(k * frame);
    list.push_back({steps, b.shot.screen_time,
                    [&b](const Document& d, double v) {
                      return set(d, b.shot_path + "/screen_time", std::round(v * 1e6) / 1e6);
                    },
                    [&b](double v) {
                      return said("{} the shot from {} s to {} s", v < b.shot.screen_time ? "Shorten" : "Lengthen",
                                  fixed_text(b.shot.screen_time, 2), fixed_text(v, 2));
                    },
                    0, "", false});
    out.why = "the shot would have no length left";
  }
  if (id == "motion.load") load_knobs(b, list), out.why = "no turntable of the kit carries it";
  if (id == "focus.depth") {
    const double n = b.camera.f_number;
    if (!b.shot.track("camera.focus"))
      list.push_back(
          {even_steps(std::max(b.camera.focal * 1.1, b.camera.focus * 0.7), b.camera.focus * 1.4, 0.001),
           b.camera.focus, [&b](const Document& d, double v) { return set(d, b.camera_path + "/focus", v); },
           [&b](double v) {
             return said("Focus at {} instead of {}", fixed_text(v, 3) + " m",
                         fixed_text(b.camera.focus, 3) + " m");
           },
           0.5, "", false});
    list.push_back(aperture_knob(b));
    list.push_back(paid_in_iso(b, aperture_knob(b), [n](double v) { return 2 * std::log2(v / n); }));
    list.push_back(dolly_knob(b));
    out.why = "the lens does not stop down far enough";
  }
  if (id == "camera.iso") {
    const double iso = b.camera.iso, n = b.camera.f_number;
    list.push_back(iso_knob(b));
    // Paid in aperture: ISO down, the lens open by as much.
    list.push_back({isos(b), iso,
                    [&b, iso, n](const Document& d, double v) {
                      const auto values = f_numbers(b);
                      const double wanted = n * std::sqrt(v / iso), f = nearest(values, wanted);
                      if (values.empty() || std::abs(2 * std::log2(f / wanted)) > 0.2) return Maybe();
                      return set(set(d, b.camera_path + "/iso", v), b.camera_path + "/f_number", f);
                    },
                    [&b, iso, n](double v) {
                      return said("ISO from {} to {} and f/{} to f/{}", number_text(iso, 6), number_text(v, 6),
                                  number_text(n, 3),
                                  number_text(nearest(f_numbers(b), n * std::sqrt(v / iso)), 3));
                    },
                    0.4, "", false});
    out.why = "the camera's lowest ISO is above the limit";
  }
  if (id == "camera.shutter") {
    const double t = b.camera.shutter_time;
    list.push_back(shutter_knob(b));
    list.push_back(paid_in_iso(b, shutter_knob(b), [t](double v) { return std::log2(t / v); }));
    out.why = "no shutter time of this mode meets the rule";
  }
  using Adding = void (*)(const Bench&, std::vector<Knob>&);
  struct Way {
    const char* id;
    Adding add;
    const char* why;
    bool needs_setup = true;
  };
  static const Way ways[] = {
      {"frame.copy-space", words_knobs,
       "no place of the camera and no light of this kit frees and evens the words' area"},
      {"frame.crop-room", crop_knobs, "no mode of this camera records more pixels", false},
      {"light.ratio", ratio_knobs, "no dimmer, card or place of a light within reach gives that contrast"},
      {"light.soft", soft_knobs, "no face or distance within reach makes that shadow"},
      {"light.stripe", stripe_knobs, "no place or width of the strip puts its image beside the label"},
      {"light.spill", spill_knobs, "no grid, dimmer or distance keeps the light off the backdrop"},
      {"light.cast", cast_knobs, "no place of backdrop or lights takes the shadow away"},
      {"light.shadow", noise_knobs, "neither the lights nor the camera of this kit reach that far", false},
      {"motion.facing", facing_knobs, "no start or speed of the turn shows the label for that long", false},
      {"frame.feature", feature_knobs, "no place, lens, aperture or turn of this kit shows it so large and sharp"},
      {"motion.peak", peak_knobs, "no shift of the light's keys meets the label", false},
      {"motion.judder", judder_knobs, "no slower or shorter move is slow enough", false},
      {"motion.reach", reach_knobs, "nothing in the kit reaches or turns that fast", false},
      {"motion.loop", loop_knobs, "no number of turns closes it", false},
      {"focus.pull", pull_knobs, "no marks within the lens's reach breathe so little", false},
      {"focus.hides-edge", behind_knobs, "no aperture, distance or lens of this kit blurs it that far"},
      {"camera.locked", lock_knobs, "there is nothing to lock", false},
      {"camera.media", media_knobs, "the kit has neither cards nor batteries to bring more of", false}};
  for (const Way& way : ways)
    if (id == way.id) {
      if (!way.needs_setup || b.setup) way.add(b, list);
      out.why = way.why;
    }
  if (id == "frame.shapes" || id == "frame.close-focus") {
    list.push_back(dolly_knob(b));
    if (auto k = focal_knob(b)) list.push_back(*k);
    if (auto k = lens_knob(b)) list.push_back(*k);
    out.why = "no distance or lens of this kit brings it in";
  }
  if (id == "light.flicker") {
    const double t = b.camera.shutter_time;
    list.push_back(shutter_knob(b));
    list.push_back(paid_in_iso(b, shutter_knob(b), [t](double v) { return std::log2(t / v); }));
    for (std::size_t l = 0; b.setup && l < b.setup->lights.size(); ++l)
      if (auto k = dimmer_knob(b, l)) list.push_back(*k);
    out.why = "no exposure of this mode fits the mains, and no light that ripples can be spared";
  }
  if (id == "focus.diffraction") {
    const double n = b.camera.f_number;
    list.push_back(paid_in_iso(b, aperture_knob(b), [n](double v) { return 2 * std::log2(v / n); }));
    list.push_back(aperture_knob(b));
    list.push_back(dolly_knob(b));
    out.why = "the lens does not open far enough";
  }
  if (id == "camera.mode") {
    if (auto k = mode_knob(b)) list.push_back(*k);
    if (auto k = lens_knob(b)) list.push_back(*k);
    out.why = "no mode of this camera has all that the shot needs";
  }
  for (Knob& k : list) {
    k.apply = [bench, apply = std::move(k.apply)](const Document& d, double v) { return apply(d, v); };
    k.title = [bench, title = std::move(k.title)](double v) { return title(v); };
  }
  return out;
}

}  // namespace cinnabar
