#include "cinnabar/effects/flights.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <cstdint>

#include "cinnabar/base/vec.h"
#include "cinnabar/effects/drawn.h"
#include "cinnabar/effects/falls.h"
#include "cinnabar/effects/fluids.h"

namespace cinnabar {

Keys<SettleInputs> SettleInputs::keys() {
  static const Key<SettleInputs> list[]{{"diameter", "m", positive, &SettleInputs::diameter},
                                        {"density", "kg/m3", positive, &SettleInputs::density},
                                        {"fluid_density", "kg/m3", positive, &SettleInputs::fluid_density},
                                        {"viscosity", "Pa s, of the fluid", positive, &SettleInputs::viscosity},
                                        {"height", "m", positive, &SettleInputs::height},
                                        {"air_changes", "1/h", non_negative, &SettleInputs::air_changes}};
  return list;
}
Results<Settle> Settle::results() {
  static const ResultKey<Settle> list[]{{"speed", "m/s", &Settle::speed},
                                        {"reynolds", "", &Settle::reynolds},
                                        {"time", "s", &Settle::time},
                                        {"half_life", "s", &Settle::half_life}};
  return list;
}
Expected<Settle> settle(const SettleInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.density <= in.fluid_density)
    return out_of_range("density", fmt::format("> the fluid's ({:g})", in.fluid_density));
  const double weight = (in.density - in.fluid_density) * standard_gravity * in.diameter * 4.0 / 3.0;
  const auto drag = [&](double speed) {
    const double reynolds = in.fluid_density * speed * in.diameter / in.viscosity;
    const double times = reynolds < 1000.0 ? 24.0 * (1.0 + 0.15 * std::pow(reynolds, 0.687)) / reynolds : 0.44;
    return in.fluid_density * speed * speed * times;
  };
  // By the logarithm of the speed: fog and gravel are ten powers apart. Stokes' is never exceeded.
  double high = std::log((in.density - in.fluid_density) * standard_gravity * in.diameter * in.diameter /
                         (18.0 * in.viscosity));
  double low = high - 60.0;
  for (int i = 0; i < 200; ++i) {
    const double middle = 0.5 * (low + high);
    (drag(std::exp(middle)) < weight ? low : high) = middle;
  }
  const double speed = std::exp(0.5 * (low + high));
  return Settle{speed, in.fluid_density * speed * in.diameter / in.viscosity, in.height / speed,
                std::log(2.0) / (in.air_changes / 3600.0 + speed / in.height)};
}

