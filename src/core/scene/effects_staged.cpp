#include "cinnabar/scene/effects_staged.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/effects/pours.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

void corner(Mesh& mesh, const Vec3& normal) {
  mesh.normals.push_back(normal.as<float>());
  mesh.uvs.emplace_back(0.0f, 0.0f);
}

/// A ball's, box's or thread's places at one moment; the same in number and order at every moment.
void ball_places(const EffectShape& s, double radius, int rows, std::vector<Vec3f>& to) {
  const double swell = 1.0 + 0.6 * pi * pi / (4.0 * rows * rows);  // about the sphere's own volume
  for (int i = 0; i <= rows; ++i)
    for (int j = 0; j < 2 * rows; ++j) {
      const double a = pi * i / rows, b = pi * j / rows;
      to.push_back(
          (s.place + Vec3{std::sin(a) * std::cos(b), std::cos(a), std::sin(a) * std::sin(b)} * (radius * swell))
              .as<float>());
    }
}
void ball_faces(Mesh& mesh, int rows) {
  const auto first = static_cast<std::uint32_t>(mesh.normals.size());
  for (int i = 0; i <= rows; ++i)
    for (int j = 0; j < 2 * rows; ++j) {
      const double a = pi * i / rows, b = pi * j / rows;
      corner(mesh, {std::sin(a) * std::cos(b), std::cos(a), std::sin(a) * std::sin(b)});
    }
  const auto at = [&](int i, int j) { return first + static_cast<std::uint32_t>(i * 2 * rows + j % (2 * rows)); };
  for (int i = 0; i < rows; ++i)
    for (int j = 0; j < 2 * rows; ++j) {
      if (i > 0) mesh.triangles.insert(mesh.triangles.end(), {at(i, j), at(i, j + 1), at(i + 1, j)});
      if (i + 1 < rows)
        mesh.triangles.insert(mesh.triangles.end(), {at(i, j + 1), at(i + 1, j + 1), at(i + 1, j)});
    }
}

constexpr int box_order[6][4] = {{0, 1, 3, 2}, {4, 6, 7, 5}, {0, 4, 5, 1},
                                 {2, 3, 7, 6}, {0, 2, 6, 4}, {1, 5, 7, 3}};
std::array<Vec3, 8> box_corners(const EffectShape& s, const Vec3& half) {
  const Vec3 deep = cross(s.right, s.up);
  std::array<Vec3, 8> all;
  for (std::size_t k = 0; k < 8; ++k)
    all[k] = s.place + s.right * (k & 4 ? half.x : -half.x) + s.up * (k & 2 ? half.y : -half.y) +
             deep * (k & 1 ? half.z : -half.z);
  return all;
}
void box_places(const EffectShape& s, const Vec3& half, std::vector<Vec3f>& to) {
  const auto corners = box_corners(s, half);
  for (const auto& side : box_order)
    for (const int k : side) to.push_back(corners[static_cast<std::size_t>(k)].as<float>());
}
void box_faces(Mesh& mesh, const EffectShape& s, const Vec3& half) {
  const auto corners = box_corners(s, half);
  for (const auto& side : box_order) {
    const auto first = static_cast<std::uint32_t>(mesh.normals.size());
    const auto at = [&](int k) { return corners[static_cast<std::size_t>(side[k])]; };
    const Vec3 n = unit(cross(at(1) - at(0), at(2) - at(0)));
    for (int k = 0; k < 4; ++k) corner(mesh, n);
    mesh.triangles.insert(mesh.triangles.end(), {first, first + 1, first + 2, first, first + 2, first + 3});
  }
}

