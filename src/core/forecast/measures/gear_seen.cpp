#include "cinnabar/forecast/measures/gear_seen.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <utility>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/measures/line_of_sight.h"
#include "cinnabar/forecast/measures/sight_bodies.h"
#include "cinnabar/planning/heads.h"
#include "cinnabar/render/mirrored.h"

namespace cinnabar {
namespace {

constexpr double rod_radius = 0.0125, camera_radius = 0.06;  // metres; common practice, no source
constexpr double rim_width = 0.005;

/// A body with what it is called.
struct Named {
  std::string name;
  SightBody body;
};
/// Round, as thick as a stand's tube, between two places.
SightBody rod(const Vec3& from, const Vec3& to) {
  const Vec3 along = unit(to - from);
  const Vec3 across = unit(cross(along, std::abs(along.y) < 0.9 ? Vec3{0, 1, 0} : Vec3{1, 0, 0}));
  return {SightBody::Form::tube, (from + to) * 0.5, across, along, cross(across, along), rod_radius,
          length(to - from) / 2};
}
SightBody ball(const Vec3& middle, double radius) {
  return {SightBody::Form::ball, middle, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}, radius, 0.0};
}

/// A rod before the camera. What looks far past the plane through the camera and it need not be asked.
struct SeenRod {
  SightBody body;
  Vec3 across;    ///< unit, to that plane; none: always asked
  double within;  ///< sine of how far a line may look past it
  [[nodiscard]] bool before(const SightLine& line, double far) const {
    if (std::abs(dot(line.along, across)) > within) return false;
    const auto met = body.met(line);
    return met && met->distance < far;
  }
};
/// Where the camera looks from, and the four planes that its picture lies within.
struct Eye {
  Vec3 place;
  std::array<Vec3, 4> inward;
};
Eye eye_of(const CameraPose& pose, const ShotOptics& optics) {
  const std::array corners{pose.toward(optics, 0, 0), pose.toward(optics, 1, 0), pose.toward(optics, 1, 1),
                           pose.toward(optics, 0, 1)};
  const Vec3 middle = pose.toward(optics, 0.5, 0.5);
  Eye eye{pose.place, {}};
  for (std::size_t k = 0; k < 4; ++k) {
    const Vec3 side = unit(cross(corners[k], corners[(k + 1) % 4]));
    eye.inward[k] = dot(side, middle) > 0.0 ? side : side * -1.0;
  }
  return eye;
}
/// Among those seen, where any of it can be in the picture.
void add_rod(std::vector<SeenRod>& seen, const Eye& eye, const Vec3& from, const Vec3& to) {
  const Vec3 a = from - eye.place, b = to - eye.place, way = to - from, plane = cross(a, way);
  for (const Vec3& inward : eye.inward)
    if (dot(a, inward) < -rod_radius && dot(b, inward) < -rod_radius) return;
  const double share = std::clamp(-dot(a, way) / std::max(1e-18, dot(way, way)), 0.0, 1.0);
  const double nearest = length(a + way * share), flat = length(plane);
  if (flat < 1e-9 || nearest < 2 * rod_radius)
    seen.push_back({rod(from, to), {}, 1.0});
  else
    seen.push_back({rod(from, to), plane * (1.0 / flat), rod_radius / (nearest - rod_radius)});
}
/// What holds a light or a card up, in each of the ways that it can be put.
struct Held {
  std::pair<SetThing::Kind, std::size_t> thing;
  std::string name;
  std::vector<std::vector<SeenRod>> ways;
  [[nodiscard]] bool before(std::size_t way, const SightLine& line, double far) const {
    return std::any_of(ways[way].begin(), ways[way].end(),
                       [&](const SeenRod& one) { return one.before(line, far); });
  }
};
/// An arm over the surface from its foot: upright to the head's height, then level.
std::vector<SeenRod> arm(const Eye& eye, const Vec3& foot, const Vec3& head) {
  const Vec3 top{foot.x, head.y, foot.z};
  std::vector<SeenRod> seen;
  add_rod(seen, eye, foot, top), add_rod(seen, eye, top, head);
  return seen;
}
/// Stands, but for those right beside a product, and arms where the kit has any. Without arms nothing is known of
/// what holds that which hangs.
std::vector<Held> supports(const Project& project, const Shot& shot, const Setup& setup, const Eye& eye,
                           double t) {
  std::vector<Held> list;
  std::optional<double> out;  // as far as an arm holds
  for (const Support* one : holders_of(project))
    if (one->kind == SupportKind::arm) out = std::max(out.value_or(0.0), one->length.value_or(unbounded));
  const Setup now = lights_and_cards_at(setup, shot, t);
  for (const Head& head : heads_of(now)) {
    if (head.place.y <= head.foot.y) continue;
    const std::string name = head.thing.kind == SetThing::Kind::light
                                 ? name_or(now.lights[head.thing.index].name, now.lights[head.thing.index].id)
                                 : name_or(now.cards[head.thing.index].name, now.cards[head.thing.index].id);
    if (head.hangs) {
      if (!out) continue;
      const Vec3 beyond{-head.foot.x, head.foot.y, head.foot.z};
      list.push_back(
          {{head.thing.kind, head.thing.index}, said("{}'s arm", name), {arm(eye, head.foot, head.place)}});
      if (std::hypot(head.place.x - beyond.x, head.place.z - beyond.z) <= *out)
        list.back().ways.push_back(arm(eye, beyond, head.place));
    } else if (std::none_of(shot.products.begin(), shot.products.end(), [&head](const ShotProduct& p) {
                 return std::hypot(p.place.x - head.place.x, p.place.z - head.place.z) < 0.25;
               })) {
      list.push_back({{head.thing.kind, head.thing.index}, said("{}'s stand", name), {{}}});
      add_rod(list.back().ways.front(), eye, head.foot, head.place);
    }
  }
  std::erase_if(list, [](const Held& one) {  // nothing of them can be in this picture
    return std::all_of(one.ways.begin(), one.ways.end(), [](const auto& way) { return way.empty(); });
  });
  return list;
}

/// One moment's lines of sight, each with how far it sees, and what may stand before.
struct Looked {
  struct Look {
    SightLine line;
    double far;
  };
  std::vector<Look> looks;
  std::vector<Held> held;
};
Looked looked(const Project& project, const Shot& shot, const Setup& setup, const LightMoment& m) {
  const Film& film = m.measure->film;
  const CameraPose& pose = m.camera.middle_pose();
  Looked out{{}, supports(project, shot, setup, eye_of(pose, m.camera.optics), m.set_time)};
  for (int y = 0; y < film.height; ++y)
    for (int x = 0; x < film.width; ++x) {
      const FirstHit& hit = film.first[film.at(x, y)];
      out.looks.push_back(
          {{pose.place, pose.toward(m.camera.optics, (x + 0.5) / film.width, (y + 0.5) / film.height)},
           hit.mesh ? static_cast<double>(hit.distance) : unbounded});
    }
  return out;
}

/// Tallies by name.
struct ByName {
  std::map<std::string, std::size_t> counts;
  std::size_t all = 0;
  [[nodiscard]] Covered of(std::size_t whole) const {
    Covered out;
    if (whole == 0 || all == 0) return out;
    out.percent = 100.0 * static_cast<double>(all) / static_cast<double>(whole);
    out.most = std::max_element(counts.begin(), counts.end(), [](const auto& a, const auto& b) {
                 return a.second < b.second;
               })->first;
    return out;
  }
  void add(const std::string& name) { ++counts[name], ++all; }
};

/// What a mesh of the gear is called; empty for what is of the picture.
std::string gear_name(const Mesh& mesh, const Setup& setup) {
  if (!must_not_be_seen(setup, mesh)) return {};
  const auto named = [&mesh](const auto& list) {
    const auto at = static_cast<std::size_t>(mesh.thing);
    return mesh.thing >= 0 && at < list.size() ? name_or(list[at].name, list[at].id) : std::string();
  };
  return mesh.role == Role::light  ? named(setup.lights)
         : mesh.role == Role::card ? named(setup.cards)
         : mesh.role == Role::room ? said("the room")
                                   : named(setup.gear);
}

/// Whether something stands before `far` on a line of sight.
bool hidden(const StagedWorld& world, const Vec3& from, const Vec3& along, double far) {
  bool found = false;
  meet_along(world.meshes, from, along,
             [&](const Mesh&, double t) { found = found || (t > 1e-3 && t < far - 1e-3); });
  return found;
}

/// What must not be seen in a mirror, the camera first.
std::vector<Named> unwanted(const Shot& shot, const Setup& setup, const CameraPose& pose, double t) {
  std::vector<Named> list{{"the camera", ball(pose.place - pose.frame.ahead * camera_radius, camera_radius)}};
  for (const Gear& g : setup.gear)
    if (!g.dressed) list.push_back({name_or(g.name, g.id), sight_gear(g)});
  for (std::size_t i = 0; i < setup.lights.size(); ++i) {
    const Light l = light_at(setup.lights[i], shot, t);
    if (l.meant_for == MeantFor::product || l.dressed || !l.on || l.dimmer <= 0.0 || l.beam) continue;
    const bool beads = l.front && l.front->kind == FrontKind::beads && l.front->gap <= 0.0;
    if (l.shape == LightShape::bare || l.daylight || beads)
      list.push_back({name_or(l.name, l.id), sight_face(l, i)});
  }
  return list;
}

}  // namespace