Keys<FlightInputs> FlightInputs::keys() {
  static const Key<FlightInputs> list[]{
      {"speed", "m/s", non_negative, &FlightInputs::speed},
      {"angle_deg", "deg above level", {-90.0, 90.0}, &FlightInputs::angle_deg},
      {"height", "m, above where it lands", non_negative, &FlightInputs::height},
      {"terminal_speed", "m/s, 0 = no drag", non_negative, &FlightInputs::terminal_speed}};
  return list;
}
Results<Flight> Flight::results() {
  static const ResultKey<Flight> list[]{{"time", "s", &Flight::time},
                                        {"reach", "m", &Flight::reach},
                                        {"peak", "m, above where it lands", &Flight::peak},
                                        {"landing_speed", "m/s", &Flight::landing_speed}};
  return list;
}
namespace {
struct Flying {
  double x, y, vx, vy;
};
Flying stepped(const Flying& s, double dt, double drag) {
  const auto slope = [drag](const Flying& f) {
    const double v = std::hypot(f.vx, f.vy);
    return Flying{f.vx, f.vy, -drag * v * f.vx, -standard_gravity - drag * v * f.vy};
  };
  const auto ahead = [&s](const Flying& k, double h) {
    return Flying{s.x + h * k.x, s.y + h * k.y, s.vx + h * k.vx, s.vy + h * k.vy};
  };
  const Flying a = slope(s), b = slope(ahead(a, dt / 2)), c = slope(ahead(b, dt / 2)), d = slope(ahead(c, dt));
  const double sixth = dt / 6;
  return {s.x + sixth * (a.x + 2 * b.x + 2 * c.x + d.x), s.y + sixth * (a.y + 2 * b.y + 2 * c.y + d.y),
          s.vx + sixth * (a.vx + 2 * b.vx + 2 * c.vx + d.vx), s.vy + sixth * (a.vy + 2 * b.vy + 2 * c.vy + d.vy)};
}
}  // namespace
Expected<Flight> flight(const FlightInputs& in) {
  CINNABAR_TRY(check(in));
  const double g = standard_gravity, up = in.speed * std::sin(radians(in.angle_deg));
  const double along =
      in.angle_deg == 90.0 || in.angle_deg == -90.0 ? 0.0 : in.speed * std::cos(radians(in.angle_deg));
  if (in.height == 0.0 && up <= 0.0) return Flight{0.0, 0.0, 0.0, in.speed};
  const double fast = std::sqrt(up * up + 2.0 * g * in.height), whole = (up + fast) / g;
  if (in.terminal_speed == 0.0)
    return Flight{whole, along * whole, in.height + (up > 0.0 ? up * up / (2.0 * g) : 0.0),
                  std::hypot(along, fast)};
  const double vt = in.terminal_speed, drag = g / (vt * vt);
  Flying now{0.0, in.height, along, up};
  double time = 0.0, peak = in.height;
  for (int step = 0; step < 2000000; ++step) {
    if (now.vy < 0.0 && std::abs(now.vx) < 1e-12 * vt &&
        std::abs(now.vy + vt) < 1e-10 * vt) {  // steady from here on
      time += now.y / vt;
      return Flight{time, now.x, peak, std::hypot(now.vx, now.vy)};
    }
    const double dt = std::min(0.004 * vt * vt / (g * std::max(vt, std::hypot(now.vx, now.vy))), whole / 400.0);
    Flying next = stepped(now, dt, drag);
    if (next.y <= 0.0 && next.vy < 0.0) {
      double low = 0.0, high = dt;
      for (int i = 0; i < 60; ++i) {
        const double middle = 0.5 * (low + high);
        (stepped(now, middle, drag).y > 0.0 ? low : high) = middle;
      }
      next = stepped(now, high, drag);
      return Flight{time + high, next.x, peak, std::hypot(next.vx, next.vy)};
    }
    if (now.vy > 0.0 && next.vy <= 0.0) {
      double low = 0.0, high = dt;
      for (int i = 0; i < 60; ++i) {
        const double middle = 0.5 * (low + high);
        (stepped(now, middle, drag).vy > 0.0 ? low : high) = middle;
      }
      peak = std::max(peak, stepped(now, high, drag).y);
    }
    now = next, time += dt;
  }
  return Flight{unbounded, unbounded, unbounded, unbounded};  // numbers beyond what can be followed
}

Keys<ReboundInputs> ReboundInputs::keys() {
  static const Key<ReboundInputs> list[]{
      {"height", "m", non_negative, &ReboundInputs::height},
      {"restitution", "", {0.0, 1.0, false, true}, &ReboundInputs::restitution},
      {"bounces", "", {1.0, 100.0, false, false, true}, &ReboundInputs::bounces}};
  return list;
}
Results<Rebound> Rebound::results() {
  static const ResultKey<Rebound> list[]{{"times", "s, of each landing", &Rebound::times},
                                         {"heights", "m, after each", &Rebound::heights},
                                         {"rest_time", "s", &Rebound::rest_time}};
  return list;
}
Expected<Rebound> rebound(const ReboundInputs& in) {
  CINNABAR_TRY(check(in));
  const double first = std::sqrt(2.0 * in.height / standard_gravity), e = in.restitution;
  Rebound out{{}, {}, first * (1.0 + e) / (1.0 - e)};
  double time = first, rise = 1.0;
  for (int i = 0; i < static_cast<int>(in.bounces); ++i) {
    rise *= e;
    out.times.push_back(time), out.heights.push_back(in.height * rise * rise);
    time += 2.0 * first * rise;
  }
  return out;
}