constexpr int thread_sides = 20;
/// Rings about the spine, and a point at either end.
void thread_places(const EffectShape& s, std::vector<Vec3f>& to, std::vector<Vec3>* normals) {
  const auto& spine = s.spine;
  Vec3 across = unit(cross(spine.back().first - spine.front().first, Vec3{0.6, 0.1, 0.79}));
  if (length(across) < 0.5) across = {1, 0, 0};
  const double step = 2 * pi / thread_sides, swell = std::sqrt(step / std::sin(step));
  const auto add = [&](const Vec3& at, const Vec3& normal) {
    to.push_back(at.as<float>());
    if (normals) normals->push_back(normal);
  };
  const auto along = [&](std::size_t i) {
    const Vec3 way = spine[std::min(i + 1, spine.size() - 1)].first - spine[i == 0 ? 0 : i - 1].first;
    return length(way) > 1e-12 ? unit(way) : Vec3{0, -1, 0};
  };
  add(spine.front().first, -along(0));
  for (std::size_t i = 0; i < spine.size(); ++i) {
    const Vec3 way = along(i), u = unit(across - way * dot(across, way)), v = cross(way, u);
    for (int k = 0; k < thread_sides; ++k) {
      const Vec3 out = u * std::cos(step * k) + v * std::sin(step * k);
      add(spine[i].first + out * (spine[i].second * swell), out);
    }
  }
  add(spine.back().first, along(spine.size() - 1));
}
void thread_faces(Mesh& mesh, std::size_t rings, const std::vector<Vec3>& normals) {
  const auto first = static_cast<std::uint32_t>(mesh.normals.size());
  for (const Vec3& n : normals) corner(mesh, n);
  const auto at = [&](std::size_t ring, int k) {
    return first + 1 + static_cast<std::uint32_t>(ring) * thread_sides +
           static_cast<std::uint32_t>(k % thread_sides);
  };
  for (int k = 0; k < thread_sides; ++k) {
    mesh.triangles.insert(mesh.triangles.end(), {first, at(0, k + 1), at(0, k)});
    const std::uint32_t last = first + 1 + static_cast<std::uint32_t>(rings) * thread_sides;
    mesh.triangles.insert(mesh.triangles.end(), {last, at(rings - 1, k), at(rings - 1, k + 1)});
    for (std::size_t r = 0; r + 1 < rings; ++r)
      mesh.triangles.insert(mesh.triangles.end(),
                            {at(r, k), at(r, k + 1), at(r + 1, k), at(r, k + 1), at(r + 1, k + 1), at(r + 1, k)});
  }
}

}  // namespace

Material effect_material(const Effect& effect, bool liquid) {
  if (effect.material) return *effect.material;
  Material m;
  if (!liquid) return m;
  const LiquidRow* row = liquid_row(effect.liquid);
  if (row && row->cloudy) {
    m.kind = MaterialKind::gloss, m.colour = row->colour, m.ior = 1.34;
    return m;
  }
  m.kind = MaterialKind::liquid, m.colour = {1, 1, 1};
  m.ior = row && effect.liquid == "honey" ? 1.49 : row && effect.liquid == "oil" ? 1.47 : 1.333;
  if (row) m.absorption = row->absorption;
  return m;
}

EffectPlace effect_place(const Project& project, const Shot& shot, const Vec3& place, double set_time) {
  EffectPlace about;
  for (std::size_t k = 0; k < shot.products.size(); ++k) {
    const Product* product = by_id(project.products, shot.products[k].product);
    if (!product) continue;
    const ProductPose pose = product_at(project, shot, shot.products[k], set_time);
    const Vec3 foot = pose.world({0, 0, 0});
    if (auto inner = inner_side(*product); !inner.empty()) {
      about.vessels.push_back({static_cast<int>(k), foot, std::move(inner), liquid_level(*product)});
      continue;
    }
    const double top = height_span(*product).second;
    if (std::hypot(place.x - foot.x, place.z - foot.z) < radius_at(*product, top - 1e-4) && foot.y + top < place.y)
      about.ground = std::max(about.ground, foot.y + top);
  }
  return about;
}

std::string effect_name(const Effect& effect) {
  if (!effect.name.empty()) return effect.name;
  const EffectKind* kind = effect_kind(effect.kind);
  return kind ? in_words(kind->name.c_str()) : effect.id;
}

Expected<EffectOutcome> outcome_of(const Project& project, const Shot& shot, const Effect& effect) {
  const EffectKind* kind = effect_kind(effect.kind);
  if (!kind) return fail("kind", "is not known", "give one of the kinds");
  auto measures = measures_of(*kind, effect.measures, effect.liquid);
  if (!measures) return tl::unexpected(measures.error());
  return kind->outcome({std::move(*measures), effect.place, effect.at, static_cast<std::uint64_t>(effect.seed),
                        effect_place(project, shot, effect.place, effect.at)});
}

std::vector<Peril> perils_of(const Effect& effect, const Expected<EffectOutcome>& outcome) {
  std::vector<Peril> perils = outcome ? outcome->perils : std::vector<Peril>{};
  if (effect.kind == "flame") perils.push_back(Peril::flame);
  return perils;
}

StagedEffects staged_effects(const Project& project, const Shot& shot) {
  StagedEffects all;
  for (const Effect& effect : shot.effects)
    if (auto outcome = outcome_of(project, shot, effect)) {
      all.effects.push_back(&effect);
      all.outcomes.push_back(std::move(*outcome));
    }
  return all;
}

std::optional<Product> StagedEffects::filled(const Product& product, std::size_t thing, double t) const {
  double volume = 0.0;
  Material material;
  for (std::size_t i = 0; i < outcomes.size(); ++i)
    if (outcomes[i].poured && outcomes[i].into == static_cast<int>(thing)) {
      volume += outcomes[i].poured(t);
      material = effect_material(*effects[i], true);
    }
  if (volume <= 0.0) return std::nullopt;
  const auto after = fill({inner_side(product), liquid_level(product), volume, 1.0});
  if (!after) return std::nullopt;
  return with_level(product, after->level_after, material);
}

