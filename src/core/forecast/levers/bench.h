// The bench that knobs are made on: a shot with its pointers, and the rows of values that a hand would set.
#pragma once
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/forecast/levers/makers.h"
#include "cinnabar/forecast/measures/strongest.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {

using Maybe = std::optional<Document>;

inline Maybe set(const Document& doc, const std::string& pointer, const Json& value) {
  auto next = with_value(doc, pointer, value);
  return next ? Maybe(std::move(*next)) : std::nullopt;
}
inline Maybe set(const Maybe& doc, const std::string& pointer, const Json& value) {
  return doc ? set(*doc, pointer, value) : std::nullopt;
}
inline Json point(const Vec3& v) {
  const auto tidy = [](double x) { return std::round(x * 1e5) / 1e5; };
  return Json{tidy(v.x), tidy(v.y), tidy(v.z)};
}

/// Everything a knob needs to know about the shot.
struct Bench {
  const Document& doc;
  const Project& project;
  std::size_t index;
  const Shot& shot;
  ShotCamera camera;
  ShotOptics optics;
  const Setup* setup;
  std::string shot_path, camera_path, setup_path;
  Units units;

  Bench(const Document& d, const Project& p, std::size_t i)
      : doc(d),
        project(p),
        index(i),
        shot(*p.shots[i]),
        camera(shot.camera.value_or(ShotCamera{})),
        optics(shot_optics(p, shot)),
        setup(by_id(p.setups, shot.setup)),
        shot_path(fmt::format("/shots/{}", i)),
        camera_path(shot_path + "/camera"),
        units(p.units) {
    for (std::size_t s = 0; s < p.setups.size(); ++s)
      if (p.setups[s].get() == setup) setup_path = fmt::format("/setups/{}", s);
  }
  /// The light that gives most there.
  [[nodiscard]] std::optional<std::size_t> main_light() const {
    return setup ? strongest_light(*setup, product_place(shot)) : std::nullopt;
  }
  [[nodiscard]] std::string len(double metres) const { return length_text(metres, units); }
  [[nodiscard]] std::string light_path(std::size_t l) const { return fmt::format("{}/lights/{}", setup_path, l); }
};

/// A knob of which every step is tried: what is wanted may lie in a narrow place.
inline Knob scanned(Knob knob) {
  knob.scan = true;
  return knob;
}
/// A change with one solved value; `apply` makes it.
inline Knob solved_knob(std::function<Maybe(const Document&)> apply, std::string title, double minutes,
                        std::string gear = {}) {
  return {{1.0},
          0.0,
          [apply = std::move(apply)](const Document& d, double) { return apply(d); },
          [title = std::move(title)](double) { return title; },
          minutes,
          std::move(gear),
          false};
}
inline std::vector<double> within(std::vector<double> values, double low, double high) {
  std::erase_if(values, [&](double v) { return v < low * (1 - 1e-9) || v > high * (1 + 1e-9); });
  std::sort(values.begin(), values.end());
  values.erase(std::unique(values.begin(), values.end()), values.end());
  return values;
}
inline std::vector<double> even_steps(double low, double high, double step) {
  std::vector<double> values;
  const auto n = static_cast<int>(std::min(4000.0, std::floor((high - low) / step + 1e-6)));
  for (int k = 0; k <= n; ++k) values.push_back(std::round((low + k * step) * 1e6) / 1e6);
  return values;
}

/// Owned lamps, strongest first (those of unknown output last), one entry for each piece.
[[nodiscard]] std::vector<const LightKit*> owned_lamps(const Project& project);
/// The same less those that the set-up has already.
[[nodiscard]] std::vector<const LightKit*> spare_lamps(const Bench& b);
/// A lamp of the kit set up behind a cloth, at the camera's white where it reaches that; `more` says what differs.
[[nodiscard]] Json lamp_json(const Bench& b, const LightKit& kit, const Vec3& place, const Vec3& aim,
                             const Json& more);
/// A window as a light that stands by itself: an overcast sky of 2000 cd/m2 (common practice, no source) behind a
/// pane so wide and a fifth higher.
[[nodiscard]] Json plain_window(const Vec3& place, const Vec3& aim, double width);
/// What a room throws back of a window's light, on an upward patch (common practice, no source).
inline const Json beside_a_window{{"illuminance_lx", 40.0}, {"kelvin", 5600}};
/// A list of the set-up with one thing more, under an id of its own.
[[nodiscard]] Maybe with_more(const Bench& b, const Document& d, const std::string& list, const std::string& id,
                              Json thing);

// Camera.
[[nodiscard]] std::vector<double> isos(const Bench& b);
[[nodiscard]] std::vector<double> f_numbers(const Bench& b);
[[nodiscard]] double nearest(const std::vector<double>& values, double wanted);
[[nodiscard]] Knob iso_knob(const Bench& b);
[[nodiscard]] Knob aperture_knob(const Bench& b);
[[nodiscard]] Knob shutter_knob(const Bench& b);
[[nodiscard]] Knob nd_knob(const Bench& b);
[[nodiscard]] Knob dolly_knob(const Bench& b);
[[nodiscard]] std::optional<Knob> focal_knob(const Bench& b);
[[nodiscard]] std::optional<Knob> lens_knob(const Bench& b);
[[nodiscard]] std::optional<Knob> mode_knob(const Bench& b);
/// Turns `knob` and pays for it in ISO, `stops` being the light it costs.
[[nodiscard]] Knob paid_in_iso(const Bench& b, const Knob& knob, const std::function<double(double)>& stops);
// What moves.
[[nodiscard]] Knob speed_knob(const Bench& b);
[[nodiscard]] std::optional<Knob> slower_table_knob(const Bench& b);
// Lights and set.
/// The middle of the first product as it stands.
[[nodiscard]] Vec3 product_middle(const Bench& b);
[[nodiscard]] Knob round_knob(const Bench& b, std::size_t l);
[[nodiscard]] Knob camera_height_knob(const Bench& b);
/// Turns `knob` and pays for it with every light's dimmer, `stops` being the light it costs.
[[nodiscard]] Knob paid_in_light(const Bench& b, const Knob& knob, const std::function<double(double)>& stops);
[[nodiscard]] std::optional<Knob> all_dimmers_knob(const Bench& b);
[[nodiscard]] std::optional<Knob> dimmer_knob(const Bench& b, std::size_t l);
[[nodiscard]] Knob light_distance_knob(const Bench& b, std::size_t l);
/// Each leaf of a light's barn doors; nothing where it has none.
void door_knobs(const Bench& b, std::size_t l, std::vector<Knob>& list);
[[nodiscard]] Knob grid_knob(const Bench& b, std::size_t l);
/// One length of the set, by its pointer.
[[nodiscard]] Knob member_knob(const Bench& b, const std::string& pointer, double now, std::vector<double> steps,
                               const std::string& verb, double minutes, const std::string& gear, bool shared);

}  // namespace cinnabar
