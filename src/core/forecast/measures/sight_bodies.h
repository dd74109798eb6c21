// Simple bodies that a line of sight may meet: sheets, discs, tubes, balls and boxes.
#pragma once
#include <cmath>
#include <optional>

#include "cinnabar/scene/staged.h"

namespace cinnabar {

struct SightLine {
  Vec3 from, along;  ///< along: unit
};

struct SightBody {
  enum class Form { sheet, disc, tube, ball, box } form;
  Vec3 place, right, up, ahead;
  double half_width, half_height;      ///< of a disc, tube or ball: the radius, and half a tube's length
  std::optional<std::size_t> light{};  ///< of the set-up, where it is one; all else stops the line
  double half_depth = 0;               ///< of a box

  /// How far along the line it is met, and whether on its lit side.
  struct Met {
    double distance;
    bool lit;
  };
  [[nodiscard]] std::optional<Met> met(const SightLine& line) const;
};

/// Of three corners in turn.
[[nodiscard]] SightBody sight_sheet(const Vec3& a, const Vec3& b, const Vec3& c);
/// The box about a body of the set.
[[nodiscard]] SightBody sight_gear(const Gear& gear);
/// A light's face, or the whole of a tube or a bare lamp.
[[nodiscard]] SightBody sight_face(const Light& light, std::size_t index);

}  // namespace cinnabar
