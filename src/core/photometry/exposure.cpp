#include "cinnabar/photometry/exposure.h"

#include <fmt/format.h>

#include <cmath>

namespace cinnabar {

Keys<EvInputs> EvInputs::keys() {
  static const Key<EvInputs> list[]{{"f_number", "", positive, &EvInputs::f_number},
                                    {"time", "s", positive, &EvInputs::time},
                                    {"iso", "ISO", positive, &EvInputs::iso}};
  return list;
}
Results<Ev> Ev::results() {
  static const ResultKey<Ev> list[]{{"ev", "EV", &Ev::ev}, {"ev100", "EV", &Ev::ev100}};
  return list;
}
Expected<Ev> exposure_value(const EvInputs& in) {
  CINNABAR_TRY(check(in));
  const double ev = std::log2(in.f_number * in.f_number / in.time);
  return Ev{ev, ev - std::log2(in.iso / 100.0)};
}

Keys<IncidentExposureInputs> IncidentExposureInputs::keys() {
  static const Key<IncidentExposureInputs> list[]{
      {"illuminance_lx", "lx", positive, &IncidentExposureInputs::illuminance_lx},
      {"f_number", "", positive, &IncidentExposureInputs::f_number},
      {"time", "s", positive, &IncidentExposureInputs::time},
      {"iso", "ISO", positive, &IncidentExposureInputs::iso}};
  return list;
}
Results<IncidentExposure> IncidentExposure::results() {
  static const ResultKey<IncidentExposure> list[]{
      {"stops", "stops", &IncidentExposure::stops},
      {"illuminance_needed_lx", "lx", &IncidentExposure::illuminance_needed_lx}};
  return list;
}
Expected<IncidentExposure> incident_exposure(const IncidentExposureInputs& in) {
  CINNABAR_TRY(check(in));
  constexpr double c = 250.0;  // value from memory
  const double needed = c * in.f_number * in.f_number / (in.time * in.iso);
  return IncidentExposure{std::log2(in.illuminance_lx / needed), needed};
}

Keys<ReflectedExposureInputs> ReflectedExposureInputs::keys() {
  static const Key<ReflectedExposureInputs> list[]{
      {"luminance", "cd/m2", positive, &ReflectedExposureInputs::luminance},
      {"f_number", "", positive, &ReflectedExposureInputs::f_number},
      {"time", "s", positive, &ReflectedExposureInputs::time},
      {"iso", "ISO", positive, &ReflectedExposureInputs::iso}};
  return list;
}
Results<ReflectedExposure> ReflectedExposure::results() {
  static const ResultKey<ReflectedExposure> list[]{
      {"stops", "stops", &ReflectedExposure::stops},
      {"luminance_needed", "cd/m2", &ReflectedExposure::luminance_needed}};
  return list;
}
Expected<ReflectedExposure> reflected_exposure(const ReflectedExposureInputs& in) {
  CINNABAR_TRY(check(in));
  constexpr double k = 12.5;  // value from memory
  const double needed = k * in.f_number * in.f_number / (in.time * in.iso);
  return ReflectedExposure{std::log2(in.luminance / needed), needed};
}

Keys<SensorExposureInputs> SensorExposureInputs::keys() {
  static const Key<SensorExposureInputs> list[]{{"luminance", "cd/m2", positive, &SensorExposureInputs::luminance},
                                                {"f_number", "", positive, &SensorExposureInputs::f_number},
                                                {"time", "s", positive, &SensorExposureInputs::time},
                                                {"iso", "ISO", positive, &SensorExposureInputs::iso}};
  return list;
}
Results<SensorExposure> SensorExposure::results() {
  static const ResultKey<SensorExposure> list[]{{"exposure_lxs", "lx s", &SensorExposure::exposure_lxs},
                                                {"saturation_lxs", "lx s", &SensorExposure::saturation_lxs},
                                                {"stops_under_clip", "stops", &SensorExposure::stops_under_clip}};
  return list;
}
Expected<SensorExposure> sensor_exposure(const SensorExposureInputs& in) {
  CINNABAR_TRY(check(in));
  const double h = 0.65 * in.luminance * in.time / (in.f_number * in.f_number);  // q = 0.65, value from memory
  const double saturation = 78.0 / in.iso;
  return SensorExposure{h, saturation, std::log2(saturation / h)};
}

Keys<StopsInputs> StopsInputs::keys() {
  static const Key<StopsInputs> list[]{{"ratio", "", positive, &StopsInputs::ratio}};
  return list;
}
Results<Stops> Stops::results() {
  static const ResultKey<Stops> list[]{{"stops", "stops", &Stops::stops}};
  return list;
}
Expected<Stops> stops(const StopsInputs& in) {
  CINNABAR_TRY(check(in));
  return Stops{std::log2(in.ratio)};
}

Keys<ShutterInputs> ShutterInputs::keys() {
  static const Key<ShutterInputs> list[]{
      {"frame_rate", "1/s", positive, &ShutterInputs::frame_rate, Typed::rate},
      {"angle_deg", "deg", Range{0, 360, true, false}, &ShutterInputs::angle_deg}};
  return list;
}
Results<Shutter> Shutter::results() {
  static const ResultKey<Shutter> list[]{{"time", "s", &Shutter::time}};
  return list;
}
Expected<Shutter> shutter(const ShutterInputs& in) {
  CINNABAR_TRY(check(in));
  return Shutter{in.angle_deg / (360.0 * in.frame_rate)};
}

Keys<ShutterAngleInputs> ShutterAngleInputs::keys() {
  static const Key<ShutterAngleInputs> list[]{
      {"frame_rate", "1/s", positive, &ShutterAngleInputs::frame_rate, Typed::rate},
      {"time", "s", positive, &ShutterAngleInputs::time}};
  return list;
}
Results<ShutterAngle> ShutterAngle::results() {
  static const ResultKey<ShutterAngle> list[]{{"angle_deg", "deg", &ShutterAngle::angle_deg}};
  return list;
}
Expected<ShutterAngle> shutter_angle(const ShutterAngleInputs& in) {
  CINNABAR_TRY(check(in));
  const double angle = 360.0 * in.frame_rate * in.time;
  if (angle > 360.0 * (1.0 + 1e-9))
    return out_of_range("time", fmt::format("> 0 and at most the frame interval, {:g} s", 1.0 / in.frame_rate));
  return ShutterAngle{angle};
}

Keys<GreyNoiseInputs> GreyNoiseInputs::keys() {
  static const Key<GreyNoiseInputs> list[]{
      {"full_well_e", "e", positive, &GreyNoiseInputs::full_well_e},
      {"iso_low", "", positive, &GreyNoiseInputs::iso_low},
      {"iso", "", positive, &GreyNoiseInputs::iso},
      {"headroom_stops", "stops", {-30.0, 30.0}, &GreyNoiseInputs::headroom_stops},
      {"read_noise_e", "e", non_negative, &GreyNoiseInputs::read_noise_e},
      {"binned", "", {1.0, 1e12}, &GreyNoiseInputs::binned}};
  return list;
}
Results<GreyNoise> GreyNoise::results() {
  static const ResultKey<GreyNoise> list[]{{"electrons", "e", &GreyNoise::electrons},
                                           {"snr_db", "dB", &GreyNoise::snr_db},
                                           {"steps_8bit", "", &GreyNoise::steps_8bit}};
  return list;
}
Expected<GreyNoise> grey_noise(const GreyNoiseInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.iso < in.iso_low) return out_of_range("iso", fmt::format("at least iso_low ({:g})", in.iso_low));
  const double e = in.full_well_e * in.iso_low / in.iso * std::exp2(-in.headroom_stops),
               snr = std::sqrt(in.binned) * e / std::sqrt(e + in.read_noise_e * in.read_noise_e);
  // Slope of the sRGB curve at 18 % (IEC 61966-2-1).
  return GreyNoise{e, 20.0 * std::log10(snr), 255.0 * (1.055 / 2.4) * std::pow(0.18, 1.0 / 2.4) / snr};
}

}  // namespace cinnabar
