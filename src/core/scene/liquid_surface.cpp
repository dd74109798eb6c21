#include "cinnabar/scene/liquid_surface.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include "cinnabar/effects/leaning.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

constexpr double water = 1e-6;  // m2/s
constexpr double steepest_closed = 85.0, steepest = 89.0;
constexpr int most_steps = 4000;

/// From upright, 0 to 180 degrees.
double leans(double tilt_deg) { return std::abs(std::remainder(tilt_deg, 360.0)); }

/// What a vessel holds as it leans on its track less what is in it, at one moment; once it ran over, less than
/// none by all that did.
struct Leant {
  double t, lean_deg, spare;
};
/// A vessel's liquid from the shot's beginning on: what it held, what is poured into it, less what ran over as it
/// leant.
class Filling {
 public:
  Filling(const Project& project, const Shot& shot, std::size_t thing, const ToldEffects& effects)
      : thing_(static_cast<int>(thing)), effects_(effects) {
    tilt_ = shot.track(Tracked::product_tilt, shot.products[thing].product);
    if (const Product* product = by_id(project.products, shot.products[thing].product))
      vessel_ = vessel_inside(*product);
    if (!vessel_.inner.empty()) begins_ = volume_under(vessel_.inner, 0.0, vessel_.level);
  }
  /// What is left in it at a set second; `each` is told on the way there.
  [[nodiscard]] double left(double until, const std::function<void(const Leant&)>& each = {}) const {
    if (!tilt_ || !vessel_.open) return begins_ + poured(until);
    double spilled = 0.0, before = tilt_->at(0.0);
    for (const double t : moments(until)) {
      const double value = tilt_->at(t), there = begins_ + poured(t) - spilled;
      // Between two of these it goes one way only, and may be upside down on it.
      const bool over = std::floor((before - 180.0) / 360.0) != std::floor((value - 180.0) / 360.0);
      const double lean = over ? 180.0 : leans(value), spare = most_held(vessel_.inner, lean) - there;
      spilled -= std::min(0.0, spare);
      if (each && there > 0.0) each({t, lean, spilled > 0.0 ? -spilled : spare});
      before = value;
    }
    return begins_ + poured(until) - spilled;
  }
  [[nodiscard]] bool leans_open() const { return tilt_ && vessel_.open; }

 private:
  [[nodiscard]] double poured(double t) const {
    double sum = 0.0;
    for (const ToldEffect& told : effects_)
      if (told.outcome && told.outcome->poured && told.outcome->into == thing_) sum += told.outcome->poured(t);
    return sum;
  }
  /// The track's keys, and some between them, since it is filled meanwhile.
  [[nodiscard]] std::vector<double> moments(double until) const {
    std::vector<double> keys{0.0}, all;
    for (const auto& [t, value] : tilt_->keys)
      if (t > 0.0 && t < until) keys.push_back(t);
    keys.push_back(until);
    constexpr int between = 8;
    for (std::size_t k = 1; k < keys.size(); ++k)
      for (int i = 0; i < between; ++i) all.push_back(keys[k - 1] + (keys[k] - keys[k - 1]) * i / between);
    all.push_back(until);
    return all;
  }

  int thing_;
  const ToldEffects& effects_;
  const KeyedTrack* tilt_ = nullptr;
  VesselInside vessel_{};
  double begins_ = 0.0;
};

/// The wave that the vessel's way up to a set second has left on its liquid, along the world's axes.
Vec3 wave_left(Sloshing slosh, const std::function<Vec3(double)>& at, double t) {
  const double step = std::max(slosh.period() / 40.0, t / most_steps), from = std::max(0.0, t - slosh.calms_in());
  const int steps = static_cast<int>(std::ceil((t - from) / step));
  if (steps < 1) return {};
  const double each = (t - from) / steps;
  // What it came with has calmed: it stands against what curves its way, where it does not set out just then.
  const Vec3 begins = at(from), second = at(from + each), third = at(from + 2.0 * each);
  const Vec3 first = (second - begins) / each, pull = ((third - second) / each - first) / each,
             later = (at(from + 3.0 * each) - third * 2.0 + second) / (each * each);
  Vec3 before = begins, speed = first - pull * (each / 2.0);
  if (length(speed) > 0.1 * length(first)) slosh.settled(pull, (later - pull) / each);
  for (int i = 1; i <= steps; ++i) {
    const Vec3 place = at(from + each * i), now = (place - before) / each;
    slosh.pushed(now - speed);
    slosh.goes_on(each);
    before = place, speed = now;
  }
  return slosh.wave();
}

}  // namespace

