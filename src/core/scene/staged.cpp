#include "cinnabar/scene/staged.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/scene/camera_body.h"
#include "cinnabar/scene/effects_staged.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/liquid_surface.h"
#include "cinnabar/scene/mesh_parts.h"
#include "cinnabar/scene/room.h"
#include "cinnabar/scene/shining_faces.h"

namespace cinnabar {
namespace {

constexpr double stands_clear = 5e-5;  // keeps a foot and the surface from sharing one plane

/// A texture's tile laid on a mesh: `place` says for each corner how far to the right and down the pattern it
/// lies, metres.
template <class Place>
void lay_texture(Mesh& mesh, const Place& place) {
  const auto& texture = mesh.material.texture;
  const auto tile = texture ? texture->tile() : nullptr;
  if (!tile) return;
  mesh.picture = tile, mesh.repeats = true;
  const double c = std::cos(radians(texture->turn_deg)), s = std::sin(radians(texture->turn_deg));
  const double wide = texture->size, high = wide * tile->height / tile->width;
  for (std::size_t k = 0; k < mesh.uvs.size(); ++k) {
    const auto [right, down] = place(k);
    mesh.uvs[k] = {static_cast<float>((right * c + down * s) / wide),
                   static_cast<float>((down * c - right * s) / high)};
  }
}
/// The same on what is flat, or has flat sides: by the corners' places from a point, in the frame that its sides
/// have.
void lay_flat(Mesh& mesh, const Vec3& from, const Vec3& right, const Vec3& up) {
  lay_texture(mesh, [&](std::size_t k) {
    const Vec3 at = mesh.positions.front()[k].as<double>() - from, n = mesh.normals[k].as<double>();
    const Vec3 deep = cross(right, up);
    const double x = dot(at, right), y = dot(at, up), z = dot(at, deep);
    if (std::abs(dot(n, up)) > 0.7) return std::pair{x, z};
    return std::abs(dot(n, right)) > 0.7 ? std::pair{-z, -y} : std::pair{x, -y};
  });
}

/// The surface, under a clear sheet where one is laid on it.
Mesh surface_mesh(const Surface& s) {
  Mesh mesh;
  mesh.role = Role::surface;
  mesh.material = s.material;
  const double x = s.width / 2, z = s.depth / 2, y = s.sheet > 0.0 ? -s.sheet - stands_clear : 0.0;
  const Vec3 up{0, 1, 0};
  add_quad(mesh, {-x, y, z}, {x, y, z}, {x, y, -z}, {-x, y, -z}, up, up);
  lay_flat(mesh, {}, {1, 0, 0}, up);
  return mesh;
}

/// A closed slab of something clear whose top is at height 0.
Mesh slab(const Surface& s, const Material& material, double thick, std::vector<Medium>& media) {
  Mesh mesh;
  mesh.role = Role::surface;
  mesh.material = material;
  mesh.medium = static_cast<int>(media.size());
  media.push_back({static_cast<float>(material.ior), material.absorption.as<float>(), 0});
  add_box(mesh, {0, -thick / 2, 0}, {s.width / 2, thick / 2, s.depth / 2});
  return mesh;
}

/// The surface and the sheet on it; one of glass is a slab itself, to be looked through from below.
void stage_surface(const Surface& s, StagedWorld& world) {
  constexpr double table_glass = 0.006;  // m, where its thickness is not said (common practice, no source)
  if (s.material.is_clear()) {
    world.meshes.push_back(slab(s, s.material, s.sheet > 0.0 ? s.sheet : table_glass, world.media));
    return;
  }
  world.meshes.push_back(surface_mesh(s));
  if (s.sheet > 0.0) world.meshes.push_back(slab(s, s.sheet_material, s.sheet, world.media));
}

Mesh backdrop_mesh(const Setup& setup, const Backdrop& backdrop) {
  Mesh mesh;
  mesh.role = Role::backdrop;
  mesh.material = backdrop.material;
  const auto lines = backdrop_lines(setup, backdrop);
  std::vector<Vec3> normals;
  for (std::size_t i = 0; i + 1 < lines.size(); ++i) {
    const Vec3 up = lines[i + 1].left - lines[i].left;
    normals.push_back(unit(Vec3{0, -up.z, up.y}));
  }
  const auto smooth = [&](std::size_t i) {
    const Vec3 &a = normals[i == 0 ? 0 : i - 1], &b = normals[std::min(i, normals.size() - 1)];
    return unit(a + b);
  };
  if (backdrop.kind == BackdropKind::flat && backdrop.fold_depth > 0.0 && lines.size() == 2) {
    // Upright folds, a sine across: what hangs keeps its width, and is longer than that.
    constexpr double steps_a_fold = 16.0, most_steps = 4000.0;
    const double steps =
        std::clamp(std::ceil(backdrop.width / backdrop.fold_pitch * steps_a_fold), 8.0, most_steps);
    const Vec3 n = normals.front(), across = lines[0].right - lines[0].left;
    const double turns = 2.0 * pi / backdrop.fold_pitch;
    const auto shift = [&](double part) {
      return backdrop.fold_depth / 2 * std::sin(turns * (part - 0.5) * backdrop.width);
    };
    const auto normal = [&](double part) {
      const double slope = backdrop.fold_depth / 2 * turns * std::cos(turns * (part - 0.5) * backdrop.width);
      return unit(n - unit(across) * slope);
    };
    for (int k = 0; k < static_cast<int>(steps); ++k) {
      const double a = k / steps, b = (k + 1) / steps;
      const auto at = [&](const AcrossBackdrop& line, double part) {
        return line.left + (line.right - line.left) * part + n * shift(part);
      };
      add_quad(mesh, at(lines[0], a), at(lines[1], a), at(lines[1], b), at(lines[0], b), normal(a), normal(b));
    }
    lay_texture(mesh, [&](std::size_t k) {  // each fold is a strip from foot to top
      const std::size_t edge = k / 4 + (k % 4 >= 2 ? 1 : 0);
      const double part = static_cast<double>(edge) / steps;
      const bool top = k % 4 == 1 || k % 4 == 2;
      return std::pair{(part - 0.5) * backdrop.width, top ? -length(lines[1].left - lines[0].left) : 0.0};
    });
    return mesh;
  }
  std::vector<double> along{0.0};  // from its lower edge, over all of its bends
  for (std::size_t i = 0; i + 1 < lines.size(); ++i) {
    add_quad(mesh, lines[i].left, lines[i].right, lines[i + 1].right, lines[i + 1].left, smooth(i), smooth(i + 1));
    along.push_back(along.back() + length(lines[i + 1].left - lines[i].left));
  }
  lay_texture(mesh, [&](std::size_t k) {
    const bool right = k % 4 == 1 || k % 4 == 2;
    return std::pair{(right ? 0.5 : -0.5) * backdrop.width, -along[k / 4 + (k % 4 >= 2 ? 1 : 0)]};
  });
  return mesh;
}

Mesh sheet_mesh(const Vec3& place, const Facing& f, double width, double height) {
  Mesh mesh;
  const Vec3 r = f.right * (width / 2), u = f.up * (height / 2);
  add_quad(mesh, place - r - u, place + r - u, place + r + u, place - r + u, f.ahead, f.ahead);
  return mesh;
}

/// The shining face, and the black caps of a tube.
std::vector<Mesh> light_meshes(const StagedLight& l, int index) {
  std::vector<Mesh> out;
  Mesh face;
  switch (l.shape) {
    case LightShape::rectangle:
      face = sheet_mesh(l.place, l.frame, l.width, l.height);
      break;
    case LightShape::disc:
      add_disc(face, l.place, l.frame.right, l.frame.up, l.radius, l.frame.ahead, 96);
      break;
    case LightShape::tube: {
      const Vec3 half = l.frame.up * (l.length / 2);
      add_tube_side(face, l.place - half, l.place + half, l.frame.right, l.frame.ahead, l.radius, 64);
      Mesh caps;
      caps.role = Role::light;
      caps.material = {MaterialKind::cloth, {0, 0, 0}};
      for (const double s : {-1.0, 1.0})
        add_disc(caps, l.place + half * s, l.frame.right, l.frame.ahead, l.radius, l.frame.up * s, 64);
      out.push_back(std::move(caps));
      break;
    }
    case LightShape::dome: {
      add_dome(face, l.place, l.frame, l.radius, 48);
      Mesh back;  // its ring and what holds it
      back.role = Role::light;
      back.material = {MaterialKind::cloth, {0, 0, 0}};
      add_disc(back, l.place - l.frame.ahead * 1e-3, l.frame.right, l.frame.up, l.radius, -l.frame.ahead, 64);
      out.push_back(std::move(back));
      break;
    }
    case LightShape::bare:
      add_lamp_ball(face, l.place, l.radius, 32);
      break;
  }
  face.role = Role::light;
  face.light = index;
  out.push_back(std::move(face));
  return out;
}

/// Moves a product's mesh through the exposure: one list of positions per time step. What changes its own form
/// meanwhile has one of those for each step too.
void pose_mesh(Mesh& mesh, const std::vector<ProductPose>& poses, const std::vector<std::vector<Vec3f>>& forms) {
  const auto own = mesh.positions.front();
  if (mesh.dressed()) mesh.own = own;
  mesh.positions.clear();
  for (std::size_t i = 0; i < poses.size(); ++i) {
    std::vector<Vec3f> moved;
    moved.reserve(own.size());
    for (const Vec3f& p : forms.empty() ? own : forms[i])
      moved.push_back(poses[i].world(p.as<double>()).as<float>());
    mesh.positions.push_back(std::move(moved));
  }
  const ProductPose& middle = poses[poses.size() / 2];
  mesh.own_right = middle.direction({1, 0, 0}).as<float>();
  mesh.axis = mesh.own_up = middle.direction({0, 1, 0}).as<float>();
  mesh.origin = middle.world({0, 0, 0}).as<float>();
  for (Vec3f& n : mesh.normals) n = middle.direction(n.as<double>()).as<float>();
}

}  // namespace

std::array<DoorLeaf, 4> door_leaves(const Light& l) {
  std::array<DoorLeaf, 4> leaves{};
  if (!l.doors) return leaves;
  const Doors& doors = *l.doors;
  const Facing f = facing(l.place, l.aim, l.roll_deg);
  const bool round = l.shape == LightShape::disc;
  const double half_width = round ? l.radius : l.width / 2, half_height = round ? l.radius : l.height / 2;
  const struct {
    Vec3 outward, along;
    double reach, half, open_deg;
  } sides[4] = {{f.up, f.right, half_height, half_width, doors.top_deg},
                {-f.up, f.right, half_height, half_width, doors.bottom_deg},
                {-f.right, f.up, half_width, half_height, doors.left_deg},
                {f.right, f.up, half_width, half_height, doors.right_deg}};
  for (std::size_t i = 0; i < 4; ++i) {
    const auto& s = sides[i];
    const double a = radians(s.open_deg);
    const Vec3 hinge = l.place + s.outward * s.reach,
               tip = hinge + (f.ahead * std::cos(a) + s.outward * std::sin(a)) * doors.length;
    leaves[i] = {hinge - s.along * s.half, hinge + s.along * s.half, tip + s.along * s.half,
                 tip - s.along * s.half};
  }
  return leaves;
}

namespace {
/// Side view of a backdrop where its document has it, [z, y] from its lower to its upper edge.
std::vector<std::pair<double, double>> side_of(const Setup& setup, const Backdrop& b) {
  if (b.kind == BackdropKind::none) return {};
  const double tilt = radians(b.tilt_deg), up_y = std::cos(tilt), up_z = -std::sin(tilt);
  std::vector<std::pair<double, double>> line;
  double from = 0.0;  // along the wall, where its straight part begins
  if (b.kind == BackdropKind::sweep) {
    // From the surface's rear edge along its level, round the radius and up the wall.
    const double level = b.low, turn = pi / 2 - tilt;
    const double tangent = b.radius * std::tan(turn / 2);
    const double rear = setup.surface ? -setup.surface->depth / 2 : 0.0;
    const double arc_start = -b.distance + tangent;
    if (rear > arc_start + 1e-6) {
      if (setup.surface && std::abs(level) < 1e-3)
        line.emplace_back(rear + 0.01, level - 5e-4);  // tucked under the surface
      line.emplace_back(rear, level);
    }
    constexpr int steps = 24;
    if (b.radius > 0.0)
      for (int i = 0; i <= steps; ++i) {
        const double a = turn * i / steps;
        line.emplace_back(arc_start - b.radius * std::sin(a), level + b.radius * (1.0 - std::cos(a)));
      }
    from = tangent;
    if (from >= b.height) return line;
  }
  if (line.empty() || from == 0.0) line.emplace_back(-b.distance + up_z * from, b.low + up_y * from);
  line.emplace_back(-b.distance + up_z * b.height, b.low + up_y * b.height);
  return line;
}
}  // namespace

std::vector<AcrossBackdrop> backdrop_lines(const Setup& setup, const Backdrop& backdrop) {
  std::vector<AcrossBackdrop> lines;
  const double half = backdrop.width / 2;
  for (const auto& [z, y] : side_of(setup, backdrop))
    lines.push_back({Vec3{-half, y, z} + backdrop.moved, Vec3{half, y, z} + backdrop.moved});
  return lines;
}

std::vector<EdgeLine> set_edges(const Setup& setup, const Backdrop& backdrop) {
  std::vector<EdgeLine> edges;
  const auto closed = [&](Role role, std::vector<Vec3> points) {
    points.push_back(points.front());
    edges.push_back({role, std::move(points)});
  };
  if (setup.surface) {
    const double x = setup.surface->width / 2, z = setup.surface->depth / 2;
    closed(Role::surface, {{-x, 0, z}, {x, 0, z}, {x, 0, -z}, {-x, 0, -z}});
  }
  if (const auto lines = backdrop_lines(setup, backdrop); !lines.empty()) {
    std::vector<Vec3> outline;
    for (const AcrossBackdrop& line : lines) outline.push_back(line.left);
    for (auto line = lines.rbegin(); line != lines.rend(); ++line) outline.push_back(line->right);
    closed(Role::backdrop, std::move(outline));
  }
  return edges;
}

std::size_t StagedWorld::bytes() const {
  std::size_t sum = sizeof *this;
  for (const Mesh& m : meshes) {
    for (const auto& step : m.positions) sum += step.capacity() * sizeof(Vec3f);
    sum += sizeof m + (m.normals.capacity() + m.own.capacity()) * sizeof(Vec3f) +
           m.uvs.capacity() * sizeof(m.uvs[0]) + m.triangles.capacity() * sizeof(std::uint32_t);
  }
  return sum;
}

namespace {

/// The moments of an exposure that moving things are held at.
struct Exposed {
  double from, shutter, span;  ///< set time, and how long it is open with the rows' readout
  [[nodiscard]] double middle() const { return from + shutter / 2; }
  [[nodiscard]] std::vector<double> moments(int steps) const {
    if (steps <= 1 || span <= 0.0) return {middle()};
    std::vector<double> times;
    for (int i = 0; i < steps; ++i) times.push_back(from + span * i / (steps - 1));
    return times;
  }
};

StagedCamera staged_camera(const Shot& shot, const ShotCamera& camera, const ShotOptics& optics,
                           const Exposed& exposed) {
  StagedCamera staged;
  staged.optics = optics;
  for (const double t : exposed.moments(camera_moves(shot) ? 5 : 1)) staged.poses.push_back(camera_at(shot, t));
  staged.f_number = camera.f_number;
  staged.f_number_effective =
      effective_f_number(camera_at(shot, exposed.middle()), camera.f_number, optics.pupil_ratio);
  staged.shutter_time = camera.shutter_time, staged.iso = camera.iso;
  staged.nd_stops = camera.nd_stops, staged.balance_k = camera.balance_k;
  if (camera.polariser) staged.nd_stops += camera.polariser->stops, staged.film_deg = camera.polariser->angle_deg;
  return staged;
}

void stage_light(const Light& l, StagedWorld& world) {
  StagedLight staged{l.id,
                     l.shape,
                     l.place,
                     facing(l.place, l.aim, l.roll_deg),
                     l.width,
                     l.height,
                     l.radius,
                     l.length,
                     l.full_luminance(),
                     l.dimmer,
                     l.white_kelvin(),
                     l.on,
                     l.grid_deg ? 2.0 * std::tan(radians(*l.grid_deg) / 2.0) : 0.0,
                     l.distribution,
                     l.shines,
                     l.gel_bands,
                     l.duv,
                     l.beam,
                     std::nullopt};
  if (l.film) {
    const double a = radians(l.film->angle_deg);
    staged.film = staged.frame.up * std::cos(a) - staged.frame.right * std::sin(a);
  }
  if (l.distribution)
    staged.luminance *= l.distribution->tilt_share(
        degrees(std::acos(std::clamp(dot(staged.frame.ahead, Vec3{0, -1, 0}), -1.0, 1.0))));
  const int own = static_cast<int>(world.lights.size());
  if (l.beam) {  // it shines through the face of the window staged before it
    if (own > 0) staged.pane = static_cast<std::size_t>(own - 1);
    world.lights.push_back(std::move(staged));
    return;
  }
  for (Mesh& mesh : light_meshes(staged, own)) {
    mesh.thing = own;
    world.meshes.push_back(std::move(mesh));
  }
  if (l.shines && l.shines->front().kind == FrontKind::tube) {
    // A little wider than what lets the light out, so that facets take none of it.
    Mesh tube;
    tube.role = Role::light, tube.thing = own;
    tube.material = {MaterialKind::cloth, {0.01, 0.01, 0.01}};
    const double wide = 1.02 * std::max(l.radius, l.shines->front().mouth_radius);
    const Facing f = facing(l.place, l.aim, l.roll_deg);
    add_tube_side(tube, l.place, l.place + f.ahead * l.shines->front().length, f.right, f.up, wide, 48);
    world.meshes.push_back(std::move(tube));
  }
  if (l.doors) {
    Mesh doors;
    doors.role = Role::light, doors.thing = own;
    doors.material = {MaterialKind::cloth, {0.01, 0.01, 0.01}};
    for (const DoorLeaf& leaf : door_leaves(l)) {
      const Vec3 n = unit(cross(leaf[1] - leaf[0], leaf[2] - leaf[0]));
      add_quad(doors, leaf[0], leaf[1], leaf[2], leaf[3], n, n);
    }
    world.meshes.push_back(std::move(doors));
  }
  world.lights.push_back(std::move(staged));
}

/// A body about the set, where it stands.
std::vector<Mesh> gear_meshes(const Gear& g, std::vector<Medium>& media) {
  const Vec3 right = turned({1, 0, 0}, g.turn_deg);
  if (g.form != GearForm::round && !g.material.is_clear()) {
    Mesh mesh;
    mesh.material = g.material;
    if (g.form == GearForm::box)
      add_box(mesh, g.place + Vec3{0, g.size.y / 2, 0}, g.size / 2, right, {0, 1, 0});
    else
      add_ridge(mesh, g.place, g.size / 2, right);
    lay_flat(mesh, g.place, right, {0, 1, 0});
    std::vector<Mesh> one;
    one.push_back(std::move(mesh));
    return one;
  }
  // As a part of a product would be: standing on its axis, then turned and carried.
  Part part;
  part.id = g.id, part.material = g.material;
  part.section = g.form == GearForm::round ? Section::round : Section::box;
  const double radius = g.size.x / 2, deep = g.size.z / g.size.x;
  if (g.form == GearForm::round && g.wall > 0.0) {
    part.wall = std::min(g.wall, 0.4 * radius);
    part.profile = {{radius, 0, deep}, {0.88 * radius, g.size.y, deep}, {0, g.size.y, deep}};
  } else {
    part.profile = {{0, 0, deep}, {radius, 0, deep}, {radius, g.size.y, deep}, {0, g.size.y, deep}};
  }
  constexpr int segments = 64;
  auto meshes = product_meshes({.id = g.id, .parts = {part}}, media, segments);
  for (Mesh& mesh : meshes) {
    if (mesh.dressed()) mesh.own = mesh.positions.front();
    mesh.own_right = right.as<float>();
    mesh.axis = mesh.own_up = Vec3{0, 1, 0}.as<float>();
    for (Vec3f& v : mesh.positions.front()) v = (turned(v.as<double>(), g.turn_deg) + g.place).as<float>();
    for (Vec3f& n : mesh.normals) n = turned(n.as<double>(), g.turn_deg).as<float>();
  }
  return meshes;
}

/// Surface, backdrop, cards, gear and lights.
void stage_set(const Setup& setup, const Shot& shot, const Exposed& exposed, StagedWorld& world) {
  const double middle = exposed.middle();
  if (setup.surface) stage_surface(*setup.surface, world);
  if (setup.backdrop.kind != BackdropKind::none) {
    Mesh mesh = backdrop_mesh(setup, backdrop_at(setup.backdrop, shot, middle));
    if (const auto moments = exposed.moments(backdrop_moves(shot) ? 5 : 1); moments.size() > 1) {
      mesh.positions.clear();
      for (const double t : moments)
        mesh.positions.push_back(
            std::move(backdrop_mesh(setup, backdrop_at(setup.backdrop, shot, t)).positions.front()));
    }
    world.meshes.push_back(std::move(mesh));
  }
  for (std::size_t c = 0; c < setup.cards.size(); ++c) {
    const Card card = card_at(setup.cards[c], shot, middle);
    const Facing frame = facing(card.place, card.aim, card.roll_deg);
    Mesh mesh = sheet_mesh(card.place, frame, card.width, card.height);
    mesh.role = Role::card, mesh.thing = static_cast<int>(c);
    mesh.axis = frame.up.as<float>();
    mesh.material = card.material;
    lay_flat(mesh, card.place, frame.right, frame.up);
    world.meshes.push_back(std::move(mesh));
  }
  for (std::size_t k = 0; k < setup.gear.size(); ++k)
    for (Mesh& mesh : gear_meshes(setup.gear[k], world.media)) {
      mesh.role = Role::gear, mesh.thing = static_cast<int>(k);
      world.meshes.push_back(std::move(mesh));
    }
  stage_room(setup.room, camera_at(shot, middle).place, world);
  for (const Light& steady : setup.lights) stage_light(light_at(steady, shot, middle), world);
  world.ambient_luminance = setup.ambient_lx / pi;
  world.ambient_kelvin = setup.ambient_kelvin;
}

/// A product as full and as wet as the effects make it, and how its liquid stands.
class ShownProduct {
 public:
  ShownProduct(const Project& project, const Shot& shot, std::size_t k, const Product& product,
               const ToldEffects& effects, double middle)
      : project_(project), shot_(shot), thing_(k), effects_(effects), full_(product) {
    if (auto filled = filled_by(effects, product, k, middle)) full_ = *std::move(filled);
    if (auto misted = misted_by(project, shot, effects, full_, k, middle)) full_ = *std::move(misted);
    surface_ = surface_at(middle);
  }
  [[nodiscard]] std::vector<Mesh> meshes(std::vector<Medium>& media, int segments) const {
    return product_meshes(surface_ ? with_surface(full_, *surface_) : full_, media, segments);
  }
  /// Whether a liquid's form changes while its vessel stands.
  [[nodiscard]] bool heaves(const Mesh& mesh) const {
    return surface_ && mesh.material.kind == MaterialKind::liquid &&
           (length(surface_->wave) > 0.0 || surface_->dent_radius > 0.0);
  }
  /// A liquid's form at each of these moments; nothing where it keeps its own, or has other corners at one.
  [[nodiscard]] std::vector<std::vector<Vec3f>> forms(const Mesh& mesh, std::size_t index,
                                                      const std::vector<double>& moments, int segments) const {
    std::vector<std::vector<Vec3f>> list;
    if (!surface_ || mesh.material.kind != MaterialKind::liquid || moments.size() < 2) return list;
    for (const double t : moments) {
      const auto then = surface_at(t);
      std::vector<Medium> same;
      auto all = product_meshes(then ? with_surface(full_, *then) : full_, same, segments);
      if (index >= all.size() || all[index].positions.front().size() != mesh.positions.front().size()) return {};
      list.push_back(std::move(all[index].positions.front()));
    }
    return list;
  }

