#include "cinnabar/forecast/measures/pins.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/render/meter.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {
namespace {

constexpr double grey_card = 0.18;          // reflectance
constexpr double dark_lux = 1e-6;           // lux
constexpr double worth_a_beam = 0.06;       // of the readings, as a root mean square: less is a hand's error
constexpr double fits_a_beam = 0.1;         // the same: readings that no beam explains bend none
constexpr Range beams_sought{10.0, 170.0};  // degrees, between which a beam is sought

using Readings = std::vector<Reading>;

/// Every pin on a staged world; empty when cancelled.
Readings metered(const Tracer& tracer, const std::vector<Pin>& pins, const std::atomic<bool>* cancel) {
  Readings out(pins.size());
  tbb::parallel_for(std::size_t{0}, pins.size(), [&](std::size_t i) {
    if (cancel && *cancel) return;
    out[i] = held_meter(tracer, pins[i].at, pins[i].normal);
  });
  return cancel && *cancel ? Readings{} : out;
}

std::shared_ptr<const StagedWorld> still_world(const Project& project, const Shot& shot, double set_time) {
  return std::make_shared<const StagedWorld>(stage(project, shot, set_time, {.motion = false}));
}

std::optional<double> log2_over(double a, double b) {
  return a > dark_lux && b > dark_lux ? std::optional(std::log2(a / b)) : std::nullopt;
}

}  // namespace

std::vector<PinReading> read_pins(const Project& project, const Shot& shot, double set_time,
                                  const std::atomic<bool>* cancel) {
  const Setup* setup = by_id(project.setups, shot.setup);
  if (!setup || setup->pins.empty()) return {};
  const auto world = still_world(project, shot, set_time);
  std::vector<Pin> there;
  for (const Pin& pin : setup->pins)
    if (auto now = pin_at(project, shot, pin, set_time)) there.push_back(std::move(*now));
  const Readings all = metered(Tracer(world), there, cancel);
  std::vector<PinReading> out;
  std::size_t i = 0;
  for (const Pin& pin : setup->pins) {
    if (all.size() < there.size()) break;  // cancelled
    if (i >= there.size() || there[i].id != pin.id) {
      out.push_back({.pin = pin.id, .there = false});
      continue;
    }
    PinReading read{.pin = pin.id, .lux = all[i].total()};
    for (std::size_t l = 0; l < world->lights.size(); ++l)
      read.by_light.emplace_back(world->lights[l].id, all[i].by_light[l]);
    read.by_light.emplace_back("ambient", all[i].ambient);
    if (read.lux > dark_lux) read.kelvin = white_of(all[i], *world);
    if (shot.camera && read.lux > dark_lux)
      read.stops =
          std::log2(std::max(grey_card * read.lux / pi, 1e-9) / exposures_grey(world->camera)) - shot.target_stops;
    if (const auto& measured = pin.measured) read.off_stops = log2_over(measured->illuminance_lx, read.lux);
    out.push_back(std::move(read));
    ++i;
  }
  return out;
}

namespace {

/// What the pins that were read get: lux from the light as it is, from a lux of room on all sides, and from the
/// rest.
struct Parts {
  std::vector<double> light, room, rest;
  [[nodiscard]] double forecast(std::size_t i, double output, double room_lx) const {
    return rest[i] + output * light[i] + room_lx * room[i];
  }
};

struct Fit {
  double output = 1, room_lx = 0, squares = 1e300;  ///< of (forecast - measured) / measured
};

class Calibrating {
 public:
  Calibrating(const Project& project, std::size_t shot, const Setup& setup, std::size_t light, double set_time,
              const std::atomic<bool>* cancel)
      : project_(project),
        shot_(*project.shots[shot]),
        setup_(setup),
        light_(light),
        time_(set_time),
        cancel_(cancel) {
    for (const Pin& pin : setup.pins)
      if (pin.measured && pin.measured->illuminance_lx > dark_lux)
        if (auto now = pin_at(project_, shot_, pin, set_time)) pins_.push_back(std::move(*now));
  }

  [[nodiscard]] std::size_t readings() const { return pins_.size(); }
  [[nodiscard]] bool stopped() const { return cancel_ && *cancel_; }
  [[nodiscard]] const std::vector<Pin>& pins() const { return pins_; }
  [[nodiscard]] double measured(std::size_t i) const { return pins_[i].measured->illuminance_lx; }