std::optional<LiquidSurface> liquid_surface(const Project& project, const Shot& shot, std::size_t thing,
                                            const ToldEffects& effects, const Product& product, double t) {
  const ShotProduct& placed = shot.products[thing];
  const bool carried = shot.track(Tracked::turntable) && std::hypot(placed.place.x, placed.place.z) > 1e-9;
  const bool tilts = shot.track(Tracked::product_tilt, placed.product),
             goes = carried || shot.track(Tracked::product_place, placed.product);
  if (!tilts && !goes) return std::nullopt;
  const VesselInside vessel = vessel_inside(product);
  if (vessel.inner.empty() || vessel.level <= vessel.inner.front()[1]) return std::nullopt;
  const auto pose = [&](double when) { return product_at(project, shot, placed, when); };
  const ProductPose now = pose(t);
  if (!vessel.open && leans(now.tilt_deg) > steepest_closed) return std::nullopt;
  const double volume = Filling(project, shot, thing, effects).left(t);
  if (volume <= 0.0 || leans(now.tilt_deg) > steepest) return LiquidSurface{.height = -1e9};  // none is left
  LiquidSurface out;
  out.up = now.own_direction({0, 1, 0});
  out.height = height_leaning(vessel.inner, leans(now.tilt_deg), volume);
  out.radius = EffectVessel{0, {}, vessel.inner, vessel.level}.width_at(vessel.level);
  if (goes && out.radius > 1e-3) {
    const Vec3 middle{0, vessel.level, 0};
    const Vec3 wave = wave_left(
        {out.radius, vessel.level - vessel.inner.front()[1], water},
        [&](double when) { return pose(when).world(middle); }, t);
    // The sum holds for waves up to three tenths of the radius; what is higher breaks.
    const double high = length(wave),
                 most = std::min(0.3 * out.radius, 0.9 * (vessel.level - vessel.inner.front()[1]));
    const Vec3 held = high > most ? wave * (most / high) : wave;
    out.wave = now.own_direction(held);
    out.wave.y = 0.0;
  }
  const bool still = length(out.wave) < 2e-5;
  if (still) out.wave = {};
  if (still && out.up.y > 1.0 - 1e-9 && std::abs(out.height - vessel.level) < 1e-6) return std::nullopt;
  return out;
}

std::optional<LeaningRoom> leaning_room(const Project& project, const Shot& shot, std::size_t thing,
                                        const ToldEffects& effects) {
  const Filling filling(project, shot, thing, effects);
  std::optional<LeaningRoom> least;
  if (filling.leans_open())
    static_cast<void>(filling.left(shot.set_time(), [&](const Leant& now) {
      if (now.lean_deg >= 0.1 && (!least || now.spare < least->spare)) least = {now.spare, now.t};
    }));
  return least;
}

Product with_surface(Product product, const LiquidSurface& surface) {
  for (Part& part : product.parts)
    if (part.material.kind == MaterialKind::liquid && part.turned_on_axis()) {
      part.surface = surface;
      break;
    }
  // A head of foam slides off.
  std::erase_if(product.parts, [](const Part& part) { return part.fills; });
  return product;
}

namespace {

/// A liquid as columns from a line along the axis that stands in it, out over the floor to the wall and up that,
/// and a lid of rings.
class Columns {
 public:
  Columns(const std::vector<ProfilePoint>& side, const LiquidSurface& surface, int segments);
  void add_to(Mesh& mesh) const;

