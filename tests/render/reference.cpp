#include "reference.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <random>

namespace cinnabar::reference {

namespace {

constexpr double lift = 5e-5;  // metres a product stands above its table, lest they touch

Vec3 vec(const Json& j) { return {j[0].get<double>(), j[1].get<double>(), j[2].get<double>()}; }

/// Share that a smooth clear face throws back, by the two polarisations (Fresnel 1823).
double thrown_back(double cosine, double n1, double n2) {
  const double sine = n1 / n2 * std::sqrt(std::max(0.0, 1.0 - cosine * cosine));
  if (sine >= 1.0) return 1.0;
  const double c2 = std::sqrt(1.0 - sine * sine);
  const double s = (n1 * cosine - n2 * c2) / (n1 * cosine + n2 * c2),
               p = (n2 * cosine - n1 * c2) / (n2 * cosine + n1 * c2);
  return (s * s + p * p) / 2.0;
}
Vec3 bent(const Vec3& along, const Vec3& n, double n1, double n2) {  // n against the ray
  const double ratio = n1 / n2, c = -dot(along, n),
               c2 = std::sqrt(std::max(0.0, 1.0 - ratio * ratio * (1 - c * c)));
  return unit(along * ratio + n * (ratio * c - c2));
}
Vec3 turned_back(const Vec3& along, const Vec3& n) { return along - n * (2.0 * dot(along, n)); }

}  // namespace

double metal_reflectance(const Index& index, double cosine) {
  const std::complex<double> m(index.n, -index.k), s2 = (1.0 - cosine * cosine) / (m * m),
                                                   c2 = std::sqrt(1.0 - s2);
  const auto s = (cosine - m * c2) / (cosine + m * c2), p = (m * cosine - c2) / (m * cosine + c2);
  return (std::norm(s) + std::norm(p)) / 2.0;
}

struct World::Walker {
  std::mt19937_64 random;
  double operator()() { return std::uniform_real_distribution<double>(0.0, 1.0)(random); }
  Vec3 sphere() {
    const double c = 2.0 * (*this)() - 1.0, r = std::sqrt(1.0 - c * c), a = 2.0 * pi * (*this)();
    return {r * std::cos(a), c, r * std::sin(a)};
  }
  Vec3 lambert(const Vec3& n) {  // a unit sphere upon the surface (Shirley)
    for (;;)
      if (const Vec3 d = n + sphere(); length(d) > 1e-6) return unit(d);
  }
};

World::Face World::face_of(const Json& m) {
  Face f{};
  const std::string kind = m.value("kind", "matte");
  const auto first = [&](const char* key, double absent) {
    return m.contains(key) ? m[key][0].get<double>() : absent;
  };
  f.albedo = first("colour", kind == "glass" || kind == "liquid" ? 1.0 : 0.5);
  f.index = m.value("ior", kind == "liquid" ? 1.33 : 1.5);
  f.index_outside = 1.0;
  f.absorb = first("absorption", 0.0), f.scatter = first("scattering", 0.0);
  const double alpha = std::pow(m.value("roughness", 0.3), 2), drawn = m.value("brushing", 0.0),
               aspect = std::sqrt(1.0 - 0.95 * std::abs(drawn));  // as the documentation of the format has it
  f.along = drawn > 0 ? alpha * aspect : alpha / aspect, f.across = drawn > 0 ? alpha / aspect : alpha * aspect;
  f.what = kind == "gloss"                          ? What::coated
           : kind == "mirror"                       ? What::mirror
           : kind == "metal"                        ? What::metal
           : kind == "glass" || kind == "liquid"    ? What::boundary
           : kind == "translucent" && f.scatter > 0 ? What::wax
                                                    : What::matte;
  return f;
}

void World::side(Face f, const Vec3& foot, double radius, double low, double high) {
  f.form = Form::side, f.middle = foot, f.radius = radius, f.low = foot.y + low, f.high = foot.y + high;
  faces_.push_back(f);
}
void World::level(Face f, const Vec3& foot, double inner, double outer, double height, double up) {
  f.form = Form::level, f.middle = foot + Vec3{0, height, 0}, f.inner = inner, f.radius = outer;
  f.normal = {0, up, 0};
  faces_.push_back(f);
}
void World::rectangle(Face f, const Vec3& place, const Vec3& u, const Vec3& v) {
  f.form = Form::rectangle, f.middle = place, f.u = u, f.v = v, f.normal = unit(cross(u, v));
  faces_.push_back(f);
}

void World::body(const Json& part, const Vec3& foot) {
  const Json& p = part["profile"];
  const Face f = face_of(part["material"]);
  for (std::size_t i = 0; i + 1 < p.size(); ++i) {
    const double r0 = p[i][0], y0 = p[i][1], r1 = p[i + 1][0], y1 = p[i + 1][1];
    if (y0 == y1)
      level(f, foot, std::min(r0, r1), std::max(r0, r1), y0, r1 > r0 ? -1.0 : 1.0);
    else
      side(f, foot, r0, y0, y1);
  }
}

/// A straight glass with a bottom as thick as its wall, and what stands in it.
void World::vessel(const Json& glass, const Json& liquid, const Vec3& foot) {
  const double radius = glass["profile"][1][0], height = glass["profile"][2][1], wall = glass["wall"],
               full = liquid["profile"][2][1];
  const Face of_glass = face_of(glass["material"]), of_liquid = face_of(liquid["material"]);
  Face in_glass = of_liquid;
  in_glass.index_outside = of_glass.index, in_glass.absorb_outside = of_glass.absorb;
  Face air = of_glass;  // the glass's inner face: inside of it air
  air.index = 1.0, air.absorb = 0.0, air.index_outside = of_glass.index, air.absorb_outside = of_glass.absorb;
  side(of_glass, foot, radius, 0, height);
  level(of_glass, foot, 0, radius, 0, -1);
  level(of_glass, foot, radius - wall, radius, height, 1);
  side(in_glass, foot, radius - wall, wall, full);
  side(air, foot, radius - wall, full, height);
  level(in_glass, foot, 0, radius - wall, wall, -1);
  level(of_liquid, foot, 0, radius - wall, full, 1);
}

World::World(const Json& doc, const Index& metal) : metal_(metal) {
  const Json& setup = doc["setups"][0];
  if (setup.contains("surface")) {
    const Json& s = setup["surface"];
    rectangle(face_of(s["material"]), {0, 0, 0}, {0, 0, s["depth"].get<double>() / 2},
              {s["width"].get<double>() / 2, 0, 0});
  }
  const auto sheet = [&](const Json& j, const Face& f) {
    const Facing frame = facing(vec(j["place"]), vec(j["aim"]));
    rectangle(f, vec(j["place"]), frame.right * (j["width"].get<double>() / 2),
              frame.up * (j["height"].get<double>() / 2));
    faces_.back().normal = frame.ahead;
  };
  for (const Json& card : setup["cards"]) sheet(card, face_of(card["material"]));
  for (const Json& light : setup["lights"]) {
    Face f{};
    f.what = What::light;
    f.shines = light["lumens"].get<double>() / (pi * light["width"].get<double>() * light["height"].get<double>());
    sheet(light, f);
  }
  if (setup.contains("ambient")) around_ = setup["ambient"]["illuminance_lx"].get<double>() / pi;
  for (const Json& placed : doc["shots"][0]["products"])
    for (const Json& product : doc["products"]) {
      if (product["id"] != placed["product"]) continue;
      const Vec3 foot = (placed.contains("place") ? vec(placed["place"]) : Vec3{}) + Vec3{0, lift, 0};
      const Json& parts = product["parts"];
      if (parts[0].contains("wall"))
        vessel(parts[0], parts[1], foot);
      else
        for (const Json& part : parts) body(part, foot);
    }
  const Json& camera = doc["shots"][0]["camera"];
  eye_ = vec(camera["place"]);
  const Facing f = facing(eye_, vec(camera["aim"]));
  right_ = f.right, up_ = f.up, ahead_ = f.ahead;
  const double focal = camera["focal"], focus = camera["focus"], image = 1.0 / (1.0 / focal - 1.0 / focus);
  wide_ = doc["kit"]["cameras"][0]["sensor_width"].get<double>() / image;
  tall_ = doc["kit"]["cameras"][0]["sensor_height"].get<double>() / image;
}

World::Meeting World::meet(const Vec3& from, const Vec3& along, double least) const {
  Meeting best;
  const auto keep = [&](const Face& f, double t, const Vec3& n) {
    if (t > least && t < best.distance) best = {&f, t, from + along * t, n};
  };
  for (const Face& f : faces_) {
    if (f.form == Form::side) {
      const double dx = from.x - f.middle.x, dz = from.z - f.middle.z, a = along.x * along.x + along.z * along.z,
                   b = dx * along.x + dz * along.z, c = dx * dx + dz * dz - f.radius * f.radius,
                   under = b * b - a * c;
      if (a < 1e-18 || under < 0) continue;
      for (const double sign : {-1.0, 1.0}) {
        const double t = (-b + sign * std::sqrt(under)) / a;
        const Vec3 at = from + along * t;
        if (at.y >= f.low && at.y <= f.high) keep(f, t, unit(Vec3{at.x - f.middle.x, 0, at.z - f.middle.z}));
      }
      continue;
    }
    const double slope = dot(along, f.normal);
    if (std::abs(slope) < 1e-14) continue;
    const double t = dot(f.middle - from, f.normal) / slope;
    const Vec3 at = from + along * t - f.middle;
    if (f.form == Form::level) {
      const double r = std::hypot(at.x, at.z);
      if (r >= f.inner && r <= f.radius) keep(f, t, f.normal);
    } else if (std::abs(dot(at, f.u)) <= dot(f.u, f.u) && std::abs(dot(at, f.v)) <= dot(f.v, f.v)) {
      keep(f, t, f.normal);
    }
  }
  return best;
}

/// Light that reaches a matte place straight, from one point of each lamp.
double World::asked(const Meeting& at, const Vec3& n, Walker& walker) const {
  double sum = 0.0;
  for (const Face& f : faces_) {
    if (f.what != What::light) continue;
    const Vec3 to = f.middle + f.u * (2 * walker() - 1) + f.v * (2 * walker() - 1) - at.place;
    const double d = length(to), here = dot(to, n) / d, there = -dot(to, f.normal) / d;
    if (here <= 0 || there <= 0) continue;
    const Meeting first = meet(at.place, to / d);
    if (first.face != &f) continue;
    sum += f.shines * here * there * 4.0 * length(f.u) * length(f.v) / (d * d * pi);
  }
  return sum;
}

/// From where a wax is entered to where it is left: evenly by the cosine through its face, then from scattering to
/// scattering, the coat asked at every meeting from inside.
bool World::wander(Meeting at, Vec3& from, Vec3& along, double& carried, Walker& walker) const {
  const Face& wax = *at.face;
  from = at.place;
  along = walker.lambert(-at.normal);
  const double extinct = wax.scatter + wax.absorb;
  double least = 1e-9;
  for (int k = 0; k < 100000; ++k) {
    const double way = -std::log(1.0 - walker()) / extinct;
    const Meeting next = meet(from, along, least);
    if (!next.face) return false;
    if (way < next.distance) {
      if (walker() >= wax.scatter / extinct) return false;  // absorbed
      from = from + along * way, along = walker.sphere(), least = 0.0;
      continue;
    }
    from = next.place, least = 1e-9;
    const Vec3 out = walker.lambert(next.normal);
    const double cosine = dot(out, next.normal);
    if (walker() < thrown_back(cosine, wax.index, 1.0)) {
      along = walker.lambert(-next.normal);
      continue;
    }
    along = bent(out, -next.normal, wax.index, 1.0);
    carried *= 1.0;
    return true;
  }
  return false;
}

/// From facet to facet of a rough metal until the ray leaves it (Heitz et al. 2016), normals drawn by their own
/// spread and weighed by what is seen of them.
bool World::facets(const Meeting& at, const Vec3& n, Vec3& along, double& carried, Walker& walker) const {
  const Face& f = *at.face;
  Vec3 x = cross(Vec3{0, 1, 0}, n);  // lines run round a body, and across what lies flat
  x = length(x) < 1e-9 ? Vec3{1, 0, 0} : unit(x);
  const Vec3 y = cross(n, x);
  Vec3 w{dot(along, x), dot(along, y), dot(along, n)};
  const auto lambda = [&](const Vec3& d) {
    const double a2 = (std::pow(f.along * d.x, 2) + std::pow(f.across * d.y, 2)) / (d.z * d.z);
    return (-1.0 + std::copysign(std::sqrt(1.0 + a2), d.z)) / 2.0;
  };
  double below = 1.0;  // share of the heights under the ray
  for (int k = 0; k < 200; ++k) {
    const double u = walker(), l = lambda(w);
    if (w.z > 0) {
      if (u > 1.0 - std::pow(below, l)) break;
      below /= std::pow(1.0 - u, 1.0 / l);
    } else {
      below *= std::pow(1.0 - u, -1.0 / l);
    }
    below = std::clamp(below, 0.0, 1.0);
    const double q = walker(), r = std::sqrt(q / std::max(1e-300, 1.0 - q)), turn = 2 * pi * walker();
    const Vec3 m = unit(Vec3{-f.along * r * std::cos(turn), -f.across * r * std::sin(turn), 1.0});
    const double facing_it = -dot(w, m);
    if (facing_it <= 0.0) return false;
    const double shown = (1.0 + lambda(-w)) * -w.z;  // of all facets, toward the ray
    carried *= facing_it / (m.z * shown) * metal_reflectance(metal_, facing_it);
    w = turned_back(w, m);
    if (std::abs(w.z) < 1e-9) return false;
  }
  along = x * w.x + y * w.y + n * w.z;
  return w.z > 0;
}

double World::follow(Vec3 from, Vec3 along, Walker& walker) const {
  double carried = 1.0, sum = 0.0;
  bool counted = false;  // lamps met next were asked for
  for (int k = 0; k < 400; ++k) {
    const Meeting at = meet(from, along);
    if (!at.face) return sum + carried * around_;
    const Face& f = *at.face;
    const bool outside = dot(along, at.normal) < 0;
    const Vec3 n = outside ? at.normal : -at.normal;
    const double cosine = std::min(1.0, -dot(along, n));
    from = at.place;
    switch (f.what) {
      case What::light:
        return sum + (outside && !counted ? carried * f.shines : 0.0);
      case What::matte:
        carried *= f.albedo;
        sum += carried * asked(at, n, walker);
        along = walker.lambert(n);
        counted = true;
        break;
      case What::mirror:
        carried *= f.albedo;
        along = turned_back(along, n), counted = false;
        break;
      case What::metal:
        if (!facets(at, n, along, carried, walker)) return sum;
        counted = false;
        break;
      case What::coated: {
        counted = false;
        if (walker() < thrown_back(cosine, 1.0, f.index)) {
          along = turned_back(along, n);
          break;
        }
        for (;;) {  // to the paint and back to the coat until it lets out
          carried *= f.albedo;
          const Vec3 out = walker.lambert(n);
          if (walker() < thrown_back(dot(out, n), f.index, 1.0)) {
            if (carried < 1e-4) return sum;
            continue;
          }
          along = bent(out, -n, f.index, 1.0);
          break;
        }
        break;
      }
      case What::wax:
        counted = false;
        if (walker() < thrown_back(cosine, 1.0, f.index))
          along = turned_back(along, n);
        else if (!wander(at, from, along, carried, walker))
          return sum;
        break;
      case What::boundary: {
        counted = false;
        const double here = outside ? f.index_outside : f.index, there = outside ? f.index : f.index_outside;
        carried *= std::exp(-(outside ? f.absorb_outside : f.absorb) * at.distance);
        along = walker() < thrown_back(cosine, here, there) ? turned_back(along, n) : bent(along, n, here, there);
        break;
      }
    }
    if (k > 8) {
      if (walker() > std::min(0.95, carried)) return sum;
      carried /= std::min(0.95, carried);
    }
  }
  return sum;
}

Mean World::luminance(const Patch& patch, int paths, std::uint64_t seed) const {
  Walker walker{std::mt19937_64(seed)};
  double sum = 0.0, squares = 0.0;
  for (int k = 0; k < paths; ++k) {
    const double u = patch.left + (patch.right - patch.left) * walker(),
                 v = patch.top + (patch.bottom - patch.top) * walker();
    const Vec3 along = unit(ahead_ + right_ * ((u - 0.5) * wide_) + up_ * ((0.5 - v) * tall_));
    const double value = follow(eye_, along, walker);
    sum += value, squares += value * value;
  }
  const double mean = sum / paths;
  return {mean, std::sqrt(std::max(0.0, squares / paths - mean * mean) / paths)};
}

}  // namespace cinnabar::reference
