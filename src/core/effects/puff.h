// A puff of powder: how far it comes and how it spreads.
#pragma once
#include <vector>

#include "cinnabar/base/vec.h"

namespace cinnabar {

/// How it begins. SI.
struct PuffStart {
  Vec3 place, velocity;
  double mass = 0;        ///< of the grains
  double radius = 0;      ///< that they begin within
  double fall_speed = 0;  ///< of one grain by itself
  double ground = 0;
};

/// Grains thrown together take the air about them along: the radius grows by a quarter of the way (Scorer 1957,
/// value from memory), their push is kept and shared with that air and half as much again that has to make way,
/// and their weight pulls all of it down, no slower than a grain by itself. On the ground it stays. Within a
/// factor of 1.5.
class Puff {
 public:
  explicit Puff(const PuffStart& start);
  struct State {
    double t;
    Vec3 middle, velocity;
    double radius;
  };
  /// From when it is let go; before it hangs, after it lies.
  [[nodiscard]] State at(double t) const;
  /// From when on it goes no further but as a grain falls, or lies.
  [[nodiscard]] double spent() const { return spent_; }
  [[nodiscard]] double highest_at() const { return highest_at_; }

 private:
  std::vector<State> rows_;
  double spent_ = 0, highest_at_ = 0;
};

}  // namespace cinnabar