  /// With the light's beam as it is, or through a grid of that angle; empty when cancelled.
  [[nodiscard]] Parts parts(std::optional<double> grid_deg) const {
    Project other = project_;
    if (grid_deg) {
      auto changed = std::make_shared<Setup>(setup_);
      changed->lights[light_].grid_deg = grid_deg;
      for (auto& setup : other.setups)
        if (setup.get() == &setup_) setup = changed;
    }
    const auto world = still_world(other, shot_, time_);
    const Readings all = metered(Tracer(world), pins_, cancel_);
    Parts out;
    for (const Reading& one : all) {
      double own = 0.0;
      for (std::size_t l = 0; l < world->lights.size(); ++l)
        if (world->lights[l].id == setup_.lights[light_].id) own = one.by_light[l];
      const double room = one.ambient_per_luminance / pi;  // a lux in the open is 1 / pi cd/m2 all round
      out.light.push_back(own);
      out.room.push_back(room);
      out.rest.push_back(one.total() - own - setup_.ambient_lx * room);
    }
    return out;
  }

  /// Output, and the room's part where it is sought; neither below nothing.
  [[nodiscard]] Fit fit(const Parts& p, bool with_room) const {
    double ll = 0, lr = 0, rr = 0, lm = 0, rm = 0;
    for (std::size_t i = 0; i < pins_.size(); ++i) {
      const double m = measured(i), l = p.light[i] / m, r = p.room[i] / m;
      const double wanted = (m - p.rest[i] - (with_room ? 0.0 : setup_.ambient_lx * p.room[i])) / m;
      ll += l * l, lr += l * r, rr += r * r, lm += l * wanted, rm += r * wanted;
    }
    Fit out{.output = ll > 0.0 ? lm / ll : 0.0, .room_lx = with_room ? 0.0 : setup_.ambient_lx};
    if (const double det = ll * rr - lr * lr; with_room && det > 1e-9 * ll * rr) {
      const double output = (lm * rr - rm * lr) / det, room = (ll * rm - lr * lm) / det;
      if (room > 0.0 && output > 0.0) out.output = output, out.room_lx = room;
    }
    out.squares = 0.0;
    for (std::size_t i = 0; i < pins_.size(); ++i) {
      const double away = (p.forecast(i, out.output, out.room_lx) - measured(i)) / measured(i);
      out.squares += away * away;
    }
    return out;
  }

 private:
  const Project& project_;
  const Shot& shot_;
  const Setup& setup_;
  std::size_t light_;
  double time_;
  const std::atomic<bool>* cancel_;
  std::vector<Pin> pins_;
};

/// The angle of a grid through which the readings fit best, by thirds; nothing where the beam as it is does nearly
/// as well, and when cancelled.
std::optional<double> best_beam(const Calibrating& c, const Fit& now, bool with_room) {
  if (now.squares < worth_a_beam * worth_a_beam * static_cast<double>(c.readings())) return std::nullopt;
  const auto squares = [&](double deg) {
    const Parts parts = c.parts(deg);
    return parts.light.empty() ? 1e300 : c.fit(parts, with_room).squares;
  };
  // Looked for coarsely first: what a pin gets falls to nothing where the beam ends.
  double best = beams_sought.high, least = squares(beams_sought.high);
  for (double deg = beams_sought.low; deg < beams_sought.high && !c.stopped(); deg += 16.0)
    if (const double here = squares(deg); here < least) least = here, best = deg;
  double low = std::max(beams_sought.low, best - 16.0), high = std::min(beams_sought.high, best + 16.0);
  while (high - low > 0.5 && !c.stopped()) {
    const double a = low + (high - low) / 3.0, b = high - (high - low) / 3.0;
    const bool left = squares(a) < squares(b);
    (left ? high : low) = left ? b : a;
  }
  best = std::round(5.0 * (low + high)) / 10.0;
  if (c.stopped()) return std::nullopt;
  const double then = squares(best);
  const bool fits = then < fits_a_beam * fits_a_beam * static_cast<double>(c.readings());
  return fits && now.squares > 4.0 * then ? std::optional(best) : std::nullopt;
}

}  // namespace

