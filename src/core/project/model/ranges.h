// Ranges that several fields share.
#pragma once
#include "cinnabar/base/range.h"

namespace cinnabar {

inline constexpr double far_away = 1e4;  // metres: nothing on a floor is farther
inline constexpr Range place_range{-far_away, far_away};
inline constexpr Range size_range{0.0, far_away, true, false};
inline constexpr Range thickness_range{0.0, far_away};
inline constexpr Range fine_range{1e-6, 0.1};
inline constexpr Range lumens_range{0.0, 1e9};
inline constexpr Range kelvin_range{1000.0, 40000.0};
inline constexpr Range iso_range{1.0, 1e8};
inline constexpr Range stops_range{-30.0, 30.0};
inline constexpr Range seconds_range{0.0, 86400.0};
inline constexpr Range some_seconds{0.0, 86400.0, true, false};
inline constexpr Range angle_range{-1e6, 1e6};
inline constexpr Range leaf_range{-80.0, 90.0};  // of a barn door, degrees from straight ahead
inline constexpr Range lean_range{-89.0, 89.0};  // of a backdrop
inline constexpr Range pixels_range{1.0, 65536.0, false, false, true};
inline constexpr Range f_number_range{0.1, 1000.0};
inline constexpr Range watts_range{0.0, 1e6};
inline constexpr Range full_angle{0.0, 180.0, true, true};
inline constexpr Range focal_range{0.0, 10.0, true, false};

/// Whole numbers.
constexpr Range whole(double low, double high) { return {low, high, false, false, true}; }

}  // namespace cinnabar
