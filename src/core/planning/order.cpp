#include "cinnabar/planning/order.h"

#include <algorithm>
#include <limits>
#include <map>
#include <numeric>
#include <set>
#include <string_view>

namespace cinnabar {
namespace {

/// Shots of one set-up, clean ones before those that leave traces.
struct Group {
  const Setup* setup;
  std::vector<std::size_t> shots;
  bool traces = false, hero = false;
};

std::vector<Group> groups_of(const Project& p) {
  std::vector<Group> groups;
  const auto hero = hero_shot(p);
  for (std::size_t i = 0; i < p.shots.size(); ++i) {
    const Setup* setup = by_id(p.setups, p.shots[i]->setup);
    auto group = std::find_if(groups.begin(), groups.end(), [&](const Group& g) { return g.setup == setup; });
    if (group == groups.end()) group = groups.insert(groups.end(), Group{setup, {}});
    group->shots.push_back(i);
    group->traces = group->traces || leaves_traces(*p.shots[i]);
    group->hero = group->hero || hero == i;
  }
  for (Group& g : groups)
    std::stable_sort(g.shots.begin(), g.shots.end(), [&](std::size_t a, std::size_t b) {
      const auto rank = [&](std::size_t i) { return leaves_traces(*p.shots[i]) ? 2 : hero == i ? 0 : 1; };
      return rank(a) < rank(b);
    });
  return groups;
}

int moved(const Group& a, const Group& b) {
  static const Setup bare;
  return things_moved(a.setup ? *a.setup : bare, b.setup ? *b.setup : bare);
}

/// The way through all groups that moves least, from the first of them where `fixed`.
std::vector<std::size_t> least_moves(const std::vector<Group>& g, bool fixed) {
  const std::size_t n = g.size();
  std::vector<std::size_t> way;
  if (n == 0) return way;
  if (n > 12) {
    std::set<std::size_t> left;
    for (std::size_t i = 1; i < n; ++i) left.insert(i);
    way.push_back(0);
    while (!left.empty()) {
      const auto next = *std::min_element(left.begin(), left.end(), [&](std::size_t a, std::size_t b) {
        return moved(g[way.back()], g[a]) < moved(g[way.back()], g[b]);
      });
      way.push_back(next);
      left.erase(next);
    }
    return way;
  }
  constexpr int far = std::numeric_limits<int>::max() / 2;
  const std::size_t all = std::size_t{1} << n;
  std::vector<std::vector<int>> cost(all, std::vector<int>(n, far));
  std::vector<std::vector<std::size_t>> before(all, std::vector<std::size_t>(n, n));
  for (std::size_t i = 0; i < n; ++i)
    if (!fixed || i == 0) cost[std::size_t{1} << i][i] = 0;
  for (std::size_t seen = 1; seen < all; ++seen)
    for (std::size_t last = 0; last < n; ++last) {
      if (cost[seen][last] >= far) continue;
      for (std::size_t next = 0; next < n; ++next) {
        const std::size_t bit = std::size_t{1} << next;
        if (seen & bit) continue;
        const int sum = cost[seen][last] + moved(g[last], g[next]);
        // Of ways that move as little, the one nearer to the story.
        if (sum <= cost[seen | bit][next]) cost[seen | bit][next] = sum, before[seen | bit][next] = last;
      }
    }
  std::size_t seen = all - 1;
  std::size_t last = n - 1;
  for (std::size_t k = n; k-- > 0;)
    if (cost[seen][k] < cost[seen][last]) last = k;
  while (last < n) {
    way.push_back(last);
    const std::size_t from = before[seen][last];
    seen &= ~(std::size_t{1} << last);
    last = from;
  }
  std::reverse(way.begin(), way.end());
  return way;
}

}  // namespace

bool leaves_traces(const Shot& shot) {
  static const std::set<std::string> moves{"pour", "drop", "splash", "mist", "falling", "layers", "burst"};
  return !shot.uses.empty() || moves.contains(shot.move);
}

std::optional<std::size_t> hero_shot(const Project& p) {
  const auto first = [&](auto is) -> std::optional<std::size_t> {
    for (std::size_t i = 0; i < p.shots.size(); ++i)
      if (is(*p.shots[i])) return i;
    return std::nullopt;
  };
  if (const auto named = first([](const Shot& s) { return s.role == ShotRole::hero; })) return named;
  if (const auto wide = first([](const Shot& s) { return s.size == ShotSize::wide; })) return wide;
  return first([](const Shot&) { return true; });
}

int things_moved(const Setup& from, const Setup& to) {
  int count = 0;
  const auto differ = [&](const auto& here, const auto& there, auto same) {
    for (const auto& a : here) {
      const auto b = std::find_if(there.begin(), there.end(), [&](const auto& x) { return x.id == a.id; });
      count += b == there.end() || !same(a, *b) ? 1 : 0;  // carried off, or moved
    }
    for (const auto& b : there)
      count += std::none_of(here.begin(), here.end(), [&](const auto& x) { return x.id == b.id; }) ? 1 : 0;
  };
  differ(from.lights, to.lights, [](const Light& a, const Light& b) {
    return a.kit == b.kit && a.place == b.place && a.aim == b.aim && a.shape == b.shape &&
           a.modifier == b.modifier;
  });
  differ(from.cards, to.cards, [](const Card& a, const Card& b) {
    return a.place == b.place && a.width == b.width && a.height == b.height && a.material.kind == b.material.kind;
  });
  differ(from.gear, to.gear, [](const Gear& a, const Gear& b) {
    return a.place == b.place && a.size == b.size && a.form == b.form && a.material.kind == b.material.kind;
  });
  const auto& s = from.surface;
  const auto& t = to.surface;
  count += s.has_value() != t.has_value() || (s && (s->width != t->width || s->material.kind != t->material.kind ||
                                                    !(s->material.colour == t->material.colour)))
               ? 1
               : 0;
  count += from.backdrop.kind != to.backdrop.kind || from.backdrop.distance != to.backdrop.distance ||
                   from.backdrop.material.kind != to.backdrop.material.kind ||
                   !(from.backdrop.material.colour == to.backdrop.material.colour)
               ? 1
               : 0;
  return count;
}

std::vector<std::size_t> shooting_order(const Project& p) {
  std::vector<std::size_t> order(p.shots.size());
  std::iota(order.begin(), order.end(), std::size_t{0});
  const auto rule = p.rule<OrderRule>();
  if (rule == OrderRule::story) return order;
  std::vector<Group> clean, traces;
  for (Group& g : groups_of(p)) (g.traces && !g.hero ? traces : clean).push_back(std::move(g));
  const bool hero_first = rule == OrderRule::hero_first;
  if (hero_first) std::stable_partition(clean.begin(), clean.end(), [](const Group& g) { return g.hero; });
  order.clear();
  const auto take = [&](std::vector<Group>& groups, bool fixed) {
    for (const std::size_t k : least_moves(groups, fixed))
      order.insert(order.end(), groups[k].shots.begin(), groups[k].shots.end());
  };
  take(clean, hero_first);
  if (!traces.empty() && !order.empty()) {
    // What is left begins with what stands nearest to the last set-up.
    static const Setup bare;
    const Setup* last = by_id(p.setups, p.shots[order.back()]->setup);
    std::stable_sort(traces.begin(), traces.end(), [&](const Group& a, const Group& b) {
      const auto way = [&](const Group& g) {
        return things_moved(last ? *last : bare, g.setup ? *g.setup : bare);
      };
      return way(a) < way(b);
    });
  }
  take(traces, true);
  return order;
}

int things_moved(const Project& p, const std::vector<std::size_t>& order) {
  static const Setup bare;
  int sum = 0;
  for (std::size_t i = 1; i < order.size(); ++i) {
    const Setup *a = by_id(p.setups, p.shots[order[i - 1]]->setup), *b = by_id(p.setups, p.shots[order[i]]->setup);
    if (a != b) sum += things_moved(a ? *a : bare, b ? *b : bare);
  }
  return sum;
}

FloorChanges floor_changes(const Project& p) {
  std::map<std::string_view, const Setup*> by_name;
  for (const auto& setup : p.setups) by_name.emplace(setup->id, setup.get());
  // What stands for a set-up: the one that it varies, as long as nothing is carried for it.
  std::map<std::string_view, std::string_view> floor;
  for (const auto& setup : p.setups) {
    const Setup* same = setup.get();
    for (std::size_t k = 0; k < p.setups.size() && !same->of.empty(); ++k) {
      const auto of = by_name.find(same->of);
      if (of == by_name.end() || things_moved(*of->second, *same) > 0) break;
      same = of->second;
    }
    floor.emplace(setup->id, same->id);
  }
  FloorChanges out;
  std::set<std::string_view> used;
  std::string_view last;
  for (const auto& shot : p.shots) {
    const auto known = floor.find(shot->setup);
    const std::string_view here = known == floor.end() ? std::string_view(shot->setup) : known->second;
    out.as_told += used.empty() || here != last ? 1 : 0;
    used.insert(here);
    last = here;
  }
  out.grouped = static_cast<int>(used.size());
  return out;
}

}  // namespace cinnabar
