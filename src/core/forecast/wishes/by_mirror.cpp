// The wish that nothing bright is mirrored at a place: what stands on its family of angles goes round, up, or
// behind a black card.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/wishes/granting.h"
#include "cinnabar/forecast/wishes/wish_stage.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/render/geometry.h"
#include "cinnabar/render/mirrored.h"

namespace cinnabar {
namespace {

constexpr double bright_from = 0.3;  // what a card gives back that is told as a reflection; own measure

/// Something bright, or gear, that is mirrored at a place.
struct SeenThere {
  Role role;
  std::size_t thing;
  double distance;
  AngleFamily family;
};
struct LookThere {
  bool seen = false;  ///< the lens sees the place at one moment at least
  std::optional<SeenThere> first;
};

bool is_unwanted(const Setup& setup, const ThrownLine& line) {
  if (!line.met || line.thing < 0) return false;
  const auto at = static_cast<std::size_t>(line.thing);
  if (line.role == Role::light) return line.lit_face;
  if (line.role == Role::card) return line.reflects >= bright_from;
  return line.role == Role::gear && at < setup.gear.size() && !setup.gear[at].dressed;
}

/// At the start, the middle and the end of a shot in which anything moves.
LookThere look_there(const Project& project, const Shot& shot, const Setup& setup, const Vec3& own) {
  LookThere out;
  const double end = shot.tracks.empty() ? 0.0 : shot.set_time();
  for (const double t : end > 0.0 ? std::vector<double>{0.0, end / 2, end} : std::vector<double>{0.0}) {
    const StagedWorld world = stage(project, shot, t, {.motion = false});
    const Geometry geometry(world);
    auto family = angle_family(geometry, world.camera.middle_pose(),
                               product_at(project, shot, shot.products.front(), t).world(own), free_radius, 8);
    if (!family) continue;
    out.seen = true;
    for (const ThrownLine& line : family->lines)
      if (is_unwanted(setup, line)) {
        out.first = SeenThere{line.role, static_cast<std::size_t>(line.thing), static_cast<double>(line.distance),
                              *std::move(family)};
        return out;
      }
  }
  return out;
}

bool in_room(const Room& room, const Vec3& at) {
  return !room.has_walls() ||
         (std::abs(at.x - room.place.x) < *room.width / 2 && std::abs(at.z - room.place.z) < *room.depth / 2 &&
          at.y < room.place.y + *room.height);
}

/// A black card across the family, so far from the place, as large as it is there and a hand's breadth more.
Json card_across(const AngleFamily& family, double away, double margin) {
  const MirroredLine& middle = family.lines.front().line;
  const Vec3 place = middle.from + middle.along * away;
  const Facing f = facing(place, middle.from);
  double wide = 0, high = 0;
  for (const ThrownLine& line : family.lines) {
    const double ahead = dot(line.line.along, middle.along);
    if (ahead < 0.2) continue;
    const Vec3 there = line.line.from + line.line.along * (away / ahead) - place;
    wide = std::max(wide, std::abs(dot(there, f.right))), high = std::max(high, std::abs(dot(there, f.up)));
  }
  const auto side = [margin](double half) { return std::ceil((2 * half + margin) * 100) / 100; };
  return {{"name", said("Black card")}, {"place", point(place)}, {"aim", point(middle.from)},
          {"width", side(wide)},        {"height", side(high)},  {"material", sheet_material("black")}};
}

}  // namespace

Expected<Grants> grant_no_mirror(const WishBench& b, const Wish& w) {
  const WishStage s(b.document, b.shot);
  if (!s.setup || !s.shot.camera || s.shot.products.empty())
    return fail("no-mirror", "has no set-up, camera or product", "give the shot all three");
  const LookThere now = look_there(s.project, s.shot, *s.setup, *w.at);
  if (!now.seen)
    return fail("no-mirror at", "is not a place of the first product that the camera sees",
                "give one that it does, in the product's own metres");
  Grants out;
  if (!now.first) {
    out.list.push_back({said("It is so already"), {}, 0.0, true});
    return out;
  }
  const SeenThere& seen = *now.first;
  const char* list = seen.role == Role::light ? "lights" : seen.role == Role::card ? "cards" : "gear";
  const std::string path = fmt::format("{}/{}/{}", s.setup_path, list, seen.thing);
  std::string name;
  Vec3 place, aim;
  bool aims = true, moves = true;
  if (seen.role == Role::light) {
    const Light& l = s.setup->lights[seen.thing];
    name = name_or(l.name, l.id), place = l.place, aim = l.aim, moves = seen.thing < s.setup->own_lights();
  } else if (seen.role == Role::card) {
    const Card& c = s.setup->cards[seen.thing];
    name = name_or(c.name, c.id), place = c.place, aim = c.aim;
  } else {
    const Gear& g = s.setup->gear[seen.thing];
    name = name_or(g.name, g.id), place = g.place, aims = false;
  }
  out.why = said("{} is mirrored there", name);
  out.short_of = 1.0;
  if (b.look_only) return out;
  const auto grants = [&](const Document& after) {
    ProjectReader reader;
    const Project then = reader.read(after);
    const LookThere look = look_there(then, *then.shots[b.shot], *by_id(then.setups, s.setup->id), *w.at);
    return look.seen && !look.first;
  };
  const auto stopped = [&] { return b.cancel && b.cancel->load(); };
  const auto try_one = [&](const Vec3& to, const Vec3& aim_to, const std::string& title, double by) {
    if (!in_room(s.setup->room, to)) return false;
    Values changes{{path + "/place", point(to)}};
    if (aims && !(aim_to == aim)) changes.push_back({path + "/aim", point(aim_to)});
    const auto after = with_values(b.document, changes);
    if (!after || !grants(*after)) return false;
    out.list.push_back({title, std::move(changes), by, true});
    return true;
  };
  const Vec3 centre = product_at(s.project, s.shot, s.shot.products.front(), 0.0).place;
  for (const double way : {1.0, -1.0})  // round the product, the least turn to either side
    for (int step = 1; moves && step <= 40 && !stopped(); ++step) {
      const double turn = way * 3.0 * step;
      if (try_one(centre + turned(place - centre, turn), centre + turned(aim - centre, turn),
                  said("Carry {} {} degrees to the {} round the product", name, fixed_text(std::abs(turn), 0),
                       turn > 0 ? "right" : "left"),
                  std::abs(turn)))
        break;
    }
  for (int step = 1; moves && aims && step <= 20 && !stopped(); ++step) {
    const Vec3 to = place + Vec3{0, 0.05 * step, 0};
    if (try_one(to, aim, said("Raise {} from {} to {}", name, s.len(place.y), s.len(to.y)), 0.05 * step)) break;
  }
  for (const double share : {0.7, 0.5, 0.35})
    for (const double margin : {0.04, 0.12}) {
      if (out.list.size() >= 3 || stopped()) return out;
      const Json card = card_across(seen.family, share * seen.distance, margin);
      const auto after = with_more(s, b.document, "cards", "black-card", card);
      if (!after || !grants(*after)) continue;
      out.list.push_back({said("Stand a black card, {} by {}, before {}, {} from the product",
                               s.len(card["width"]), s.len(card["height"]), name, s.len(share * seen.distance)),
                          {{s.setup_path + "/cards", value_at(*after, s.setup_path + "/cards")}},
                          share * seen.distance,
                          true});
      return out;
    }
  return out;
}

}  // namespace cinnabar