std::vector<Mesh> StagedEffects::meshes(double middle, const std::vector<double>& moments,
                                        std::vector<Medium>& media) const {
  std::vector<Mesh> list;
  for (std::size_t e = 0; e < outcomes.size(); ++e) {
    for (const EffectBody& body : outcomes[e].bodies) {
      const auto there = body.at(middle, middle);
      if (there.empty()) continue;
      Mesh mesh;
      mesh.role = Role::effect, mesh.thing = static_cast<int>(effects[e] - effects.front());
      mesh.material = effect_material(*effects[e], body.liquid);
      const int rows = there.size() > 60 ? 6 : 12;
      for (const double t : moments) {
        auto& places = mesh.positions.emplace_back();
        for (const EffectShape& s : body.at(middle, t)) {
          if (body.form == EffectForm::ball) ball_places(s, body.half.x, rows, places);
          if (body.form == EffectForm::box) box_places(s, body.half, places);
          if (body.form == EffectForm::thread) thread_places(s, places, nullptr);
        }
      }
      for (const EffectShape& s : there) {
        if (body.form == EffectForm::ball) ball_faces(mesh, rows);
        if (body.form == EffectForm::box) box_faces(mesh, s, body.half);
        if (body.form != EffectForm::thread) continue;
        std::vector<Vec3f> unused;
        std::vector<Vec3> normals;
        thread_places(s, unused, &normals);
        thread_faces(mesh, s.spine.size(), normals);
      }
      const MaterialKind kind = mesh.material.kind;
      if (kind == MaterialKind::liquid || kind == MaterialKind::glass || kind == MaterialKind::frosted) {
        mesh.medium = static_cast<int>(media.size());
        media.push_back({static_cast<float>(mesh.material.ior), mesh.material.absorption.as<float>(), 1});
      }
      list.push_back(std::move(mesh));
    }
  }
  return list;
}

Json begun_effect(const Project& project, std::size_t index, const EffectKind& kind) {
  const Shot& shot = *project.shots[index];
  const auto tidy = [](double v) { return std::round(v * 1e4) / 1e4; };
  const double at = tidy(shot.set_time() / 3.0);
  Vec3 over{0, 0.3, 0};
  std::optional<EffectVessel> vessel;
  if (!shot.products.empty())
    if (const Product* product = by_id(project.products, shot.products.front().product)) {
      const ProductPose pose = product_at(project, shot, shot.products.front(), at);
      over = pose.world({0, height_span(*product).second + 0.15, 0});
      const EffectPlace about = effect_place(project, shot, over, at);
      if (!about.vessels.empty() && about.vessels.front().number == 0) vessel = about.vessels.front();
    }
  if (kind.id == "pour") {
    // Beside the mouth by as much as the stream goes aside while it falls.
    const double level = vessel ? vessel->foot.y + vessel->level : 0.0;
    if (const auto poured = lip_pour({0.03, 0.01, 30.0, std::max(0.0, over.y - level)})) over.x -= poured->reach;
  }
  if (kind.id == "swing") over.y += 0.8;
  std::string id;
  for (int n = 1; id.empty(); ++n) {
    const std::string wanted = kind.id + (n > 1 ? "-" + std::to_string(n) : "");
    if (std::none_of(shot.effects.begin(), shot.effects.end(), [&](const Effect& e) { return e.id == wanted; }))
      id = wanted;
  }
  Json effect{{"id", id}, {"kind", kind.id}, {"at", at}, {"place", {tidy(over.x), tidy(over.y), tidy(over.z)}}};
  if (kind.pours) effect["liquid"] = "water";
  Effect begun;
  begun.id = id, begun.kind = kind.id, begun.at = at, begun.place = over, begun.liquid = kind.pours ? "water" : "";
  const auto outcome = outcome_of(project, shot, begun);
  if (!outcome) return effect;
  for (const char* name : {"lands", "contact", "peak", "opens", "ready"}) {
    if (!outcome->event(name)) continue;
    Json needs{{"event", name}};
    const double middle = shot.screen_time / 2;
    if (project.beats_per_minute && *project.beats_per_minute > 0.0 && std::string_view(name) != "ready") {
      const double starts = project.starts_at(index), each = 60.0 / *project.beats_per_minute;
      needs["beat"] = std::round((starts + middle) / each);
    } else if (std::string_view(name) == "ready") {
      break;  // what stands about is timed by its life
    } else {
      needs["screen"] = tidy(middle);
    }
    effect["needs"] = needs;
    break;
  }
  return effect;
}

}  // namespace cinnabar