std::vector<Covered> gear_in_pictures(const Project& project, const Shot& shot, const Setup& setup,
                                      const std::vector<LightMoment>& moments) {
  std::vector<Looked> all;
  for (const LightMoment& m : moments) all.push_back(looked(project, shot, setup, m));
  // Whoever builds the set puts each arm's foot once: pixels of the first way less those of the other.
  std::map<std::pair<SetThing::Kind, std::size_t>, std::ptrdiff_t> more_seen;
  for (const Looked& moment : all)
    for (const Held& one : moment.held)
      for (std::size_t way = 0; way < one.ways.size() && one.ways.size() > 1; ++way) {
        const auto pixels = std::count_if(moment.looks.begin(), moment.looks.end(), [&](const Looked::Look& look) {
          return one.before(way, look.line, look.far);
        });
        more_seen[one.thing] += way == 0 ? pixels : -pixels;
      }
  std::vector<double> plates;
  for (const ShotProduct& p : shot.products)
    if (const Support* on = by_id(project.supports, p.on); on && on->radius) plates.push_back(*on->radius);
  std::vector<Covered> out;
  for (std::size_t i = 0; i < moments.size(); ++i) {
    const Film& film = moments[i].measure->film;
    std::map<const Mesh*, std::string> names;
    for (const Mesh& mesh : moments[i].measure->world->meshes)
      if (std::string name = gear_name(mesh, setup); !name.empty()) names.emplace(&mesh, std::move(name));
    const auto way_of = [&more_seen](const Held& one) -> std::size_t {
      return one.ways.size() > 1 && more_seen.at(one.thing) > 0 ? 1 : 0;
    };
    ByName seen;
    for (std::size_t p = 0; p < film.pixels(); ++p) {
      const FirstHit& hit = film.first[p];
      const Looked::Look& look = all[i].looks[p];
      const auto before = std::find_if(all[i].held.begin(), all[i].held.end(), [&](const Held& one) {
        return one.before(way_of(one), look.line, look.far);
      });
      if (before != all[i].held.end()) {
        seen.add(before->name);
      } else if (const auto named = names.find(hit.mesh); named != names.end()) {
        seen.add(named->second);
      } else if (hit.mesh && hit.mesh->role == Role::surface) {
        const Vec3 at = look.line.from + look.line.along * look.far;
        if (std::any_of(plates.begin(), plates.end(),
                        [&](double radius) { return std::abs(std::hypot(at.x, at.z) - radius) < rim_width; }))
          seen.add(said("the turntable's rim"));
      }
    }
    out.push_back(seen.of(film.pixels()));
  }
  return out;
}

