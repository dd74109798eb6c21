#include "cinnabar/render/carried.h"
#include "cinnabar/render/filter.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <unordered_map>

namespace cinnabar {
namespace {

constexpr float most_carried = 8.0f;  // passes: more would drag behind what changes
constexpr float alike = 0.9f;         // cosine of normals that are taken for one
constexpr double as_far = 0.01;       // of the distance: how far off the plane of what is seen
constexpr float same_behind = 0.05f;  // squared difference of what clear things stand before
constexpr float deviations = 0.5f;    // of the neighbours, to which what is carried is held
constexpr int asked_pixels = 2;       // pixels: how far neighbours are asked
constexpr float known_well = 4.0f;    // passes: from here on every second frame will do

/// A number for each mesh that is the same in every frame of a shot: what it is of, and its place among those.
std::unordered_map<const Mesh*, int> numbered(const StagedWorld& world) {
  constexpr int things = 4096;
  std::map<std::pair<int, int>, int> count;
  std::unordered_map<const Mesh*, int> out;
  for (const Mesh& mesh : world.meshes) {
    const int role = static_cast<int>(mesh.role), nth = count[{role, mesh.thing}]++;
    out[&mesh] = (role * things + mesh.thing + 1) * things + nth;
  }
  return out;
}

}  // namespace

void CarriedLight::forget() {
  last_ = {}, shown_ = {};
  left_.clear(), outlines_.clear();
}

CarriedLight::Frame CarriedLight::looked_at(const Film& film, const StagedWorld& world) {
  Frame now;
  now.width = film.width, now.height = film.height;
  now.pose = world.camera.middle_pose();
  now.sensor_width = world.camera.optics.sensor_width, now.sensor_height = world.camera.optics.sensor_height;
  now.products = world.products;
  const auto numbers = numbered(world);
  now.body.resize(film.pixels()), now.product.resize(film.pixels()), now.place.resize(film.pixels());
  now.normal.resize(film.pixels()), now.distance.resize(film.pixels());
  now.behind = stands_behind(film);
  tbb::parallel_for(0, film.height, [&](int y) {
    for (int x = 0; x < film.width; ++x) {
      const std::size_t pixel = film.at(x, y);
      const FirstHit& first = film.first[pixel];
      const double u = (x + 0.5) / film.width, v = (y + 0.5) / film.height;
      now.place[pixel] =
          now.pose.place + now.pose.toward(world.camera.optics, u, v) * static_cast<double>(first.distance);
      const bool product = first.mesh && first.mesh->role == Role::product && first.mesh->thing >= 0 &&
                           static_cast<std::size_t>(first.mesh->thing) < world.products.size();
      now.body[pixel] = first.mesh ? numbers.at(first.mesh) : -1;
      now.product[pixel] = product ? first.mesh->thing : -1;
      now.normal[pixel] = first.normal;
      now.distance[pixel] = first.distance;
      // Print that goes by on what is not clear is no matter.
      if (!first.mesh || first.mesh->medium < 0) now.behind[pixel] = {};
    }
  });
  return now;
}

std::optional<CarriedLight::Was> CarriedLight::was_at(const Frame& now, std::size_t pixel) const {
  if (now.body[pixel] < 0 || last_.width == 0) return std::nullopt;
  Vec3 place = now.place[pixel];
  // Carried along with its product; turned it stays where it is: what falls on it is the room's.
  if (const int product = now.product[pixel];
      product >= 0 && static_cast<std::size_t>(product) < last_.products.size())
    place = place - (now.products[static_cast<std::size_t>(product)].middle.place -
                     last_.products[static_cast<std::size_t>(product)].middle.place);
  const auto at = image_of(last_.pose, place);
  if (!at) return std::nullopt;
  const Was was{(0.5 + at->x / last_.sensor_width) * last_.width - 0.5,
                (0.5 - at->y / last_.sensor_height) * last_.height - 0.5, place};
  if (!(was.x > -1.0 && was.y > -1.0 && was.x < last_.width && was.y < last_.height)) return std::nullopt;
  return was;
}

/// What the frame before knew of the place that a pixel shows, between the four pixels nearest to it.
std::optional<CarriedLight::Found> CarriedLight::before(const Frame& now, std::size_t pixel) const {
  const auto was = was_at(now, pixel);
  if (!was) return std::nullopt;
  const int body = now.body[pixel];
  const double px = was->x, py = was->y;
  const int left = static_cast<int>(std::floor(px)), top = static_cast<int>(std::floor(py));
  const auto fx = static_cast<float>(px - left), fy = static_cast<float>(py - top);
  const auto far = static_cast<double>(now.distance[pixel]);
  const Vec3 normal = now.normal[pixel].as<double>();
  Found found;
  float all = 0.0f;
  for (int j = 0; j < 2; ++j)
    for (int i = 0; i < 2; ++i) {
      const int qx = left + i, qy = top + j;
      if (qx < 0 || qy < 0 || qx >= last_.width || qy >= last_.height) continue;
      const auto q =
          static_cast<std::size_t>(qy) * static_cast<std::size_t>(last_.width) + static_cast<std::size_t>(qx);
      if (last_.body[q] != body || dot(last_.normal[q], now.normal[pixel]) < alike ||
          std::abs(dot(last_.place[q] - was->place, normal)) > as_far * far)
        continue;
      const Rgb apart = last_.behind[q] - now.behind[pixel];
      if (dot(apart, apart) > same_behind) continue;
      const float weight = (i == 0 ? 1.0f - fx : fx) * (j == 0 ? 1.0f - fy : fy);
      found.light += last_.light[q] * weight;
      found.passes += last_.passes[q] * weight;
      all += weight;
    }
  if (all < 0.25f) return std::nullopt;
  found.light = found.light * (1.0f / all);
  found.passes *= 1.0f / all;
  return found;
}

std::vector<char> CarriedLight::to_trace(const Film& film, const StagedWorld& world) const {
  std::vector<char> traced(film.pixels(), 1);
  if (last_.width == 0) return traced;
  const Frame now = looked_at(film, world);
  const auto stands = [](const Mesh* mesh) {
    return mesh && mesh->medium < 0 && mesh->light < 0 && !mesh->picture && mesh->positions.size() == 1 &&
           mesh->role != Role::effect && mesh->material.screen <= 0.0 &&
           mesh->material.kind != MaterialKind::metal;
  };
  tbb::parallel_for(0, film.height, [&](int y) {
    for (int x = (y + frames_) % 2; x < film.width; x += 2) {
      const std::size_t pixel = film.at(x, y);
      if (!stands(film.first[pixel].mesh)) continue;
      if (const auto found = before(now, pixel); found && found->passes >= known_well) traced[pixel] = 0;
    }
  });
  return traced;
}

Picture CarriedLight::with(const Picture& picture, const Film& film, const StagedWorld& world,
                           const std::vector<char>* traced) {
  Frame now = looked_at(film, world);
  Picture light = picture;
  std::vector<Rgb> tints(film.pixels());
  std::vector<std::optional<Found>> carried(film.pixels());
  const auto has_own = [traced](std::size_t pixel) { return !traced || (*traced)[pixel]; };
  tbb::parallel_for(0, now.height, [&](int y) {
    for (int x = 0; x < now.width; ++x) {
      const std::size_t pixel = film.at(x, y);
      const Rgb t = tints[pixel] = tint_of(film.first[pixel]);
      light.pixels[pixel] *= Rgb{1 / t.x, 1 / t.y, 1 / t.z};
      carried[pixel] = before(now, pixel);
      if (carried[pixel] && !has_own(pixel)) light.pixels[pixel] = carried[pixel]->light;
    }
  });
  hold_dots(light);
  now.light = light.pixels;
  now.passes.assign(film.pixels(), static_cast<float>(film.passes));
  left_.assign(film.pixels(), 1.0f);
  const auto own_passes = static_cast<float>(film.passes);
  tbb::parallel_for(0, now.height, [&](int y) {
    for (int x = 0; x < now.width; ++x) {
      const std::size_t pixel = film.at(x, y);
      const auto& found = carried[pixel];
      if (!found) continue;
      Rgb sum{}, squares{};
      float count = 0.0f;
      for (int j = std::max(0, y - asked_pixels); j <= std::min(now.height - 1, y + asked_pixels); ++j)
        for (int i = std::max(0, x - asked_pixels); i <= std::min(now.width - 1, x + asked_pixels); ++i) {
          const std::size_t q = film.at(i, j);
          if (now.body[q] != now.body[pixel] || !has_own(q)) continue;
          const Rgb& c = light.pixels[q];
          sum += c, squares += c * c, count += 1.0f;
        }
      const Rgb mean = count > 0.0f ? sum * (1.0f / count) : found->light;
      const auto held = [&](float is, float middle, float square) {
        const float spread = deviations * std::sqrt(std::max(0.0f, square / count - middle * middle));
        return count > 0.0f ? std::clamp(is, middle - spread, middle + spread) : is;
      };
      const Rgb from_before{held(found->light.x, mean.x, squares.x), held(found->light.y, mean.y, squares.y),
                            held(found->light.z, mean.z, squares.z)};
      const float known = std::min(found->passes, most_carried), own = has_own(pixel) ? own_passes : 0.0f,
                  all = known + own;
      now.light[pixel] = from_before * (known / all) + light.pixels[pixel] * (own / all);
      now.passes[pixel] = all;
      left_[pixel] = std::min(1.0f, own_passes / all);
    }
  });
  outlines_ = outlines(now);
  Picture out = picture;
  for (std::size_t i = 0; i < tints.size(); ++i) out.pixels[i] = now.light[i] * tints[i];
  passes_ += film.passes, ++frames_;
  last_ = std::move(now);
  return out;
}

std::vector<CarriedLight::Outline> CarriedLight::outlines(const Frame& now) const {
  std::vector<Outline> out;
  if (last_.width == 0) return out;
  for (int y = 1; y + 1 < now.height; ++y)
    for (int x = 1; x + 1 < now.width; ++x) {
      const auto at = [&](int i, int j) {
        return static_cast<std::size_t>(y + j) * static_cast<std::size_t>(now.width) +
               static_cast<std::size_t>(x + i);
      };
      // An outline moves with the nearest of what meets there.
      bool edge = false;
      int i_near = 0, j_near = 0;
      for (int j = -1; j <= 1; ++j)
        for (int i = -1; i <= 1; ++i) {
          edge = edge || now.body[at(i, j)] != now.body[at(0, 0)];
          if (now.body[at(i, j)] >= 0 && now.distance[at(i, j)] < now.distance[at(i_near, j_near)])
            i_near = i, j_near = j;
        }
      if (!edge) continue;
      if (const auto was = was_at(now, at(i_near, j_near)))
        out.push_back({at(0, 0), was->x - i_near, was->y - j_near});
    }
  return out;
}

Picture CarriedLight::outlined(const Picture& calm, const Film& film) {
  Picture out = calm;
  constexpr float own_part = 1.0f / 6.0f;
  for (const Outline& edge : outlines_) {
    if (shown_.pixels.empty()) break;
    const int x = static_cast<int>(edge.pixel % static_cast<std::size_t>(film.width)),
              y = static_cast<int>(edge.pixel / static_cast<std::size_t>(film.width));
    Rgb least = calm.pixels[edge.pixel], most = least;
    for (int j = -1; j <= 1; ++j)
      for (int i = -1; i <= 1; ++i) {
        const Rgb& c = calm.pixels[film.at(x + i, y + j)];
        least = {std::min(least.x, c.x), std::min(least.y, c.y), std::min(least.z, c.z)};
        most = {std::max(most.x, c.x), std::max(most.y, c.y), std::max(most.z, c.z)};
      }
    const Rgb was = shown_.sample(static_cast<float>((edge.x + 0.5) / shown_.width),
                                  static_cast<float>((edge.y + 0.5) / shown_.height));
    const Rgb held{std::clamp(was.x, least.x, most.x), std::clamp(was.y, least.y, most.y),
                   std::clamp(was.z, least.z, most.z)};
    out.pixels[edge.pixel] = calm.pixels[edge.pixel] * own_part + held * (1.0f - own_part);
  }
  shown_ = out;
  return out;
}

}  // namespace cinnabar
