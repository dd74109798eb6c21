// The shadows that products throw on the backdrop the camera sees.
#pragma once
#include "cinnabar/forecast/measures/measure.h"

namespace cinnabar {

/// Straight light on places spread over the visible backdrop (every fourth pixel each way), with the products and
/// without them. `glances` a side: points of each light's face looked at. A clear product counts as one that stops
/// light. Empty where no product or no backdrop is seen.
[[nodiscard]] std::vector<CastPoint> cast_points(const Tracer& tracer, const Film& film, int glances);

/// The same for one place, on what looks along `normal` there.
[[nodiscard]] CastPoint straight_light(const Tracer& tracer, const Vec3& place, const Vec3& normal, int glances);

/// The deepest shadow at one moment, in stops: log2 of the illuminance without the products over that with them.
/// What else reaches the backdrop (ambient, light thrown back) is taken off the picture, in the mean, as fill.
/// Endless where nothing at all reaches the shadow, or the backdrop.
[[nodiscard]] std::optional<double> deepest_cast(const LightMoment& moment);

}  // namespace cinnabar
