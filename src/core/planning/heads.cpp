#include "cinnabar/planning/heads.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"

namespace cinnabar {
namespace {

constexpr double beside = 0.15;      // of an arm's foot to the surface's edge; common practice, no source
constexpr double comes_down = 0.03;  // of what stands on the surface; own measure
constexpr double spare = 1e-9;

double out_of(const Head& head) { return std::hypot(head.place.x - head.foot.x, head.place.z - head.foot.z); }
bool up_to(const Support& s, const Head& head) { return !s.reach || head.place.y <= *s.reach + spare; }
bool out_to(const Support& s, const Head& head) {
  return !head.hangs || s.kind != SupportKind::arm || !s.length || out_of(head) <= *s.length + spare;
}

}  // namespace

std::vector<Head> heads_of(const Setup& setup) {
  std::vector<Head> heads;
  const auto add = [&](SetThing::Kind kind, std::size_t index, const Vec3& place) {
    Head head{{kind, index}, place, {place.x, setup.room.place.y, place.z}, false};
    if (const auto& s = setup.surface;
        s && std::abs(place.x) < s->width / 2 && std::abs(place.z) < s->depth / 2)  // from the nearer side
      head.hangs = true, head.foot.x = std::copysign(s->width / 2 + beside, place.x);
    heads.push_back(head);
  };
  // What comes down to the surface stands on it.
  const auto unless_stood = [&](double lowest) {
    if (heads.back().hangs && lowest < comes_down) heads.pop_back();
  };
  for (std::size_t i = 0; i < setup.lights.size(); ++i) {
    const Light& light = setup.lights[i];
    if (light.daylight) continue;
    add(SetThing::Kind::light, i, light.place);
    const Facing f = facing(light.place, light.aim, light.roll_deg);
    const double round = light.shape == LightShape::tube ? light.length / 2 : light.radius;
    unless_stood(light.place.y - (light.shape == LightShape::rectangle
                                      ? std::abs(f.right.y) * light.width / 2 + std::abs(f.up.y) * light.height / 2
                                      : round));
  }
  for (std::size_t i = 0; i < setup.cards.size(); ++i) {
    const Card& card = setup.cards[i];
    add(SetThing::Kind::card, i, card.place);
    const Facing f = facing(card.place, card.aim, card.roll_deg);
    unless_stood(card.place.y - std::abs(f.right.y) * card.width / 2 - std::abs(f.up.y) * card.height / 2);
  }
  return heads;
}

std::vector<const Support*> holders_of(const Project& project) {
  std::vector<const Support*> list;
  for (const auto& s : project.supports)
    if (s->holding.owned && (s->kind == SupportKind::stand || s->kind == SupportKind::arm))
      list.insert(list.end(), static_cast<std::size_t>(std::clamp(s->holding.count, 0.0, 1000.0)), s.get());
  return list;
}

bool has_arms(const std::vector<const Support*>& holders) {
  return std::any_of(holders.begin(), holders.end(), [](const Support* s) { return s->kind == SupportKind::arm; });
}

std::vector<const Support*> held_on(const std::vector<Head>& heads, const std::vector<const Support*>& holders) {
  std::vector<const Support*> on(heads.size(), nullptr);
  std::vector<const Support*> free = holders;
  // The lowest first, stands before arms.
  std::stable_sort(free.begin(), free.end(), [](const Support* a, const Support* b) {
    const auto rank = [](const Support* s) {
      return std::pair(s->kind == SupportKind::arm, s->reach.value_or(unbounded));
    };
    return rank(a) < rank(b);
  });
  const bool arms = has_arms(holders);
  std::vector<std::size_t> order(heads.size());
  std::iota(order.begin(), order.end(), std::size_t{0});
  std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
    return std::pair(!heads[a].hangs, -heads[a].place.y) < std::pair(!heads[b].hangs, -heads[b].place.y);
  });
  for (const std::size_t k : order) {
    const Head& head = heads[k];
    const auto fits = std::find_if(free.begin(), free.end(), [&](const Support* s) {
      return up_to(*s, head) && out_to(*s, head) && (!head.hangs || !arms || s->kind == SupportKind::arm);
    });
    if (fits == free.end()) continue;
    on[k] = *fits;
    free.erase(fits);
  }
  return on;
}

std::string why_unheld(const Head& head, const std::vector<const Support*>& holders, Units units) {
  const bool arms = has_arms(holders);
  const auto could = [&](const Support* s) { return !head.hangs || !arms || s->kind == SupportKind::arm; };
  const auto any = [&](auto&& fits) {
    return std::any_of(holders.begin(), holders.end(),
                       [&](const Support* s) { return could(s) && fits(*s, head); });
  };
  if (!any(up_to)) return said("none reaches {} up", length_text(head.place.y, units));
  if (!any([](const Support& s, const Head& h) { return up_to(s, h) && out_to(s, h); }))
    return said("no arm holds {} out", length_text(out_of(head), units));
  return said("none is left for it");
}

}  // namespace cinnabar
