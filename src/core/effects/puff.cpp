#include "cinnabar/effects/puff.h"

#include <algorithm>
#include <cmath>

namespace cinnabar {
namespace {

constexpr double air_density = 1.204, taken_along = 0.25, makes_way = 1.5, row_apart = 0.005;
constexpr int steps_a_row = 10;
constexpr double longest_flight = 30.0;  // s

double ball_of_air(double radius) { return air_density * 4.0 / 3.0 * pi * radius * radius * radius; }

}  // namespace

Puff::Puff(const PuffStart& start) {
  State now{0.0, start.place, start.velocity, start.radius};
  // With what it has about it when it is let go it is as quick as it was thrown.
  const auto weighs = [&](double radius) { return start.mass + makes_way * ball_of_air(radius); };
  Vec3 push = now.velocity * weighs(now.radius);
  rows_.push_back(now);
  bool lies = false;
  double highest = now.middle.y;
  spent_ = longest_flight;
  while (now.t < longest_flight && !lies) {
    constexpr double step = row_apart / steps_a_row;
    for (int k = 0; k < steps_a_row; ++k) {
      push.y -= start.mass * standard_gravity * step;
      now.velocity = push / weighs(now.radius);
      // Once it hardly moves its grains fall out of it.
      Vec3 goes = now.velocity;
      if (length(goes) < start.fall_speed && goes.y <= 0.0) goes.y = -start.fall_speed;
      now.middle += goes * step;
      now.radius += taken_along * length(now.velocity) * step;
      if (now.middle.y <= start.ground + 0.5 * now.radius) {
        now.middle.y =
            std::max(now.middle.y, start.ground + std::min(0.5 * now.radius, start.place.y - start.ground));
        lies = now.velocity.y < 0.0;
      }
    }
    now.t += row_apart;
    if (now.middle.y > highest) highest = now.middle.y, highest_at_ = now.t;
    if (spent_ == longest_flight && length(now.velocity) <= std::max(start.fall_speed, 0.02)) spent_ = now.t;
    rows_.push_back(now);
  }
  if (lies) spent_ = std::min(spent_, now.t);
  rows_.back().velocity = {};
}

Puff::State Puff::at(double t) const {
  if (t <= 0.0) return rows_.front();
  const double step = t / row_apart;
  const auto i = static_cast<std::size_t>(step);
  if (i + 1 >= rows_.size()) return rows_.back();
  const double f = step - static_cast<double>(i);
  const State &a = rows_[i], &b = rows_[i + 1];
  return {t, a.middle + (b.middle - a.middle) * f, a.velocity + (b.velocity - a.velocity) * f,
          a.radius + (b.radius - a.radius) * f};
}

}  // namespace cinnabar
