#include "cinnabar/forecast/measures/gear_seen.h"

#include <algorithm>
#include <cmath>
#include <map>

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

/// What holds a light or a card up, in each of the ways that it can be put.
struct Held {
  std::string name;
  std::vector<std::vector<SightBody>> ways;
};
/// An arm over the surface from its foot: upright to the head's height, then level.
std::vector<SightBody> arm(const Vec3& foot, const Vec3& head) {
  const Vec3 top{foot.x, head.y, foot.z};
  return {rod(foot, top), rod(top, head)};
}
/// Stands, but for those right beside a product, and arms where the kit has any, whose feet may be on either side
/// of the surface. Without arms nothing is known of what holds that which hangs.
std::vector<Held> supports(const Project& project, const Shot& shot, const Setup& setup, double t) {
  std::vector<Held> list;
  const bool arms = has_arms(holders_of(project));
  const Setup now = lights_and_cards_at(setup, shot, t);
  for (const Head& head : heads_of(now)) {
    if (head.place.y <= head.foot.y) continue;
    const std::string name = head.thing.kind == SetThing::Kind::light
                                 ? name_or(now.lights[head.thing.index].name, now.lights[head.thing.index].id)
                                 : name_or(now.cards[head.thing.index].name, now.cards[head.thing.index].id);
    if (head.hangs) {
      if (!arms) continue;
      list.push_back({said("{}'s arm", name),
                      {arm(head.foot, head.place), arm({-head.foot.x, head.foot.y, head.foot.z}, head.place)}});
    } else if (std::none_of(shot.products.begin(), shot.products.end(), [&head](const ShotProduct& p) {
                 return std::hypot(p.place.x - head.place.x, p.place.z - head.place.z) < 0.25;
               })) {
      list.push_back({said("{}'s stand", name), {{rod(head.foot, head.place)}}});
    }
  }
  return list;
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

Covered gear_in_picture(const Project& project, const Shot& shot, const Setup& setup, const LightMoment& m) {
  const Film& film = m.measure->film;
  const CameraPose& pose = m.camera.middle_pose();
  std::map<const Mesh*, std::string> names;
  for (const Mesh& mesh : m.measure->world->meshes)
    if (std::string name = gear_name(mesh, setup); !name.empty()) names.emplace(&mesh, std::move(name));
  std::vector<double> plates;
  for (const ShotProduct& p : shot.products)
    if (const Support* on = by_id(project.supports, p.on); on && on->radius) plates.push_back(*on->radius);
  struct Look {
    SightLine line;
    double far;
  };
  std::vector<Look> looks;
  for (int y = 0; y < film.height; ++y)
    for (int x = 0; x < film.width; ++x) {
      const FirstHit& hit = film.first[film.at(x, y)];
      looks.push_back({{pose.place, pose.toward(m.camera.optics, (x + 0.5) / film.width, (y + 0.5) / film.height)},
                       hit.mesh ? static_cast<double>(hit.distance) : unbounded});
    }
  const auto before = [](const std::vector<SightBody>& way, const Look& look) {
    return std::any_of(way.begin(), way.end(), [&look](const SightBody& body) {
      const auto met = body.met(look.line);
      return met && met->distance < look.far;
    });
  };
  std::vector<Held> held = supports(project, shot, setup, m.set_time);
  for (Held& one : held) {  // the way that is seen least
    const auto pixels = [&](const std::vector<SightBody>& way) {
      return std::count_if(looks.begin(), looks.end(), [&](const Look& look) { return before(way, look); });
    };
    if (one.ways.size() > 1 && pixels(one.ways[1]) < pixels(one.ways[0])) std::swap(one.ways[0], one.ways[1]);
  }
  ByName seen;
  for (std::size_t p = 0; p < film.pixels(); ++p) {
    const FirstHit& hit = film.first[p];
    const Look& look = looks[p];
    const auto rod =
        std::find_if(held.begin(), held.end(), [&](const Held& one) { return before(one.ways.front(), look); });
    if (rod != held.end()) {
      seen.add(rod->name);
    } else if (const auto named = names.find(hit.mesh); named != names.end()) {
      seen.add(named->second);
    } else if (hit.mesh && hit.mesh->role == Role::surface) {
      const Vec3 at = pose.place + look.line.along * look.far;
      if (std::any_of(plates.begin(), plates.end(),
                      [&](double radius) { return std::abs(std::hypot(at.x, at.z) - radius) < rim_width; }))
        seen.add(said("the turntable's rim"));
    }
  }
  return seen.of(film.pixels());
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