Keys<TumbleInputs> TumbleInputs::keys() {
  static const Key<TumbleInputs> list[]{
      {"offset", "m, support to centre of mass", non_negative, &TumbleInputs::offset},
      {"gyration", "m, about the centre", positive, &TumbleInputs::gyration},
      {"hold", "s, on the pivot", non_negative, &TumbleInputs::hold},
      {"fall_time", "s", non_negative, &TumbleInputs::fall_time}};
  return list;
}
Results<Tumble> Tumble::results() {
  static const ResultKey<Tumble> list[]{{"rate_deg_s", "deg/s", &Tumble::rate_deg_s},
                                        {"turn_deg", "deg, hold and fall", &Tumble::turn_deg}};
  return list;
}
Expected<Tumble> tumble(const TumbleInputs& in) {
  CINNABAR_TRY(check(in));
  const double push = standard_gravity * in.offset / (in.gyration * in.gyration + in.offset * in.offset);
  const double held = push * in.hold * in.hold / 2.0;
  if (held > 0.5)
    return out_of_range("hold", fmt::format("from 0 to {:g} s, half a radian of turn", std::sqrt(1.0 / push)));
  return Tumble{degrees(push * in.hold), degrees(held + push * in.hold * in.fall_time)};
}

Keys<ScatterFallInputs> ScatterFallInputs::keys() {
  static const Key<ScatterFallInputs> list[]{
      {"pieces", "", {1.0, 1000.0, false, false, true}, &ScatterFallInputs::pieces},
      {"seed", "", {0.0, 9007199254740991.0, false, false, true}, &ScatterFallInputs::seed},
      {"height", "m", non_negative, &ScatterFallInputs::height},
      {"height_spread", "m", non_negative, &ScatterFallInputs::height_spread},
      {"speed_spread", "m/s, upward or downward", non_negative, &ScatterFallInputs::speed_spread}};
  return list;
}
Results<ScatterFall> ScatterFall::results() {
  static const ResultKey<ScatterFall> list[]{{"times", "s, by piece", &ScatterFall::times},
                                             {"order", "pieces from 1, as they land", &ScatterFall::order},
                                             {"span", "s", &ScatterFall::span}};
  return list;
}
Expected<ScatterFall> scatter_fall(const ScatterFallInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.height_spread > in.height)
    return out_of_range("height_spread", fmt::format("from 0 to the height ({:g})", in.height));
  Drawn draws(static_cast<std::uint64_t>(in.seed));
  const auto drawn = [&draws] { return 2.0 * draws() - 1.0; };
  ScatterFall out{};
  for (int i = 0; i < static_cast<int>(in.pieces); ++i) {
    const double height = in.height + in.height_spread * drawn(), up = in.speed_spread * drawn();
    out.times.push_back((up + std::sqrt(up * up + 2.0 * standard_gravity * height)) / standard_gravity);
    out.order.push_back(i + 1);
  }
  const auto time_of = [&](double piece) { return out.times[static_cast<std::size_t>(piece) - 1]; };
  std::stable_sort(out.order.begin(), out.order.end(),
                   [&](double a, double b) { return time_of(a) < time_of(b); });
  out.span = time_of(out.order.back()) - time_of(out.order.front());
  return out;
}

Keys<LayerDropInputs> LayerDropInputs::keys() {
  static const Key<LayerDropInputs> list[]{
      {"heights", "m, bottom first", non_negative, &LayerDropInputs::heights},
      {"terminal_speeds", "m/s, 0 = no drag", non_negative, &LayerDropInputs::terminal_speeds},
      {"stagger", "s", non_negative, &LayerDropInputs::stagger}};
  return list;
}
Results<LayerDrop> LayerDrop::results() {
  static const ResultKey<LayerDrop> list[]{{"offsets", "s", &LayerDrop::offsets},
                                           {"speeds", "m/s, landing", &LayerDrop::speeds}};
  return list;
}
Expected<LayerDrop> layer_drop(const LayerDropInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.heights.empty()) return out_of_range("heights", "at least one height >= 0");
  if (in.terminal_speeds.size() != in.heights.size())
    return out_of_range("terminal_speeds", fmt::format("one for each height ({}), each >= 0", in.heights.size()));
  LayerDrop out{};
  for (std::size_t i = 0; i < in.heights.size(); ++i) {
    const auto one = fall({in.heights[i], in.terminal_speeds[i]});
    if (!one) return tl::unexpected(one.error());
    out.offsets.push_back(static_cast<double>(i) * in.stagger - one->time), out.speeds.push_back(one->speed);
  }
  const double first = *std::min_element(out.offsets.begin(), out.offsets.end());
  for (double& t : out.offsets) t -= first;
  return out;
}