 private:
  struct Corner {
    Vec3 place, normal;
  };
  [[nodiscard]] double wave(const Vec3& p) const;
  /// How far a place is over the surface.
  [[nodiscard]] double over(const Vec3& p) const { return dot(p, surface_.up) - surface_.height - wave(p); }
  /// The surface straight over a place of the product, and its normal there.
  [[nodiscard]] Vec3 lid(const Vec3& p) const;
  [[nodiscard]] Vec3 lid_normal(const Vec3& p) const;
  /// The wall's normal on the piece of the path that begins at `i`.
  [[nodiscard]] Vec3 wall_normal(std::size_t i, const Vec3& p) const;
  void climb(const Vec3& level);
  /// Rings of the lid from the wall inward: 2 at the wall, from 1 on within a dent by its slope, 0 in the middle.
  [[nodiscard]] std::vector<double> lid_rings() const;
  /// How far out such a ring is toward a wall so far from the middle, 0 to 1.
  [[nodiscard]] double ring_out(double ring, double far) const;
  std::uint32_t ring(Mesh& mesh, const std::function<Corner(std::size_t)>& at) const;
  void join(Mesh& mesh, std::uint32_t low, std::uint32_t high) const;

  LiquidSurface surface_;
  double swell_;  // a polygon in a circle's place has the circle's area
  std::size_t round_;
  Vec3 root_{};             // where the line stands on the floor
  double dent_deep_ = 1.0;  // as deep as the liquid lets it be, of a half ball
  std::vector<ProfilePoint> path_;
  std::vector<std::vector<Vec3>> columns_;
};

Columns::Columns(const std::vector<ProfilePoint>& side, const LiquidSurface& surface, int segments)
    : surface_(surface),
      swell_(std::sqrt(2.0 * pi / segments / std::sin(2.0 * pi / segments))),
      round_(static_cast<std::size_t>(segments)) {
  if (side.size() < 2 || surface.up.y < 1e-3) return;
  const double floor = side.front().height;
  root_ = {0, floor, 0};
  if (surface.dent_radius > 0.0) {
    root_ = {surface.dent.x, floor, surface.dent.z};
    dent_deep_ = std::min(1.0, 0.9 * (surface.height - floor) / surface.dent_radius);
  } else if (const double dry = over(root_); dry > -1e-5) {  // it stands about what is wet of the floor
    double edge = 0.0;
    for (const ProfilePoint& p : side)
      if (p.height < floor + 1e-6) edge = std::max(edge, p.radius);
    const Vec3 level{surface.up.x, 0, surface.up.z};
    const double slope = length(level);
    if (slope < 1e-9 || dry / slope >= edge) return;
    root_ = root_ - level / slope * (0.5 * (std::max(0.0, dry) / slope + edge));
  }
  path_.push_back({0.0, floor});
  for (const ProfilePoint& p : side)
    if (p.radius * swell_ > std::hypot(root_.x, root_.z) + 1e-6) path_.push_back(p);
  if (path_.size() < 2) return;
  for (std::size_t s = 0; s < round_; ++s) climb(turned({0, 0, 1}, 360.0 * static_cast<double>(s) / segments));
}

double Columns::wave(const Vec3& p) const {
  double dent = 0.0;
  if (const double r = surface_.dent_radius; r > 0.0) {
    const double x = p.x - surface_.dent.x, z = p.z - surface_.dent.z;
    dent = dent_deep_ * std::sqrt(std::max(0.0, r * r - x * x - z * z));
  }
  const double out = std::hypot(p.x, p.z);
  if (out < 1e-9 || surface_.radius <= 0.0) return -dent;
  return -dent + sloshing_form(out / surface_.radius) * (surface_.wave.x * p.x + surface_.wave.z * p.z) / out;
}

Vec3 Columns::lid(const Vec3& p) const {
  const Vec3& up = surface_.up;
  return {p.x, (surface_.height + wave(p) - p.x * up.x - p.z * up.z) / up.y, p.z};
}

Vec3 Columns::lid_normal(const Vec3& p) const {
  constexpr double near = 1e-4;
  const Vec3 x{near, 0, 0}, z{0, 0, near};
  return unit(cross(lid(p + z) - lid(p - z), lid(p + x) - lid(p - x)));
}

Vec3 Columns::wall_normal(std::size_t i, const Vec3& p) const {
  if (i == 0) return {0, -1, 0};
  const double out = path_[i + 1].radius - path_[i].radius, up = path_[i + 1].height - path_[i].height;
  const Vec3 away = std::hypot(p.x, p.z) > 1e-9 ? unit(Vec3{p.x, 0, p.z}) : Vec3{0, 0, 1};
  return unit(away * up - Vec3{0, 1, 0} * out);
}

/// A column to one side, cut where it comes out of the liquid; from there on its corners lie on one another.
void Columns::climb(const Vec3& level) {
  std::vector<Vec3>& column = columns_.emplace_back();
  column.push_back(root_);
  const double off = std::hypot(root_.x, root_.z), along = dot(root_, level);
  bool out = false;
  for (std::size_t i = 1; i < path_.size(); ++i) {
    const double r = path_[i].radius * swell_,
                 reach = std::sqrt(std::max(0.0, r * r - off * off + along * along)) - along;
    const Vec3 last = column.back(), here{root_.x + level.x * reach, path_[i].height, root_.z + level.z * reach};
    if (out) {
      column.push_back(last);
      continue;
    }
    const double from = over(last), to = over(here);
    out = to >= 0.0;
    column.push_back(out && from < to ? last + (here - last) * std::clamp(from / (from - to), 0.0, 1.0) : here);
  }
}

std::vector<double> Columns::lid_rings() const {
  const int waves = length(surface_.wave) > 0.0 ? 12 : 1, dents = surface_.dent_radius > 0.0 ? 10 : 0;
  std::vector<double> rings;
  for (int k = 0; k <= waves; ++k) rings.push_back(2.0 - static_cast<double>(k) / waves * (dents > 0 ? 1.0 : 2.0));
  for (int k = 1; k <= dents; ++k) rings.push_back(1.0 - static_cast<double>(k) / dents);
  return rings;
}

double Columns::ring_out(double ring, double far) const {
  if (surface_.dent_radius <= 0.0 || far < 1e-9) return 0.5 * ring;
  const double brim = std::min(1.0, surface_.dent_radius / far);
  return ring >= 1.0 ? brim + (1.0 - brim) * (ring - 1.0) : brim * std::sin(0.5 * pi * ring);
}

std::uint32_t Columns::ring(Mesh& mesh, const std::function<Corner(std::size_t)>& at) const {
  const auto first = static_cast<std::uint32_t>(mesh.positions.front().size());
  for (std::size_t s = 0; s <= round_; ++s) {
    const Corner corner = at(s % round_);
    mesh.positions.front().push_back(corner.place.as<float>());
    mesh.normals.push_back(corner.normal.as<float>());
    mesh.uvs.emplace_back(0.0f, 0.0f);
  }
  return first;
}

void Columns::join(Mesh& mesh, std::uint32_t low, std::uint32_t high) const {
  for (std::uint32_t s = 0; s < static_cast<std::uint32_t>(round_); ++s)
    mesh.triangles.insert(mesh.triangles.end(),
                          {low + s, low + s + 1, high + s, high + s, low + s + 1, high + s + 1});
}

void Columns::add_to(Mesh& mesh) const {
  if (columns_.empty()) return;
  if (mesh.positions.empty()) mesh.positions.resize(1);
  for (std::size_t i = 0; i + 1 < path_.size(); ++i) {
    // Edges sharper than 30 degrees get two normals.
    const auto edge = [&](std::size_t k, std::size_t other) {
      return ring(mesh, [&, k, other](std::size_t s) {
        const Vec3 own = wall_normal(i, columns_[s][k]), next = wall_normal(other, columns_[s][k]);
        return Corner{columns_[s][k], dot(own, next) > 0.866 ? unit(own + next) : own};
      });
    };
    const std::uint32_t low = edge(i, i == 0 ? 0 : i - 1);
    join(mesh, low, edge(i + 1, std::min(i + 1, path_.size() - 2)));
  }
  std::uint32_t outer = 0;
  const std::vector<double> rings = lid_rings();
  for (std::size_t k = 0; k < rings.size(); ++k) {
    const std::uint32_t inner = ring(mesh, [&](std::size_t s) {
      const Vec3 edge = columns_[s].back();
      const double far = std::hypot(edge.x - root_.x, edge.z - root_.z);
      const Vec3 p = edge + (root_ - edge) * (1.0 - ring_out(rings[k], far));
      return Corner{k == 0 ? edge : lid(p), lid_normal(p)};
    });
    if (k > 0) join(mesh, outer, inner);
    outer = inner;
  }
}

}  // namespace

void add_liquid(Mesh& mesh, const std::vector<ProfilePoint>& side, const LiquidSurface& surface, int segments) {
  Columns(side, surface, segments).add_to(mesh);
}

}  // namespace cinnabar
