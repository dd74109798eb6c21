#include "cinnabar/scene/effects_staged.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/effects/pours.h"
#include "cinnabar/motion/camera_moves.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/mesh_parts.h"

namespace cinnabar {
namespace {

/// What a body of it is of: the effect's own material, else its liquid by name, else plain. Where something solid
/// is there too (what splashes, a skin), the material is that one's, and the liquid is by its name.
Material effect_material(const Effect& effect, const EffectOutcome& outcome, bool liquid) {
  const auto solid = [](const EffectBody& body) { return !body.liquid; };
  if (effect.material && !(liquid && std::any_of(outcome.bodies.begin(), outcome.bodies.end(), solid)))
    return *effect.material;
  Material m;
  if (!liquid) return m;
  const LiquidRow* row = liquid_row(effect.liquid);
  if (row && row->cloudy) {
    m.kind = MaterialKind::gloss, m.colour = row->colour, m.ior = row->ior;
    return m;
  }
  m.kind = MaterialKind::liquid, m.colour = {1, 1, 1};
  m.ior = row ? row->ior : 1.333;
  if (row) m.absorption = row->absorption;
  return m;
}

}  // namespace

namespace {

/// Whether a part's outline turns inward at a point of it, so that a hull over the point would be fuller.
bool hollow_at(const Part& part, std::size_t i) {
  if (i == 0 || i + 1 >= part.profile.size()) return false;
  const ProfilePoint &a = part.profile[i - 1], &b = part.profile[i], &c = part.profile[i + 1];
  const auto turns = [&](double from, double by, double to) {
    return (by - from) * (c.height - b.height) - (b.height - a.height) * (to - by);
  };
  constexpr double some = -1e-9;
  return a.shift != b.shift || b.shift != c.shift || turns(a.radius, b.radius, c.radius) < some ||
         turns(a.depth(), b.depth(), c.depth()) < some;
}

/// What products and bodies of a shot are outside, as hulls: as few as there are bodies without hollows. What is
/// within another part is met by nothing.
std::vector<RigidSolid> solids_of(const Project& project, const Shot& shot, double set_time) {
  std::vector<RigidSolid> list;
  const auto add = [&](RigidSolid& hull) {
    const auto [low, high] =
        std::minmax_element(hull.begin(), hull.end(), [](const Vec3& a, const Vec3& b) { return a.y < b.y; });
    if (hull.size() > 3 && high->y - low->y > 1e-4) list.push_back(hull);  // a level ring is no solid
    hull.clear();
  };
  for (const ShotProduct& placed : shot.products) {
    const Product* product = by_id(project.products, placed.product);
    if (!product) continue;
    const ProductPose pose = product_at(project, shot, placed, set_time);
    for (const Part& part : product->parts) {
      if (part.material.kind == MaterialKind::liquid) continue;
      RigidSolid hull;
      for (std::size_t i = 0; i < part.profile.size(); ++i)
        for (int twice = hollow_at(part, i) ? 2 : 1; twice > 0; --twice) {
          for (const RimPoint& edge : rim(part, part.profile[i], 16)) hull.push_back(pose.world(edge.at));
          if (twice == 2) add(hull);  // one ends there and the next begins
        }
      if (!hull.empty()) add(hull);
    }
  }
  const Setup* setup = by_id(project.setups, shot.setup);
  if (!setup) return list;
  for (const Gear& body : setup->gear) {
    const bool round = body.form == GearForm::round;
    const int corners = round ? 24 : 4;
    RigidSolid hull;
    for (int k = 0; k < corners; ++k) {
      const double a = 2.0 * pi * (k + 0.5) / corners, wide = round ? 0.5 : std::sqrt(0.5);
      const Vec3 at =
          turned({wide * body.size.x * std::cos(a), 0, wide * body.size.z * std::sin(a)}, body.turn_deg);
      for (const double high : {0.0, body.size.y}) hull.push_back(body.place + at + Vec3{0, high, 0});
    }
    add(hull);
  }
  return list;
}

}  // namespace

namespace {

/// Lumens for each watt that a lamp radiates: tungsten and discharge 27, daylight 100, white LEDs 300 (common
/// practice, no source).
double lumens_a_watt(const Project& project, const Light& light) {
  if (light.daylight) return 100.0;
  const LightKit* spec = by_id(project.light_kits, light.kit);
  return spec && spec->hot ? 27.0 : 300.0;
}

/// Straight from a lamp to something that is turned to it, through its grid and by its measured beam; doors and
/// what stands between are left out. On the axis of a disc exact, else within a few per cent from its own size on.
double lux_from(const Light& light, const Vec3& place) {
  const Vec3 to = place - light.place;
  const double far = std::max(1e-3, length(to));
  const Facing frame = facing(light.place, light.aim, light.roll_deg);
  const double ahead = std::clamp(dot(to, frame.ahead) / far, -1.0, 1.0);
  const bool face = light.shape == LightShape::rectangle || light.shape == LightShape::disc;
  double candela = light.candela() * (face ? std::max(0.0, ahead) : 1.0);
  if (light.distribution && (!face || ahead > 0.0)) {
    const double measured = light.distribution->lumens(), down = dot(frame.ahead, Vec3{0, -1, 0});
    const double given = light.distribution->candela_at(
        degrees(std::acos(ahead)), degrees(std::atan2(dot(to, frame.up), dot(to, frame.right))));
    if (measured > 0.0)
      candela = given * light.lumens * light.transmittance * light.gels_let_through() * light.dimmer / measured *
                light.distribution->tilt_share(degrees(std::acos(std::clamp(down, -1.0, 1.0))));
  }
  if (light.grid_deg) candela *= grid_share(2.0 * std::tan(radians(*light.grid_deg) / 2.0), ahead);
  return candela / (far * far + (face ? light.area() / pi : 0.0));
}

LampsThere lamps_there(const Project& project, const Shot& shot, const Vec3& place, double set_time) {
  LampsThere out;
  const Setup* setup = by_id(project.setups, shot.setup);
  if (!setup) return out;
  for (const Light& steady : setup->lights) {
    const Light light = light_at(steady, shot, set_time);
    if (!light.on) continue;
    const double lux = lux_from(light, place);
    out.illuminance_lx += lux, out.irradiance += lux / lumens_a_watt(project, light);
  }
  return out;
}

}  // namespace

EffectPlace effect_place(const Project& project, const Shot& shot, const Vec3& place, double set_time) {
  EffectPlace about;
  about.lamps = lamps_there(project, shot, place, set_time);
  about.solids = [&project, &shot, set_time] { return solids_of(project, shot, set_time); };  // asked for at once
  for (std::size_t k = 0; k < shot.products.size(); ++k) {
    const Product* product = by_id(project.products, shot.products[k].product);
    if (!product) continue;
    const ProductPose pose = product_at(project, shot, shot.products[k], set_time);
    const Vec3 foot = pose.world({0, 0, 0});
    const double lean = std::abs(std::remainder(pose.tilt_deg, 360.0));
    if (lean >= 90.0) continue;  // it holds nothing
    if (auto inner = inner_side(*product); !inner.empty()) {
      about.vessels.push_back({static_cast<int>(k), foot, std::move(inner), liquid_level(*product),
                               pose.direction({0, 1, 0}), lean > 1.0 ? lean : 0.0});
      continue;
    }
    if (lean > 1.0) continue;
    const double top = height_span(*product).second;
    if (foot.y + top < place.y) about.tops.push_back({foot + Vec3{0, top, 0}, radius_at(*product, top - 1e-4)});
  }
  return about;
}

std::string effect_name(const Effect& effect) {
  if (!effect.name.empty()) return effect.name;
  const EffectKind* kind = effect_kind(effect.kind);
  return kind ? in_words(kind->name.c_str()) : effect.id;
}

namespace {

/// How what spins looks to the camera at its fastest: from frame to frame, and in one.
void seen_turning(const Project& project, const Shot& shot, const EffectAsked& ask, EffectOutcome& outcome) {
  const auto rpm = outcome.number("rpm");
  const auto marks = ask.measures.find("marks");
  if (!rpm || marks == ask.measures.end()) return;
  const double round = marks->second.front(), rate = shot_optics(project, shot).rate;
  const auto seen = strobe({*rpm, round, rate, project.timeline_rate});
  if (!seen) return;
  outcome.numbers.push_back({"seen_rpm", "", seen->screen_rpm, "on screen, at its fastest; below 0: backward"});
  if (std::abs(seen->apparent_degrees - seen->degrees_per_frame) > 1e-6)
    outcome.notes.push_back(
        seen->apparent_degrees < 0.0
            ? said("At its fastest it seems to turn backward: another rate, or other marks.")
            : said("At its fastest it seems slower than it is: it comes round by {:.0f} degrees a frame.",
                   seen->degrees_per_frame));
  if (6.0 * *rpm * shot.camera->shutter_time > 180.0 / round)
    outcome.notes.push_back(
        said("Its marks run into one another: it turns {:.0f} degrees while the shutter is open.",
             6.0 * *rpm * shot.camera->shutter_time));
}

/// What a product is as a thing that falls: the points of it that lie farthest out in so many directions. Nothing
/// of one without a body.
std::optional<EffectThing> thing_of(const Product& product) {
  constexpr int directions = 150;
  const auto [low, high] = height_span(product);
  const Vec3 middle{0, 0.5 * (low + high), 0};
  RigidSolid all;
  for (const Part& part : product.parts)
    for (const ProfilePoint& point : part.profile)
      for (const RimPoint& edge : rim(part, point, 24)) all.push_back(edge.at - middle);
  if (all.size() < 4 || high - low < 1e-5 || widest_reach(product) < 1e-5) return std::nullopt;
  EffectThing thing;
  std::vector<char> kept(all.size());
  for (const Vec3& p : all)
    thing.half = {std::max(thing.half.x, std::abs(p.x)), std::max(thing.half.y, std::abs(p.y)),
                  std::max(thing.half.z, std::abs(p.z))};
  for (int k = 0; k < directions; ++k) {  // evenly over the sphere (Fibonacci's lattice)
    const double y = 1.0 - 2.0 * (k + 0.5) / directions, around = pi * (3.0 - std::sqrt(5.0)) * k;
    const Vec3 out{std::sqrt(1.0 - y * y) * std::cos(around), y, std::sqrt(1.0 - y * y) * std::sin(around)};
    const auto farthest =
        std::ranges::max_element(all, {}, [&](const Vec3& p) { return dot(p, out); }) - all.begin();
    if (!std::exchange(kept[static_cast<std::size_t>(farthest)], 1))
      thing.hull.push_back(all[static_cast<std::size_t>(farthest)]);
  }
  return thing;
}

}  // namespace

Expected<EffectOutcome> outcome_of(const Project& project, const Shot& shot, const Effect& effect) {
  const EffectKind* kind = effect_kind(effect.kind);
  if (!kind) return fail("kind", "is not known", "give one of the kinds");
  auto measures = measures_of(*kind, effect.measures, effect.liquid);
  if (!measures) return tl::unexpected(measures.error());
  EffectAsked ask{std::move(*measures), effect.place, effect.at, static_cast<std::uint64_t>(effect.seed),
                  effect_place(project, shot, effect.place, effect.at)};
  if (!effect.product.empty()) {
    const Product* product = by_id(project.products, effect.product);
    ask.thing = product ? thing_of(*product) : std::nullopt;
    if (!ask.thing) return fail("product", "has no form yet", "give it parts on the Brief, or leave it out");
  }
  auto outcome = kind->outcome(ask);
  if (outcome && shot.camera) seen_turning(project, shot, ask, *outcome);
  return outcome;
}

std::optional<double> measure_of(const Effect& effect, const std::string& key) {
  const EffectKind* kind = effect_kind(effect.kind);
  const auto all = kind ? measures_of(*kind, effect.measures, effect.liquid) : fail("kind", "is not known");
  if (!all) return std::nullopt;
  const auto found = all->find(key);
  return found == all->end() ? std::nullopt : std::optional(found->second.front());
}

std::vector<Peril> ToldEffect::perils() const {
  std::vector<Peril> perils = outcome ? outcome->perils : std::vector<Peril>{};
  if (effect->kind == "flame") perils.push_back(Peril::flame);
  return perils;
}

ToldEffects told_effects(const Project& project, const Shot& shot) {
  ToldEffects all;
  for (const Effect& effect : shot.effects)
    all.push_back({&effect, outcome_of(project, shot, effect), by_id(project.products, effect.product)});
  return all;
}

std::optional<Product> filled_by(const ToldEffects& effects, const Product& product, std::size_t thing, double t) {
  double volume = 0.0, cavity = 0.0, foam = 0.0;
  Material material;
  for (const ToldEffect& told : effects)
    if (told.outcome && told.outcome->poured && told.outcome->into == static_cast<int>(thing)) {
      volume += told.outcome->poured(t);
      if (told.outcome->cavity && !told.outcome->cavity_at) cavity = std::max(cavity, told.outcome->cavity(t));
      if (told.outcome->foam) foam += told.outcome->foam(t);
      material = effect_material(*told.effect, *told.outcome, true);
    }
  if (volume <= 0.0) return std::nullopt;
  const auto inner = inner_side(product);
  const auto after = fill({inner, liquid_level(product), volume, 1.0});
  if (!after) return std::nullopt;
  Product filled = with_level(product, after->level_after, material);
  if (const auto head = foam > 0.0 ? fill({inner, after->level_after, foam, 1.0}) : fail("foam", "is none");
      head && head->level_after > after->level_after + 1e-4) {
    constexpr double sinks_in = 2e-4;  // so that its foot is not one plane with the liquid's surface
    Material bubbles;
    bubbles.kind = MaterialKind::matte, bubbles.colour = {0.9, 0.87, 0.78};
    return with_head(std::move(filled), after->level_after - sinks_in, head->level_after, bubbles);
  }
  return cavity > 0.0 ? with_cavity(std::move(filled), cavity) : filled;
}

namespace {

/// The product of a shot whose axis stands nearest to a place, on the level.
std::optional<std::size_t> nearest_product(const Project& project, const Shot& shot, const Vec3& place, double t) {
  std::optional<std::size_t> nearest;
  double least = 0.0;
  for (std::size_t k = 0; k < shot.products.size(); ++k) {
    const Vec3 at = product_at(project, shot, shot.products[k], t).place;
    const double away = std::hypot(at.x - place.x, at.z - place.z);
    if (!nearest || away < least) nearest = k, least = away;
  }
  return nearest;
}

}  // namespace

std::optional<Product> misted_by(const Project& project, const Shot& shot, const ToldEffects& effects,
                                 const Product& product, std::size_t thing, double t) {
  std::optional<Product> out;
  for (const ToldEffect& told : effects) {
    const auto beads = told.outcome && told.outcome->beads ? told.outcome->beads(t) : std::nullopt;
    if (!beads || nearest_product(project, shot, told.effect->place, told.effect->at) != thing) continue;
    if (!out) out = product;
    for (Part& part : out->parts)
      if (part.material.kind != MaterialKind::liquid && !part.material.cover)
        part.material.cover = Cover{CoverKind::droplets, beads->share, beads->size};
  }
  return out;
}

namespace {

/// A product's meshes wherever an effect has it, all of them in one, at each of these moments.
std::vector<Mesh> meshes_of_things(const Product& product, const EffectBody& body, double middle,
                                   const std::vector<double>& moments, std::vector<Medium>& media) {
  std::vector<Mesh> list;
  const auto there = body.at(middle, middle);
  if (there.empty()) return list;
  const auto [low, high] = height_span(product);
  const Vec3 centre{0, 0.5 * (low + high), 0};
  const bool open = !inner_side(product).empty();
  for (Mesh& one : product_meshes(product, media, there.size() > 10 ? 16 : 48)) {
    if (open && one.material.kind == MaterialKind::liquid) continue;  // an open vessel falls empty
    const std::vector<Vec3f> own = std::move(one.positions.front()), normals = std::move(one.normals);
    const std::vector<std::uint32_t> triangles = std::move(one.triangles);
    const auto uvs = std::move(one.uvs);
    one.positions.clear(), one.normals.clear(), one.triangles.clear(), one.uvs.clear(), one.own.clear();
    const auto on_axes = [](const EffectShape& s, const Vec3& v) {
      return s.right * v.x + s.up * v.y + cross(s.right, s.up) * v.z;
    };
    for (const double t : moments) {
      std::vector<Vec3f>& at = one.positions.emplace_back();
      for (const EffectShape& s : body.at(middle, t))
        for (const Vec3f& p : own) at.push_back((s.place + on_axes(s, p.as<double>() - centre)).as<float>());
    }
    for (const EffectShape& s : there) {
      const auto first = static_cast<std::uint32_t>(one.normals.size());
      for (const Vec3f& n : normals) one.normals.push_back(on_axes(s, n.as<double>()).as<float>());
      for (const std::uint32_t corner : triangles) one.triangles.push_back(first + corner);
      one.uvs.insert(one.uvs.end(), uvs.begin(), uvs.end());
    }
    one.axis = on_axes(there.front(), one.axis.as<double>()).as<float>();
    one.origin = there.front().place.as<float>();
    list.push_back(std::move(one));
  }
  return list;
}

}  // namespace

std::vector<Mesh> effect_meshes(const ToldEffects& effects, double middle, const std::vector<double>& moments,
                                std::vector<Medium>& media) {
  std::vector<Mesh> list;
  for (std::size_t e = 0; e < effects.size(); ++e) {
    if (!effects[e].outcome) continue;
    for (const EffectBody& body : effects[e].outcome->bodies) {
      if (body.form == EffectForm::thing && effects[e].product) {
        for (Mesh& mesh : meshes_of_things(*effects[e].product, body, middle, moments, media)) {
          mesh.role = Role::effect, mesh.thing = static_cast<int>(e);
          list.push_back(std::move(mesh));
        }
        continue;
      }
      const auto mesh_at = [&](double t) {
        Mesh mesh;
        const auto there = body.at(middle, t);
        for (const EffectShape& s : there) {
          if (body.form == EffectForm::ball) add_ball(mesh, s.place, body.half.x, there.size() > 60 ? 6 : 12);
          if (body.form == EffectForm::box) add_box(mesh, s.place, body.half, s.right, s.up);
          if (body.form == EffectForm::thread) add_thread(mesh, s.spine);
          if (body.form == EffectForm::turned) add_turned(mesh, s.place, s.outline);
        }
        return mesh;
      };
      Mesh mesh = mesh_at(middle);
      if (mesh.positions.empty()) continue;
      mesh.positions.clear();
      for (const double t : moments) mesh.positions.push_back(std::move(mesh_at(t).positions.front()));
      mesh.role = Role::effect, mesh.thing = static_cast<int>(e);
      mesh.material = effect_material(*effects[e].effect, *effects[e].outcome, body.liquid);
      if (mesh.material.is_clear()) {
        mesh.medium = static_cast<int>(media.size());
        media.push_back({static_cast<float>(mesh.material.ior), mesh.material.absorption.as<float>(), 1});
      }
      list.push_back(std::move(mesh));
    }
  }
  return list;
}

std::vector<Cloud> effect_clouds(const ToldEffects& effects, double t) {
  std::vector<Cloud> list;
  for (const ToldEffect& told : effects)
    if (told.outcome && told.outcome->cloud)
      if (auto cloud = told.outcome->cloud(t)) list.push_back(*std::move(cloud));
  return list;
}

std::optional<double> wanted_on_screen(const Project& project, std::size_t shot, const EffectNeed& need) {
  if (need.screen) return need.screen;
  if (!need.beat || project.beats_per_minute.value_or(0.0) <= 0.0) return std::nullopt;
  return *need.beat * 60.0 / *project.beats_per_minute - project.starts_at(shot);
}

Json begun_effect(const Project& project, std::size_t index, const EffectKind& kind) {
  const Shot& shot = *project.shots[index];
  Effect begun;
  begun.kind = kind.id;
  begun.at = rounded(shot.set_time() / 3.0, 4);
  if (kind.pours) begun.liquid = "water";
  begun.place = {0, 0.3, 0};
  if (!shot.products.empty())
    if (const Product* product = by_id(project.products, shot.products.front().product))
      begun.place = product_at(project, shot, shot.products.front(), begun.at)
                        .world({0, height_span(*product).second + 0.15, 0});
  if (kind.id == "swing") begun.place.y += measure_of(begun, "length").value_or(0.0);
  auto outcome = outcome_of(project, shot, begun);
  if (outcome && kind.id == "pour") {  // beside it by as much as the stream goes aside
    begun.place.x -= outcome->number("reach").value_or(0.0);
    outcome = outcome_of(project, shot, begun);
  }
  const auto taken = [&](const std::string& id) {
    return std::any_of(shot.effects.begin(), shot.effects.end(), [&](const Effect& e) { return e.id == id; });
  };
  std::string id = kind.id;
  for (int n = 2; taken(id); ++n) id = fmt::format("{}-{}", kind.id, n);
  Json effect{{"id", id},
              {"kind", kind.id},
              {"at", begun.at},
              {"place", {rounded(begun.place.x, 4), rounded(begun.place.y, 4), rounded(begun.place.z, 4)}}};
  if (kind.pours) effect["liquid"] = begun.liquid;
  const EffectEvent* main = outcome ? outcome->main_event() : nullptr;
  if (!main) return effect;
  EffectNeed need{main->name, {}, {}};
  const double middle = shot.screen_time / 2, beats = project.beats_per_minute.value_or(0.0);
  if (beats > 0.0)
    need.beat = std::round((project.starts_at(index) + middle) * beats / 60.0);
  else
    need.screen = rounded(middle, 4);
  effect["needs"] = {{"event", need.event},
                     {need.beat ? "beat" : "screen", need.beat ? *need.beat : *need.screen}};
  const double wanted = *wanted_on_screen(project, index, need);
  effect["at"] = rounded(std::max(0.0, begun.at + shot.clock.set_at(wanted) - main->at), 5);
  return effect;
}

}  // namespace cinnabar