Keys<RecoilInputs> RecoilInputs::keys() {
  static const Key<RecoilInputs> list[]{
      {"modulus", "Pa", positive, &RecoilInputs::modulus},
      {"density", "kg/m3", positive, &RecoilInputs::density},
      {"stretch", "length over unstretched", {1.0, unbounded, true, false}, &RecoilInputs::stretch},
      {"length", "m, unstretched", positive, &RecoilInputs::length},
      {"friction", "", non_negative, &RecoilInputs::friction}};
  return list;
}
Results<Recoil> Recoil::results() {
  static const ResultKey<Recoil> list[]{{"wave_speed", "m/s", &Recoil::wave_speed},
                                        {"recoil_speed", "m/s", &Recoil::recoil_speed},
                                        {"slack_time", "s", &Recoil::slack_time},
                                        {"kick_speed", "m/s, at most", &Recoil::kick_speed}};
  return list;
}
Expected<Recoil> recoil(const RecoilInputs& in) {
  CINNABAR_TRY(check(in));
  const double wave = std::sqrt(in.modulus / in.density), slack = in.length / wave;
  return Recoil{wave, (in.stretch - 1.0) * wave, slack, in.friction * standard_gravity * slack};
}

Keys<SwingHitInputs> SwingHitInputs::keys() {
  static const Key<SwingHitInputs> list[]{
      {"length", "m, pivot to the ball's centre", positive, &SwingHitInputs::length},
      {"radius", "m", non_negative, &SwingHitInputs::radius},
      {"angle_deg", "deg", {0.0, 90.0, true, false}, &SwingHitInputs::angle_deg},
      {"gap", "m, positive beyond the plumb line", any_number, &SwingHitInputs::gap}};
  return list;
}
Results<SwingHit> SwingHit::results() {
  static const ResultKey<SwingHit> list[]{{"time", "s", &SwingHit::time},
                                          {"speed", "m/s, of the centre", &SwingHit::speed},
                                          {"contact_deg", "deg, positive past the bottom", &SwingHit::contact_deg},
                                          {"rise", "m", &SwingHit::rise}};
  return list;
}
Expected<SwingHit> swing_hit(const SwingHitInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.radius >= in.length)
    return out_of_range("radius", fmt::format("from 0 to under the length ({:g})", in.length));
  const double start = radians(in.angle_deg), across = in.gap - in.radius;
  if (std::abs(across) >= in.length * std::sin(start))
    return out_of_range("gap", fmt::format("within {:g} of the radius: the ball does not come so far",
                                           in.length * std::sin(start)));
  const double contact = std::asin(across / in.length), k = std::sin(start / 2.0);
  const double swung = in.length * (1.0 + 0.4 * in.radius * in.radius / (in.length * in.length));
  const double phase = std::asin(std::clamp(std::sin(contact / 2.0) / k, -1.0, 1.0));
  const double time = std::sqrt(swung / standard_gravity) * (std::comp_ellint_1(k) + std::ellint_1(k, phase));
  const double speed =
      std::sqrt(2.0 * standard_gravity * in.length * in.length * (std::cos(contact) - std::cos(start)) / swung);
  const double half = std::sin(contact / 2.0);
  return SwingHit{time, speed, degrees(contact), 2.0 * in.length * half * half};
}

