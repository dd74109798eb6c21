// Throws, bounces, tumbling, elastics, swings and spins, plates and chances. SI.
#pragma once
#include <array>
#include <optional>
#include <vector>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// Fine drops or grains in still air (Schiller & Naumann to a Reynolds number of 1000, then a drag of 0.44): their
/// speed, the time to fall, and the half-life in a stirred room that is aired `air_changes` times an hour.
struct SettleInputs {
  double diameter, density, fluid_density, viscosity, height, air_changes;
  static Keys<SettleInputs> keys();
};
struct Settle {
  double speed, reynolds, time, half_life;
  static Results<Settle> results();
};
[[nodiscard]] Expected<Settle> settle(const SettleInputs&);

/// A throw, with quadratic drag by its terminal speed (0: without air), until it is `height` below where it left
/// (Runge-Kutta of the fourth order).
struct FlightInputs {
  double speed, angle_deg, height, terminal_speed;
  static Keys<FlightInputs> keys();
};
struct Flight {
  double time, reach, peak, landing_speed;
  static Results<Flight> results();
};
[[nodiscard]] Expected<Flight> flight(const FlightInputs&);

/// Bounces of a thing let fall from `height`: when it lands, how high it comes after each, and when it is at rest.
struct ReboundInputs {
  double height, restitution, bounces;
  static Keys<ReboundInputs> keys();
};
struct Rebound {
  std::vector<double> times, heights;
  double rest_time;
  static Results<Rebound> results();
};
[[nodiscard]] Expected<Rebound> rebound(const ReboundInputs&);

/// A thing held at a pivot for `hold` after it is let go, then falling free: its turning, within 5 %. `gyration`
/// is the length over the root of 12 for a plate, half the radius for a disc, 0.632 of it for a ball.
struct TumbleInputs {
  double offset, gyration, hold, fall_time;
  static Keys<TumbleInputs> keys();
};
struct Tumble {
  double rate_deg_s, turn_deg;
  static Results<Tumble> results();
};
[[nodiscard]] Expected<Tumble> tumble(const TumbleInputs&);

/// Pieces let go together by hand: one drawing of when each lands, by SplitMix64 (Steele, Lea & Flood 2014) from
/// `seed`, two numbers a piece: its height, and its speed upward.
struct ScatterFallInputs {
  double pieces, seed, height, height_spread, speed_spread;
  static Keys<ScatterFallInputs> keys();
};
struct ScatterFall {
  std::vector<double> times, order;
  double span;
  static Results<ScatterFall> results();
};
[[nodiscard]] Expected<ScatterFall> scatter_fall(const ScatterFallInputs&);

/// As `layer_release`, with the drag of each layer by its terminal speed (0: none), and the speeds at which they
/// land.
struct LayerDropInputs {
  std::vector<double> heights, terminal_speeds;
  double stagger;
  static Keys<LayerDropInputs> keys();
};
struct LayerDrop {
  std::vector<double> offsets, speeds;
  static Results<LayerDrop> results();
};
[[nodiscard]] Expected<LayerDrop> layer_drop(const LayerDropInputs&);

/// A stretched elastic that is cut: how fast it is gone, and the most that it kicks sideways by friction. Within a
/// half.
struct RecoilInputs {
  double modulus, density, stretch, length, friction;
  static Keys<RecoilInputs> keys();
};
struct Recoil {
  double wave_speed, recoil_speed, slack_time, kick_speed;
  static Results<Recoil> results();
};
[[nodiscard]] Expected<Recoil> recoil(const RecoilInputs&);

/// A ball on an arm let go at `angle_deg`, meeting a face `gap` beyond the pivot's plumb line (Abramowitz &
/// Stegun 17.6).
struct SwingHitInputs {
  double length, radius, angle_deg, gap;
  static Keys<SwingHitInputs> keys();
};
struct SwingHit {
  double time, speed, contact_deg, rise;
  static Results<SwingHit> results();
};
[[nodiscard]] Expected<SwingHit> swing_hit(const SwingHitInputs&);

/// A string pulled off a bolt with an even force. Within 15 %; over 3 m/s no hand keeps the force (common
/// practice, no source).
struct StringSpinInputs {
  double pull, bolt_radius, force, inertia, friction_torque;
  static Keys<StringSpinInputs> keys();
};
struct StringSpin {
  double turns, spin_time, rpm, hand_speed;
  std::optional<double> coast_time;
  static Results<StringSpin> results();
};
[[nodiscard]] Expected<StringSpin> string_spin(const StringSpinInputs&);

/// What it does to a plate that the camera stood aside or turned: near against far, and the whole picture, in
/// pixels.
struct PlateParallaxInputs {
  double shift, turn_deg, focal, focus, near, far, pixel_pitch;
  static Keys<PlateParallaxInputs> keys();
};
struct PlateParallax {
  double parallax_px, turn_px;
  static Results<PlateParallax> results();
};
[[nodiscard]] Expected<PlateParallax> plate_parallax(const PlateParallaxInputs&);

/// How often `events` that scatter by `sigma` all fall within `tolerance` (normal distribution), and the takes
/// that it needs.
struct HitChanceInputs {
  double tolerance, sigma, events;
  static Keys<HitChanceInputs> keys();
};
struct HitChance {
  double share, expected;
  std::optional<double> ninety;
  static Results<HitChance> results();
};
[[nodiscard]] Expected<HitChance> hit_chance(const HitChanceInputs&);

}  // namespace cinnabar