Mirrored gear_mirrored(const Shot& shot, const Setup& setup, const LightMoment& m) {
  const Film& film = m.measure->film;
  const StagedWorld& world = *m.measure->world;
  const CameraPose& pose = m.camera.middle_pose();
  const std::vector<Named> bodies = unwanted(shot, setup, pose, m.set_time);
  ByName of_products, of_surface;
  std::size_t product_pixels = 0, surface_pixels = 0;
  Mirrored out;
  for (int y = 0; y < film.height; ++y)
    for (int x = 0; x < film.width; ++x) {
      const FirstHit& hit = film.first[film.at(x, y)];
      if (!hit.mesh || (hit.mesh->role != Role::product && hit.mesh->role != Role::surface)) continue;
      const bool of_product = hit.mesh->role == Role::product;
      ++(of_product ? product_pixels : surface_pixels);
      const auto line = mirrored_line(film, m.camera, pose, x, y);
      if (!line) continue;
      out.any = true;
      const Named* first = nullptr;
      double nearest = unbounded;
      for (const Named& one : bodies)
        if (const auto met = one.body.met({line->from, line->along});
            met && met->distance < nearest && (met->lit || one.body.form == SightBody::Form::box))
          nearest = met->distance, first = &one;
      if (first && !hidden(world, line->from, line->along, nearest))
        (of_product ? of_products : of_surface).add(first->name);
    }
  const Covered on_product = of_products.of(product_pixels), on_surface = of_surface.of(surface_pixels);
  out.product = on_product.percent >= on_surface.percent;
  out.covered = out.product ? on_product : on_surface;
  return out;
}

}  // namespace cinnabar
