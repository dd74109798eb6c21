#include "cinnabar/render/overlays.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "cinnabar/color/white.h"
#include "cinnabar/optics/lens.h"
#include "cinnabar/photometry/sources.h"

namespace cinnabar {
namespace {

std::size_t pixel_at(const Film& film, double x, double y) {
  const int px = std::clamp(static_cast<int>(x * film.width), 0, film.width - 1),
            py = std::clamp(static_cast<int>(y * film.height), 0, film.height - 1);
  return static_cast<std::size_t>(py) * static_cast<std::size_t>(film.width) + static_cast<std::size_t>(px);
}

/// Where the ray through a place of the frame met the world.
std::optional<Vec3> met_at(const Film& film, const StagedCamera& camera, double x, double y) {
  const FirstHit& hit = film.first[pixel_at(film, x, y)];
  if (!hit.mesh) return std::nullopt;
  const CameraPose& pose = camera.middle_pose();
  return pose.place + pose.toward(camera.optics, x, y) * static_cast<double>(hit.distance);
}

double disc_on_sensor(const StagedCamera& camera, const Vec3& at) {
  const CameraPose& pose = camera.middle_pose();
  const auto disc = blur_disc({.focal = pose.focal,
                               .f_number = camera.f_number,
                               .focus = pose.focus,
                               .distance = std::max(1e-4, pose.depth(at))});
  return disc ? disc->diameter : 0.0;
}

/// What is met at a place of the picture goes with its product and past the camera while the shutter is open.
std::optional<SmearStroke> stroke_at(const Film& film, const StagedWorld& world, const Shot& shot, double x,
                                     double y) {
  const StagedCamera& camera = world.camera;
  const auto at = met_at(film, camera, x, y);
  if (!at) return std::nullopt;
  Vec3 from = *at, to = *at;
  const Mesh& mesh = *film.first[pixel_at(film, x, y)].mesh;
  const auto product = static_cast<std::size_t>(mesh.thing);
  if (mesh.role == Role::product && mesh.positions.size() > 1 && product < world.products.size()) {
    const ExposedPoses& poses = world.products[product];
    const Vec3 own = poses.middle.own(*at);
    from = poses.open.world(own), to = poses.shut.world(own);
  }
  const auto a = image_of(camera_at(shot, world.set_time), from),
             b = image_of(camera_at(shot, world.set_time + camera.shutter_time), to);
  if (!a || !b) return std::nullopt;
  const double w = camera.optics.sensor_width, h = camera.optics.sensor_height;
  return SmearStroke{0.5 + a->x / w, 0.5 - a->y / h, 0.5 + b->x / w, 0.5 - b->y / h,
                     std::hypot(b->x - a->x, b->y - a->y) / camera.optics.pitch};
}

template <class F>
void over_grid(const Film& film, int columns, F f) {
  const int rows = std::max(1, columns * film.height / std::max(1, film.width));
  for (int j = 0; j < rows; ++j)
    for (int i = 0; i < columns; ++i) f((i + 0.5) / columns, (j + 0.5) / rows);
}

}  // namespace

std::vector<FocusDisc> focus_discs(const Film& film, const StagedCamera& camera, int columns) {
  std::vector<FocusDisc> discs;
  over_grid(film, columns, [&](double x, double y) {
    if (const auto at = met_at(film, camera, x, y))
      discs.push_back({x, y, disc_on_sensor(camera, *at) / camera.optics.sensor_width});
  });
  return discs;
}

std::vector<SmearStroke> smear_strokes(const Film& film, const StagedWorld& world, const Shot& shot, int columns) {
  std::vector<SmearStroke> strokes;
  over_grid(film, columns, [&](double x, double y) {
    if (const auto stroke = stroke_at(film, world, shot, x, y); stroke && stroke->px >= 0.1)
      strokes.push_back(*stroke);
  });
  return strokes;
}

Probe probe(const Film& film, const StagedWorld& world, const LayerWeights& weights, const Shot& shot, double x,
            double y) {
  const StagedCamera& camera = world.camera;
  Probe out;
  out.shares.assign(film.layers, 0.0);
  const int cx = static_cast<int>(x * film.width), cy = static_cast<int>(y * film.height), reach = 2;
  int count = 0;
  for (int j = std::max(0, cy - reach); j <= std::min(film.height - 1, cy + reach); ++j)
    for (int i = std::max(0, cx - reach); i <= std::min(film.width - 1, cx + reach); ++i, ++count)
      for (std::size_t l = 0; l < film.layers; ++l)
        out.shares[l] +=
            luminance(film.sums[static_cast<std::size_t>(j * film.width + i) * film.layers + l] * weights[l]);
  for (const double s : out.shares) out.luminance += s;
  for (double& s : out.shares) s = out.luminance > 0.0 ? s / out.luminance : 0.0;
  out.luminance /= std::max(1, count * film.passes);
  out.stops = std::log2(std::max(out.luminance, 1e-9) / exposures_grey(camera)) - shot.target_stops;
  if (const auto at = met_at(film, camera, x, y)) {
    out.distance = camera.middle_pose().depth(*at);
    out.blur_px = disc_on_sensor(camera, *at) / camera.optics.delivered_pitch;
  }
  if (const auto stroke = stroke_at(film, world, shot, x, y)) out.smear_px = stroke->px;
  return out;
}

std::optional<PlaceMet> place_met(const Film& film, const StagedCamera& camera, double x, double y) {
  const auto at = met_at(film, camera, x, y);
  if (!at) return std::nullopt;
  const std::size_t pixel = pixel_at(film, x, y), wide = static_cast<std::size_t>(film.width);
  const Role role = film.first[pixel].mesh->role;
  const auto same = [&](std::size_t p) { return film.first[p].mesh && film.first[p].mesh->role == role; };
  std::size_t left = pixel, right = pixel;
  while (left % wide > 0 && same(left - 1)) --left;
  while (right % wide + 1 < wide && same(right + 1)) ++right;
  Vec3 normal = unit(film.first[pixel].normal.as<double>());
  if (dot(normal, camera.middle_pose().place - *at) < 0.0) normal = -normal;
  return PlaceMet{*at, role, normal, film.first[pixel].mesh->thing,
                  (2.0 * static_cast<double>(pixel - left) + 1.0) / static_cast<double>(right - left + 1) - 1.0};
}

std::vector<RowRipple> row_ripples(const Project& project, const Shot& shot) {
  std::vector<RowRipple> out;
  const Setup* setup = by_id(project.setups, shot.setup);
  if (!setup || !shot.camera) return out;
  for (std::size_t l = 0; l < setup->lights.size(); ++l) {
    const Light& light = setup->lights[l];
    const auto lamp = light.on ? lamp_ripple(project, light) : std::nullopt;
    if (!lamp) continue;
    if (const double left = left_of_ripple(*lamp, shot.camera->shutter_time); left > 0.0)
      out.push_back({l, left, lamp->hz});
  }
  return out;
}

Picture banded(Picture whole, const Film& film, const LayerWeights& weights, const std::vector<RowRipple>& ripples,
               double readout, double set_time) {
  for (const RowRipple& ripple : ripples) {
    if (ripple.layer >= weights.size()) continue;
    LayerWeights alone(weights.size());
    alone[ripple.layer] = weights[ripple.layer];
    const Picture of_it = mixed(film, alone);
    for (int y = 0; y < whole.height; ++y) {
      const double at = set_time + readout * (y + 0.5) / whole.height;
      const auto swings = static_cast<float>(ripple.left * std::cos(2.0 * pi * ripple.hz * at));
      for (int x = 0; x < whole.width; ++x) {
        const std::size_t p = film.at(x, y);
        const Rgb now = whole.pixels[p] + of_it.pixels[p] * swings;
        whole.pixels[p] = {std::max(0.0f, now.x), std::max(0.0f, now.y), std::max(0.0f, now.z)};
      }
    }
  }
  return whole;
}

std::vector<StrayThing> stray_things(const Film& film, const Setup& setup) {
  std::vector<StrayThing> list;
  const Mesh* last = nullptr;
  StrayThing* counted = nullptr;
  for (const FirstHit& hit : film.first) {
    if (!hit.mesh) continue;
    if (hit.mesh != last) {  // neighbours mostly show the same
      last = hit.mesh, counted = nullptr;
      if (must_not_be_seen(setup, *last)) {
        const int thing = last->role == Role::room ? 0 : last->thing;
        auto known = std::find_if(list.begin(), list.end(),
                                  [&](const StrayThing& s) { return s.role == last->role && s.thing == thing; });
        if (known == list.end()) known = list.insert(list.end(), {last->role, thing, 0.0});
        counted = &*known;
      }
    }
    if (counted) counted->share += 1.0 / static_cast<double>(film.pixels());
  }
  std::sort(list.begin(), list.end(), [](const StrayThing& a, const StrayThing& b) { return a.share > b.share; });
  return list;
}

std::vector<double> layer_shares(const Film& film, const LayerWeights& weights, Role role) {
  std::vector<double> sums(std::min(film.layers, weights.size()), 0.0);
  for (std::size_t p = 0; p < film.pixels(); ++p)
    if (film.first[p].mesh && film.first[p].mesh->role == role)
      for (std::size_t l = 0; l < sums.size(); ++l)
        sums[l] += static_cast<double>(luminance(film.sums[p * film.layers + l] * weights[l]));
  double all = 0.0;
  for (const double sum : sums) all += sum;
  if (!(all > 0.0)) return {};
  for (double& sum : sums) sum /= all;
  return sums;
}

}  // namespace cinnabar
