// Exposure: from light and settings to stops (ISO 2720:1974, ISO 12232:2019). Illuminance in lux, luminance in
// candela per square metre, time in seconds, f-numbers effective.
#pragma once
#include "cinnabar/base/keys.h"

namespace cinnabar {

/// Exposure value of the settings alone, and the same referred to ISO 100.
struct EvInputs {
  double f_number, time, iso;
  static Keys<EvInputs> keys();
};
struct Ev {
  double ev, ev100;
  static Results<Ev> results();
};
[[nodiscard]] Expected<Ev> exposure_value(const EvInputs&);

/// Stops that an incident reading lies over (+) or under (-) what the settings need, C = 250 (flat receptor).
struct IncidentExposureInputs {
  double illuminance_lx, f_number, time, iso;
  static Keys<IncidentExposureInputs> keys();
};
struct IncidentExposure {
  double stops, illuminance_needed_lx;
  static Results<IncidentExposure> results();
};
[[nodiscard]] Expected<IncidentExposure> incident_exposure(const IncidentExposureInputs&);

/// The same for a reflected reading, K = 12.5.
struct ReflectedExposureInputs {
  double luminance, f_number, time, iso;
  static Keys<ReflectedExposureInputs> keys();
};
struct ReflectedExposure {
  double stops, luminance_needed;
  static Results<ReflectedExposure> results();
};
[[nodiscard]] Expected<ReflectedExposure> reflected_exposure(const ReflectedExposureInputs&);

/// Exposure at the sensor and the distance to clipping: H = 0.65 L t / N^2, H_sat = 78 / S.
struct SensorExposureInputs {
  double luminance, f_number, time, iso;
  static Keys<SensorExposureInputs> keys();
};
struct SensorExposure {
  double exposure_lxs, saturation_lxs, stops_under_clip;
  static Results<SensorExposure> results();
};
[[nodiscard]] Expected<SensorExposure> sensor_exposure(const SensorExposureInputs&);

/// Signal over noise of an 18 % grey rendered as metered. `full_well_e` holds at `iso_low`; `headroom_stops` from
/// grey to clipping; `binned` recorded pixels to one delivered, by area. Without pattern noise, demosaicing and
/// denoising: within 3 dB (common practice, no source).
struct GreyNoiseInputs {
  double full_well_e, iso_low, iso, headroom_stops, read_noise_e, binned;
  static Keys<GreyNoiseInputs> keys();
};
struct GreyNoise {
  double electrons;   ///< of a recorded pixel
  double snr_db;      ///< of a delivered one
  double steps_8bit;  ///< one standard deviation, on the sRGB curve at 18 %
  static Results<GreyNoise> results();
};
[[nodiscard]] Expected<GreyNoise> grey_noise(const GreyNoiseInputs&);

/// Stops in a ratio of light.
struct StopsInputs {
  double ratio;
  static Keys<StopsInputs> keys();
};
struct Stops {
  double stops;
  static Results<Stops> results();
};
[[nodiscard]] Expected<Stops> stops(const StopsInputs&);

/// Shutter time of a shutter angle (at most 360 degrees) at a frame rate.
struct ShutterInputs {
  double frame_rate, angle_deg;
  static Keys<ShutterInputs> keys();
};
struct Shutter {
  double time;
  static Results<Shutter> results();
};
[[nodiscard]] Expected<Shutter> shutter(const ShutterInputs&);

/// Shutter angle of a shutter time; a time longer than the frame interval is refused.
struct ShutterAngleInputs {
  double frame_rate, time;
  static Keys<ShutterAngleInputs> keys();
};
struct ShutterAngle {
  double angle_deg;
  static Results<ShutterAngle> results();
};
[[nodiscard]] Expected<ShutterAngle> shutter_angle(const ShutterAngleInputs&);

}  // namespace cinnabar
