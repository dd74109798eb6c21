// Knobs of where the camera stands and looks, where the product stands before it, and which body records.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levers/bench.h"

namespace cinnabar {

void aim_knobs(const Bench& b, std::vector<Knob>& list) {
  const Facing frame = facing(b.camera.place, b.camera.aim, b.camera.roll_deg);
  const double reach = 0.5 * length(b.camera.aim - b.camera.place);
  const double step = std::max(0.002, std::round(reach * 20) / 1000);
  const auto knob = [&](const Vec3& along, const char* less, const char* more) {
    return Knob{even_steps(-std::round(reach / step) * step, reach, step),
                0.0,
                [&b, along](const Document& d, double v) {
                  return set(d, b.camera_path + "/aim", point(b.camera.aim + along * v));
                },
                [&b, less, more](double v) {
                  return said("Aim the camera {} farther {}", b.len(std::abs(v)), v < 0 ? less : more);
                },
                0.5,
                "",
                false,
                1e-4};
  };
  list.push_back(knob(frame.up, "down", "up"));
  list.push_back(knob(frame.right, "to the left", "to the right"));
}

void camera_height_knobs(const Bench& b, std::vector<Knob>& list) { list.push_back(camera_height_knob(b)); }

void product_turn_knobs(const Bench& b, std::vector<Knob>& list) {
  for (std::size_t i = 0; i < b.shot.products.size(); ++i) {
    const std::string pointer = fmt::format("{}/products/{}/turn_deg", b.shot_path, i);
    const double start = b.shot.products[i].turn_deg;
    list.push_back(scanned({even_steps(-180.0, 180.0, 5.0), start,
                            [pointer](const Document& d, double v) { return set(d, pointer, v); },
                            [start](double v) {
                              return said("Set the product down turned to {} degrees instead of {}",
                                          number_text(v, 3), number_text(start, 3));
                            },
                            0.5, "", false, 1.0}));
  }
}

void product_forward_knobs(const Bench& b, std::vector<Knob>& list) {
  if (b.shot.products.empty() || b.shot.track(Tracked::turntable)) return;  // its axis stays where it is
  list.push_back(
      {even_steps(0.05, 0.8, 0.05), 0.0,
       [&b](const Document& d, double v) {
         const Vec3 on{0, 0, v};
         Maybe next = set(set(d, b.camera_path + "/place", point(b.camera.place + on)), b.camera_path + "/aim",
                          point(b.camera.aim + on));
         for (std::size_t i = 0; i < b.shot.products.size(); ++i)
           next = set(next, fmt::format("{}/products/{}/place", b.shot_path, i),
                      point(b.shot.products[i].place + on));
         return next;
       },
       [&b](double v) { return said("Bring product and camera {} forward from the backdrop", b.len(v)); }, 3, "",
       false});
}

void focus_on_feature_knobs(const Bench& b, std::vector<Knob>& list) {
  if (b.shot.track(Tracked::camera_focus)) return;
  const CameraPose pose = camera_at(b.shot, 0.0);
  for (const ShotProduct& placed : b.shot.products) {
    const Product* product = by_id(b.project.products, placed.product);
    for (std::size_t f = 0; product && f < product->features.size(); ++f) {
      const Feature& feature = product->features[f];
      if (std::find(b.shot.features.begin(), b.shot.features.end(), product->id + "/" + feature.id) ==
          b.shot.features.end())
        continue;
      const double depth = pose.depth(product_at(b.project, b.shot, placed, 0.0).world(feature.at));
      if (depth <= 1.05 * b.camera.focal) continue;
      list.push_back({{std::round(depth * 1e4) / 1e4},
                      b.camera.focus,
                      [&b](const Document& d, double v) { return set(d, b.camera_path + "/focus", v); },
                      [name = feature.name.empty() ? feature.id : feature.name](double v) {
                        return said("Focus on {}, at {} m", name, fixed_text(v, 3));
                      },
                      0.5,
                      "",
                      false});
    }
  }
}

void other_body_knobs(const Bench& b, std::vector<Knob>& list) {
  struct Recording {
    const CameraBody* body;
    const CameraMode* mode;
  };
  std::vector<Recording> all;
  std::vector<double> steps;
  for (const auto& body : b.project.cameras)
    if (body->holding.owned && body->id != b.camera.camera)
      for (const CameraMode& mode : body->modes) {
        steps.push_back(static_cast<double>(all.size()));
        all.push_back({body.get(), &mode});
      }
  if (steps.empty()) return;
  list.push_back(scanned(
      {steps, -1.0,
       [&b, all](const Document& d, double v) {
         const auto& [body, mode] = all[static_cast<std::size_t>(v)];
         Maybe next = set(set(d, b.camera_path + "/camera", body->id), b.camera_path + "/mode", mode->id);
         next = set(next, b.camera_path + "/iso", std::clamp(b.camera.iso, body->iso_low, body->iso_high));
         return set(next, b.camera_path + "/shutter_time", b.camera.shutter_time * b.optics.rate / mode->rate);
       },
       [all](double v) {
         const auto& [body, mode] = all[static_cast<std::size_t>(v)];
         return said("Shoot with {}, {} x {} at {}", body->name.empty() ? body->id : body->name, mode->width,
                     mode->height, number_text(mode->rate, 6));
       },
       4, "", false}));
}

void aperture_for_nd_knobs(const Bench& b, std::vector<Knob>& list) {
  const double n = b.camera.f_number;
  const auto more = [n](double v) { return std::round(2 * std::log2(n / v)); };
  list.push_back({f_numbers(b), n,
                  [&b, n, more](const Document& d, double v) {
                    const double stops = 2 * std::log2(n / v);
                    if (stops <= 0.1 || std::abs(stops - more(v)) > 0.2) return Maybe();
                    return set(set(d, b.camera_path + "/f_number", v), b.camera_path + "/nd_stops",
                               b.camera.nd_stops + more(v));
                  },
                  [n, more, &b](double v) {
                    return said("Open from f/{} to f/{} and neutral density from {} to {} stops",
                                number_text(n, 3), number_text(v, 3), number_text(b.camera.nd_stops),
                                number_text(b.camera.nd_stops + more(v)));
                  },
                  1, "neutral density filter", false});
}

}  // namespace cinnabar
