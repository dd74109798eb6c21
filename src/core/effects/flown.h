// The way of a thing through the air, with drag and bounces, as a table that is read between its rows.
#pragma once
#include <vector>

#include "cinnabar/base/vec.h"

namespace cinnabar {

/// Where a thing is let go from, how it goes and what it falls on.
struct Flight3 {
  Vec3 place, velocity;
  double terminal_speed = 0;  ///< 0: no drag
  double ground = 0;          ///< height at which its middle comes to lie
  double restitution = 0;
};

class Flown {
 public:
  /// Runge-Kutta of the fourth order, exact without drag. Ends after ten bounces, or when it comes off the ground
  /// at under 0.05 m/s, or after twenty seconds.
  explicit Flown(const Flight3& flight);

  /// From when it is let go; before it hangs, after it lies.
  [[nodiscard]] Vec3 at(double t) const;
  [[nodiscard]] const std::vector<double>& landings() const { return landings_; }
  [[nodiscard]] double rests() const { return rows_.back().t; }
  [[nodiscard]] double highest() const { return highest_; }
  [[nodiscard]] double highest_at() const { return highest_at_; }
  [[nodiscard]] double landing_speed() const {
    return landing_speed_;
  }  ///< the first time; 0 where it never lands
  [[nodiscard]] Vec3 end() const { return rows_.back().place; }

 private:
  struct Row {
    double t;
    Vec3 place, velocity;
  };
  std::vector<Row> rows_;
  std::vector<double> landings_;
  double highest_, highest_at_ = 0, landing_speed_ = 0;
};

}  // namespace cinnabar