Keys<StringSpinInputs> StringSpinInputs::keys() {
  static const Key<StringSpinInputs> list[]{
      {"pull", "m", positive, &StringSpinInputs::pull},
      {"bolt_radius", "m", positive, &StringSpinInputs::bolt_radius},
      {"force", "N", positive, &StringSpinInputs::force},
      {"inertia", "kg m2", positive, &StringSpinInputs::inertia},
      {"friction_torque", "N m", non_negative, &StringSpinInputs::friction_torque}};
  return list;
}
Results<StringSpin> StringSpin::results() {
  static const ResultKey<StringSpin> list[]{{"turns", "", &StringSpin::turns},
                                            {"spin_time", "s", &StringSpin::spin_time},
                                            {"rpm", "1/min", &StringSpin::rpm},
                                            {"hand_speed", "m/s", &StringSpin::hand_speed},
                                            {"coast_time", "s", &StringSpin::coast_time}};
  return list;
}
Expected<StringSpin> string_spin(const StringSpinInputs& in) {
  CINNABAR_TRY(check(in));
  const double torque = in.force * in.bolt_radius;
  if (in.friction_torque >= torque)
    return out_of_range("friction_torque", fmt::format("from 0 to under force x bolt_radius ({:g})", torque));
  const double push = (torque - in.friction_torque) / in.inertia, angle = in.pull / in.bolt_radius;
  const double rate = std::sqrt(2.0 * push * angle);
  StringSpin out{angle / (2.0 * pi), rate / push, rate * 60.0 / (2.0 * pi), rate * in.bolt_radius, {}};
  if (in.friction_torque > 0.0) out.coast_time = in.inertia * rate / in.friction_torque;
  return out;
}

Keys<PlateParallaxInputs> PlateParallaxInputs::keys() {
  static const Key<PlateParallaxInputs> list[]{
      {"shift", "m, sideways", non_negative, &PlateParallaxInputs::shift},
      {"turn_deg", "deg", {0.0, 45.0, false, true}, &PlateParallaxInputs::turn_deg},
      {"focal", "m", positive, &PlateParallaxInputs::focal},
      {"focus", "m", positive, &PlateParallaxInputs::focus},
      {"near", "m", positive, &PlateParallaxInputs::near},
      {"far", "m", positive, &PlateParallaxInputs::far},
      {"pixel_pitch", "m", positive, &PlateParallaxInputs::pixel_pitch}};
  return list;
}
Results<PlateParallax> PlateParallax::results() {
  static const ResultKey<PlateParallax> list[]{{"parallax_px", "px", &PlateParallax::parallax_px},
                                               {"turn_px", "px, in the middle", &PlateParallax::turn_px}};
  return list;
}
Expected<PlateParallax> plate_parallax(const PlateParallaxInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.focus <= in.focal) return out_of_range("focus", fmt::format("> focal ({:g})", in.focal));
  if (in.far < in.near) return out_of_range("far", fmt::format(">= near ({:g})", in.near));
  const double image = in.focal * in.focus / (in.focus - in.focal) / in.pixel_pitch;
  return PlateParallax{in.shift * image * (1.0 / in.near - 1.0 / in.far), image * std::tan(radians(in.turn_deg))};
}

Keys<HitChanceInputs> HitChanceInputs::keys() {
  static const Key<HitChanceInputs> list[]{
      {"tolerance", "either side", positive, &HitChanceInputs::tolerance},
      {"sigma", "in the same unit", positive, &HitChanceInputs::sigma},
      {"events", "", {1.0, 1000.0, false, false, true}, &HitChanceInputs::events}};
  return list;
}
Results<HitChance> HitChance::results() {
  static const ResultKey<HitChance> list[]{{"share", "of takes", &HitChance::share},
                                           {"expected", "takes to the first", &HitChance::expected},
                                           {"ninety", "takes for nine in ten", &HitChance::ninety}};
  return list;
}
Expected<HitChance> hit_chance(const HitChanceInputs& in) {
  CINNABAR_TRY(check(in));
  // By logarithms: with many events the share is next to nothing, or the miss is.
  const double log_share = in.events * std::log1p(-std::erfc(in.tolerance / (in.sigma * std::sqrt(2.0))));
  HitChance out{std::exp(log_share), std::exp(-log_share), {}};
  const double takes =
      out.share >= 1.0 ? 1.0 : std::max(1.0, std::ceil(std::log(0.1) / std::log1p(-out.share) - 1e-9));
  if (takes <= 1e5) out.ninety = takes;
  return out;
}

}  // namespace cinnabar
