// Whether a promised feature is seen well in a shot: inside the frame, large enough, square enough, sharp, lit,
// and with nothing before it.
#pragma once
#include "cinnabar/forecast/levels/context.h"

namespace cinnabar {

inline constexpr double least_read_px = 24.0, least_noticed_px = 2.0;
inline constexpr double feature_within_deg = 60.0, feature_within_stops = 1.5;

/// A feature at the moment of the shot at which most of what is wanted holds, and among those it is largest.
struct FeatureSeen {
  double px = 0;                    ///< delivered pixels of its detail
  double turned_deg = 0;            ///< from squarely facing the lens
  double blur_px = 0;               ///< blur disc, delivered pixels
  std::optional<double> lit_stops;  ///< from the target; nothing where no light at all reaches it
  double set_time = 0;
  bool inside = false, uncovered = false, sharp = false, lit = false;
  [[nodiscard]] bool square() const { return turned_deg <= feature_within_deg; }
  [[nodiscard]] bool seen() const { return inside && uncovered && sharp && lit && square(); }
  /// What is missing, in words; empty when it is seen.
  [[nodiscard]] std::string missing() const;
};
[[nodiscard]] inline double least_px(const Feature& f) { return f.read ? least_read_px : least_noticed_px; }

/// Outward at a feature: away from the axis, or up on a product's top.
[[nodiscard]] Vec3 feature_normal(const Product& product, const Feature& feature);

/// Nothing when the product is not in the shot, there is no camera, or the light cannot be measured.
[[nodiscard]] std::optional<FeatureSeen> feature_seen(const ShotContext& context, const Product& product,
                                                      const Feature& feature);

/// A feature by "product/feature"; nothing where there is none.
struct NamedFeature {
  const Product* product;
  const Feature* feature;
};
[[nodiscard]] std::optional<NamedFeature> feature_named(const Project& project, const std::string& name);

/// Where a feature is seen best over the whole spot.
struct FeatureView {
  std::string product, feature, name;
  bool read = false;
  std::optional<std::size_t> shot;  ///< none where no shot has the product
  FeatureSeen seen;                 ///< in that shot
  double least = least_noticed_px;
  /// As a level in delivered pixels, for showing; out where it is not seen well in any shot.
  [[nodiscard]] Level level() const;
};
/// Every feature of every product, in their order. Empty when cancelled.
[[nodiscard]] std::vector<FeatureView> feature_views(const Forecaster& forecaster, const Project& project,
                                                     const std::atomic<bool>* cancel = nullptr);

}  // namespace cinnabar
