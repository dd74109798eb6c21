#include "cinnabar/project/model/windows.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <memory>

#include "cinnabar/base/words.h"
#include "cinnabar/color/white.h"
#include "cinnabar/photometry/daylight.h"
#include "cinnabar/photometry/sources.h"
#include "cinnabar/project/model/names.h"

namespace cinnabar {

std::optional<std::string> first_take_utc(const Project& project) {
  if (!project.hour || !project.longitude) return std::nullopt;
  const auto midnight = julian_day(project.date + "T00:00");
  if (!midnight) return std::nullopt;
  const double utc = *project.hour - std::round(*project.longitude / 15.0), day = std::floor(utc / 24.0),
               hour = utc - 24.0 * day;
  return date_of(*midnight + day) +
         fmt::format("T{:02}:{:02}", static_cast<int>(hour), static_cast<int>(std::fmod(hour, 1.0) * 60.0));
}

std::optional<SunOverRoom> sun_over_room(const Project& project, const std::optional<double>& north_deg) {
  const auto when = first_take_utc(project);
  const auto julian = when ? julian_day(*when) : std::nullopt;
  if (!julian || !project.latitude || !north_deg) return std::nullopt;
  const Sun sun = sun_at(*project.latitude, *project.longitude, *julian);
  // Bearings on the floor grow against the compass.
  return SunOverRoom{*north_deg - sun.azimuth_deg, sun.altitude_deg, day_of_year(*julian)};
}

WindowFace window_face(const Room& room, const RoomWindow& window) {
  constexpr double inside = 0.002;
  const double x = room.width.value_or(0.0) / 2 - inside, z = room.depth.value_or(0.0) / 2 - inside;
  const double up = window.low + window.height / 2;
  Vec3 at, inward;
  switch (window.wall) {
    case RoomWall::left:
      at = {-x, up, window.along}, inward = {1, 0, 0};
      break;
    case RoomWall::right:
      at = {x, up, window.along}, inward = {-1, 0, 0};
      break;
    case RoomWall::front:
      at = {window.along, up, z}, inward = {0, 0, -1};
      break;
    case RoomWall::back:
      at = {window.along, up, -z}, inward = {0, 0, 1};
      break;
    case RoomWall::ceiling:
      at = {window.along, room.height.value_or(0.0) - inside, window.low}, inward = {0, -1, 0};
      break;
  }
  return {room.place + at, inward};
}

namespace {

/// Lux outside a pane that faces `out`, by where they come from.
struct OnPane {
  double direct = 0, sky = 0, ground = 0;
};
OnPane on_pane(const Vec3& out, const SunOverRoom& sun, const std::string& sky, double ground) {
  if (out.y > 0.5) {
    const auto open = outdoor_light({sun.altitude_deg, sun.day_of_year, sky});
    return open ? OnPane{open->global_lx - open->diffuse_lx, open->diffuse_lx, 0.0} : OnPane{};
  }
  const double faces = degrees(std::atan2(out.x, out.z));
  const auto lit = window({sun.altitude_deg, sun.bearing_deg - faces, sun.day_of_year, sky, ground});
  return lit ? OnPane{lit->direct_lx, lit->sky_lx, lit->ground_lx} : OnPane{};
}

double white_of_light(const std::vector<WhiteShare>& shares) {
  constexpr double daylight = 5600.0;
  return std::clamp(mixed_white(shares).value_or(daylight), 1700.0, 25000.0);
}

}  // namespace

std::vector<Light> window_lights(const Room& room, const Project& project) {
  std::vector<Light> list;
  if (!room.has_walls()) return list;
  const auto sun = sun_over_room(project, room.north_deg);
  const std::string& sky = sky_names()[static_cast<std::size_t>(room.sky)];
  std::optional<Outlook> outlook;  // nothing by night, and where it is not known
  if (sun && sun->altitude_deg > 0.0)
    if (const auto open = Outlook::of(sun->altitude_deg, sun->day_of_year, sky, room.ground)) outlook = *open;
  for (std::size_t k = 0; k < room.windows.size(); ++k) {
    const RoomWindow& w = room.windows[k];
    const WindowFace face = window_face(room, w);
    Light pane;
    pane.id = w.id, pane.name = w.name.empty() ? said("Window") : w.name;
    pane.daylight = true, pane.window = k, pane.on = w.on;
    pane.place = face.place, pane.aim = face.place + face.inward;
    pane.shape = LightShape::rectangle, pane.width = w.width, pane.height = w.height;
    pane.transmittance = w.transmittance, pane.dimmer = w.curtain.value_or(1.0);
    if (!outlook) {
      list.push_back(pane);
      continue;
    }
    const OnPane lux = on_pane(-face.inward, *sun, sky, room.ground);
    const double sun_k = sun_kelvin(sun->altitude_deg), sky_k = sky_kelvin(sky);
    // The ground throws back what lies on it: of the sun as much as of the sky where it shines.
    const double half = lux.ground / 2;
    const bool shines = room.sky != SkyKind::overcast;
    const std::vector<WhiteShare> indirect{{sky_k, lux.sky + (shines ? half : lux.ground)},
                                           {sun_k, shines ? half : 0.0}};
    if (w.curtain) {
      auto all = indirect;
      all.push_back({sun_k, lux.direct});
      pane.lumens = (lux.direct + lux.sky + lux.ground) * pane.area();
      pane.kelvin = white_of_light(all);
      list.push_back(pane);
      continue;
    }
    const double scattered = lux.sky + lux.ground;
    pane.lumens = scattered * pane.area();
    pane.kelvin = white_of_light(indirect);
    const Facing frame = facing(pane.place, pane.aim);
    pane.shines = std::make_shared<FrontEmission>(
        FrontFace{false, w.width / 2, w.height / 2},
        [frame, view = *outlook, bearing = radians(sun->bearing_deg), scattered](double u, double v) {
          const Vec3 out = unit(-(frame.right * u + frame.up * v + frame.ahead));
          return scattered > 0.0 ? view.luminance(std::asin(std::clamp(out.y, -1.0, 1.0)),
                                                  std::atan2(out.x, out.z) - bearing) *
                                       pi / scattered
                                 : 0.0;
        });
    list.push_back(pane);
    if (lux.direct <= 0.0) continue;
    Light beam = list.back();
    beam.id = w.id + "-sun", beam.name = said("Sun by {}", pane.name);
    beam.shines.reset();
    const double h = radians(sun->altitude_deg), b = radians(sun->bearing_deg);
    beam.beam = Vec3{std::cos(h) * std::sin(b), std::sin(h), std::cos(h) * std::cos(b)};
    // As bright as its disc: what is square to it gets as much as outside.
    const auto open = outdoor_light({sun->altitude_deg, sun->day_of_year, sky});
    const double disc = pi * std::pow(std::sin(radians(sun_half_deg)), 2.0);
    beam.lumens = (open ? open->direct_normal_lx : 0.0) / disc * pi * beam.area();
    beam.kelvin = sun_k;
    list.push_back(beam);
  }
  return list;
}

}  // namespace cinnabar
