// Integrals over an interval.
#pragma once
#include <functional>

namespace cinnabar {

/// Integral of a smooth function from `a` to `b`, by the rule of Gauss and Legendre at thirty points.
[[nodiscard]] double integral(const std::function<double(double)>& of, double a, double b);

/// The same by the rule of Gauss and Kronrod at 31 points, halved (ten times at most) until its error is estimated
/// to be under `part` of the whole.
[[nodiscard]] double integral_within(double part, const std::function<double(double)>& of, double a, double b);

}  // namespace cinnabar