 private:
  /// Level, heaving, or with what a splash opens in it aside of its axis.
  [[nodiscard]] std::optional<LiquidSurface> surface_at(double t) const {
    auto surface = liquid_surface(project_, shot_, thing_, effects_, full_, t);
    for (const ToldEffect& told : effects_) {
      const auto& outcome = told.outcome;
      if (!outcome || !outcome->cavity_at || outcome->into != static_cast<int>(thing_)) continue;
      const double radius = outcome->cavity(t);
      if (radius < 1e-4) continue;
      if (!surface) surface = LiquidSurface{{0, 1, 0}, liquid_level(full_)};
      surface->dent = product_at(project_, shot_, shot_.products[thing_], t).own(*outcome->cavity_at);
      surface->dent_radius = radius;
    }
    return surface;
  }

  const Project& project_;
  const Shot& shot_;
  std::size_t thing_;
  const ToldEffects& effects_;
  Product full_;
  std::optional<LiquidSurface> surface_;
};

/// The product at a place of the shot.
void stage_product(const Project& project, const Shot& shot, std::size_t k, const ToldEffects& effects,
                   const Exposed& exposed, bool motion, int segments, StagedWorld& world) {
  const ShotProduct& placed = shot.products[k];
  const auto at = [&](double t) { return product_at(project, shot, placed, t); };
  world.products.push_back(
      {at(exposed.from), at(exposed.middle()), at(exposed.from + (motion ? exposed.shutter : 0.0))});
  const Product* product = by_id(project.products, placed.product);
  if (!product) return;
  // Over the exposure: how far it is turned and leant, and whether its axis goes elsewhere.
  const ProductPose from = at(exposed.from), to = at(exposed.from + exposed.span);
  const double lean = std::abs(to.tilt_deg - from.tilt_deg), turn = std::abs(to.turn_deg - from.turn_deg) + lean;
  const bool goes = length(to.place - from.place) >= 1e-9;
  const bool on_its_axis = !goes && from.tilt_deg == 0.0 && lean == 0.0;
  const ShownProduct shown(project, shot, k, *product, effects, exposed.middle());
  std::vector<Mesh> meshes = shown.meshes(world.media, segments);
  for (std::size_t m = 0; m < meshes.size(); ++m) {
    Mesh& mesh = meshes[m];
    mesh.thing = static_cast<int>(k);
    const bool is_label = product->label && mesh.uvs.size() && mesh.uvs.back().first > 0.0f;
    const bool moves = (turn > 0.0 || goes) && (!on_its_axis || is_label || mesh.dressed());
    int steps = moves ? std::clamp(static_cast<int>(std::ceil(turn / 2.0)) + 1, 2, 65) : 1;
    if (shown.heaves(mesh)) steps = std::max(steps, 5);
    const auto moments = exposed.moments(steps);
    std::vector<ProductPose> poses;
    for (const double t : moments) {
      poses.push_back(at(t));
      poses.back().place.y += stands_clear;
    }
    pose_mesh(mesh, poses, shown.forms(mesh, m, moments, segments));
    world.meshes.push_back(std::move(mesh));
  }
}

}  // namespace

StagedWorld stage(const Project& project, const Shot& shot, double set_time, const StageOptions& options) {
  StagedWorld world;
  world.set_time = set_time;
  const ShotCamera camera = shot.camera.value_or(ShotCamera{});
  const ShotOptics optics = shot_optics(project, shot);
  const Exposed exposed{set_time, camera.shutter_time,
                        options.motion ? camera.shutter_time + optics.readout : 0.0};
  world.camera = staged_camera(shot, camera, optics, exposed);
  if (const Setup* setup = by_id(project.setups, shot.setup)) stage_set(*setup, shot, exposed, world);
  stage_camera_body(project, shot, world);
  const ToldEffects effects = told_effects(project, shot);
  for (std::size_t k = 0; k < shot.products.size(); ++k)
    stage_product(project, shot, k, effects, exposed, options.motion, options.segments, world);
  if (!effects.empty()) {
    for (Mesh& mesh : effect_meshes(effects, exposed.middle(), exposed.moments(5), world.media))
      world.meshes.push_back(std::move(mesh));
    world.clouds = effect_clouds(effects, exposed.middle());
  }
  for (Mesh& mesh : world.meshes) {
    if (mesh.role != Role::product) {
      mesh.material.scattering = {};  // a sheet has no inside
      if (mesh.dressed()) mesh.own = mesh.positions.front();
      if (mesh.role == Role::surface || mesh.role == Role::backdrop) mesh.axis = {0, 0, 1};
    }
    world.screens = world.screens || mesh.material.screen > 0.0;
  }
  return world;
}

bool must_not_be_seen(const Setup& setup, const Mesh& mesh) {
  const auto at = static_cast<std::size_t>(mesh.thing);
  const bool listed = mesh.thing >= 0;
  if (mesh.role == Role::card) return true;
  if (mesh.role == Role::room) return !setup.room.dressed;
  if (mesh.role == Role::gear) return !(listed && at < setup.gear.size() && setup.gear[at].dressed);
  if (mesh.role != Role::light) return false;
  if (!listed || at >= setup.lights.size()) return true;
  return !setup.lights[at].dressed && !(setup.lights[at].window && setup.room.dressed);
}

}  // namespace cinnabar
