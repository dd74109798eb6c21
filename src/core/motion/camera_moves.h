// What a camera that moves, shakes or reads row by row makes of the picture. SI.
#pragma once
#include <optional>
#include <vector>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// What a readout of `readout` seconds does to a thing that takes `share` of the frame's height: lean of its
/// upright edges, wobble between two of its rows under a vibration, and bands of mains light.
struct RollingShutterInputs {
  double image_speed, readout, share, vibration_px, vibration_hz, mains_hz;
  static Keys<RollingShutterInputs> keys();
};
struct RollingShutter {
  double skew_px, wobble_px, bands;
  static Results<RollingShutter> results();
};
[[nodiscard]] Expected<RollingShutter> rolling_shutter(const RollingShutterInputs&);

/// How fast the image of a thing `distance` away moves while the camera slides at `speed` and pans: on the sensor,
/// and the set time that it takes for one frame width (nothing where it stands still).
struct ParallaxInputs {
  double speed, pan_rate_deg, distance, focal, focus, sensor_width;
  static Keys<ParallaxInputs> keys();
};
struct Parallax {
  double image_speed;
  std::optional<double> seconds_per_width;
  static Results<Parallax> results();
};
[[nodiscard]] Expected<Parallax> parallax(const ParallaxInputs&);

/// Hand-held shake as a stationary process of spectrum (1 + (f / corner)^2)^-2: how far the picture moves between
/// two moments `time` apart, and how fast the camera turns (root mean squares). Corner and size: common practice
/// within a factor of two, no source.
struct ShakeInputs {
  double rms_deg, corner_hz, time, image_distance, pixel_pitch;
  static Keys<ShakeInputs> keys();
};
struct Shake {
  double rms_px, rate_deg;
  static Results<Shake> results();
};
[[nodiscard]] Expected<Shake> shake(const ShakeInputs&);

/// A spinning thing with `spokes` alike, as the frames show it: degrees from frame to frame, what they look like,
/// and the turning that is seen on the set and on screen.
struct StrobeInputs {
  double rpm, spokes, capture_rate, timeline_rate;
  static Keys<StrobeInputs> keys();
};
struct Strobe {
  double degrees_per_frame, apparent_degrees, apparent_rpm, screen_rpm;
  static Results<Strobe> results();
};
[[nodiscard]] Expected<Strobe> strobe(const StrobeInputs&);

}  // namespace cinnabar