Expected<Calibration> calibrated(const Project& project, std::size_t shot, const std::string& light,
                                 double set_time, const std::atomic<bool>* cancel) {
  const std::string place = fmt::format("shot {}", shot + 1);
  if (shot >= project.shots.size()) return fail(place, "is not there", "give a shot of the spot");
  std::size_t at = 0;
  const Setup* setup = nullptr;
  for (std::size_t s = 0; s < project.setups.size(); ++s)
    if (project.setups[s]->id == project.shots[shot]->setup) setup = project.setups[s].get(), at = s;
  if (!setup) return fail(place, "has no set-up", "give it one");
  const auto lamp =
      std::find_if(setup->lights.begin(), setup->lights.end(), [&](const Light& l) { return l.id == light; });
  if (lamp == setup->lights.end()) return fail(light, "is no light of this set-up", "name one of it");
  if (lamp->window)
    return fail(light, "is a window, whose light follows from sun, sky and panes",
                "calibrate a lamp, or change the window's panes, curtain or sky");
  if (!lamp->on || lamp->dimmer <= 0.0) return fail(light, "is off", "switch it on as it was when it was metered");
  const auto index = static_cast<std::size_t>(lamp - setup->lights.begin());
  const Calibrating c(project, shot, *setup, index, set_time, cancel);
  if (c.readings() == 0)
    return fail("the pins", "were not read yet", "put what a hand meter reads to one of them");

  const auto cancelled = [] { return fail("the calibration", "was cancelled", "ask for it again"); };
  Parts parts = c.parts(std::nullopt);
  if (parts.light.empty()) return cancelled();
  if (std::none_of(parts.light.begin(), parts.light.end(), [](double lux) { return lux > dark_lux; }))
    return fail("the pins that were read", "get nothing from this light",
                "set it as it was when it was metered, or put a pin where it shines");
  const bool with_room = c.readings() >= readings_for_room;
  Fit fit = c.fit(parts, with_room);
  Calibration out;
  for (std::size_t i = 0; i < c.readings(); ++i)
    out.residuals.push_back({c.pins()[i].id, c.measured(i), parts.forecast(i, 1.0, setup->ambient_lx), 0.0});
  const bool has_beam =
      (lamp->shape == LightShape::rectangle || lamp->shape == LightShape::disc) && !lamp->distribution;
  if (c.readings() >= readings_for_beam && has_beam) {
    out.grid_deg = best_beam(c, fit, with_room);
    if (c.stopped()) return cancelled();
    if (out.grid_deg) parts = c.parts(out.grid_deg), fit = c.fit(parts, with_room);
    if (parts.light.empty()) return cancelled();
  }
  if (!(fit.output > 0.0))
    return fail("what was read", "is less than the other lights give there",
                "switch them off as they were when it was metered, or look for a wrong reading");
  out.output = fit.output;
  out.lumens = std::round(lamp->lumens * fit.output * 10.0) / 10.0;
  if (with_room) out.ambient_lx = std::round(fit.room_lx * 100.0) / 100.0;
  double before = 0.0, after = 0.0;
  for (std::size_t i = 0; i < out.residuals.size(); ++i) {
    PinResidual& one = out.residuals[i];
    one.after = parts.forecast(i, fit.output, fit.room_lx);
    const auto square = [&](double lux) { return std::pow(log2_over(one.measured, lux).value_or(0.0), 2.0); };
    before += square(one.before), after += square(one.after);
  }
  const auto count = static_cast<double>(out.residuals.size());
  out.off_before = std::sqrt(before / count), out.off_after = std::sqrt(after / count);
  const std::string path = fmt::format("/setups/{}", at), own = fmt::format("{}/lights/{}", path, index);
  out.changes.emplace_back(own + "/lumens", Json(out.lumens));
  if (out.grid_deg) out.changes.emplace_back(own + "/grid_deg", Json(*out.grid_deg));
  if (out.ambient_lx)
    out.changes.emplace_back(path + "/ambient",
                             Json{{"illuminance_lx", *out.ambient_lx}, {"kelvin", setup->ambient_kelvin}});
  out.title = said("{} as it was metered: {} lm", name_or(lamp->name, lamp->id), number_text(out.lumens, 4));
  return out;
}

}  // namespace cinnabar
