#include "cinnabar/effects/flown.h"

#include <algorithm>

namespace cinnabar {
namespace {

struct Going {
  Vec3 place, velocity;
};

Going stepped(const Going& from, double terminal, double h) {
  const auto pull = [&](const Vec3& v) {
    const Vec3 down{0, -standard_gravity, 0};
    return terminal > 0.0 ? down - v * (standard_gravity * length(v) / (terminal * terminal)) : down;
  };
  const Vec3 k1 = pull(from.velocity), k2 = pull(from.velocity + k1 * (h / 2)),
             k3 = pull(from.velocity + k2 * (h / 2)), k4 = pull(from.velocity + k3 * h);
  return {from.place + from.velocity * h + (k1 + k2 + k3) * (h * h / 6),
          from.velocity + (k1 + (k2 + k3) * 2.0 + k4) * (h / 6)};
}

}  // namespace

Flown::Flown(const Flight3& flight) : rows_{{0.0, flight.place, flight.velocity}}, highest_(flight.place.y) {
  constexpr double longest = 20.0;
  const double terminal = flight.terminal_speed;
  Going now{flight.place, flight.velocity};
  double t = 0.0;
  if (now.place.y <= flight.ground && now.velocity.y <= 0.0) return;  // it lies there
  const auto step = [&](double h) {
    now = stepped(now, terminal, h), t += h;
    rows_.push_back({t, now.place, now.velocity});
  };
  while (t < longest) {
    // A parabola is read exactly between rows however far apart; drag that stops it sooner is followed closer.
    const double h = terminal > 0.0
                         ? std::min(0.05, 0.2 * terminal * terminal /
                                              (standard_gravity * std::max(length(now.velocity), terminal)))
                         : 0.25;
    const Going next = stepped(now, terminal, h);
    // The shortest step after which something is so that is not yet.
    const auto until = [&](const auto& is_so) {
      double low = 0.0, high = h;
      for (int i = 0; i < 60; ++i) {
        const double middle = 0.5 * (low + high);
        (is_so(stepped(now, terminal, middle)) ? high : low) = middle;
      }
      return high;
    };
    if (now.velocity.y > 1e-9 && next.velocity.y < 0.0) {  // the top of its way
      step(until([](const Going& g) { return g.velocity.y < 0.0; }));
      now.velocity.y = 0.0;
      if (now.place.y > highest_) highest_ = now.place.y, highest_at_ = t;
      continue;
    }
    if (next.place.y >= flight.ground) {
      step(h);
      continue;
    }
    step(until([&](const Going& g) { return g.place.y < flight.ground; }));
    now.place.y = rows_.back().place.y = flight.ground;
    if (landings_.empty()) landing_speed_ = length(now.velocity);
    landings_.push_back(t);
    const double off = -now.velocity.y * flight.restitution;
    if (landings_.size() > 10 || off < 0.05) break;
    now.velocity = {now.velocity.x * flight.restitution, off, now.velocity.z * flight.restitution};
    rows_.push_back({t, now.place, now.velocity});
  }
}

Vec3 Flown::at(double t) const {
  if (t <= 0.0) return rows_.front().place;
  const auto after =
      std::upper_bound(rows_.begin(), rows_.end(), t, [](double v, const Row& row) { return v < row.t; });
  if (after == rows_.end()) return rows_.back().place;
  const Row &a = *(after - 1), &b = *after;
  const double h = b.t - a.t;
  if (h <= 0.0) return b.place;
  const double s = (t - a.t) / h, s2 = s * s, s3 = s2 * s;  // Hermite's cubic
  return a.place * (2 * s3 - 3 * s2 + 1) + a.velocity * (h * (s3 - 2 * s2 + s)) + b.place * (3 * s2 - 2 * s3) +
         b.velocity * (h * (s3 - s2));
}

}  // namespace cinnabar
