// The forecast: every level of a shot, and the levers that would bring one home.
#pragma once
#include <atomic>
#include <functional>
#include <memory>

#include "cinnabar/forecast/level.h"
#include "cinnabar/forecast/measures/measure.h"
#include "cinnabar/project/document/document.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// How levers are looked for.
struct LeverSearch {
  /// Told of each as it is found, with how many changes were tried by then, of how many; from any thread, one at a
  /// time.
  std::function<void(const Lever& lever, std::size_t tried, std::size_t all)> proved{};
  /// How all levels of the shot stand, as surely as they are told, where that is known.
  std::vector<Level> known{};
  /// Whether up to three things are turned at once where each alone does harm or does not reach.
  bool together = true;
};

/// Computes levels and levers. Any thread may ask; one instance keeps its measures between calls.
class Forecaster {
 public:
  explicit Forecaster(MeasureQuality quality = full_measure)
      : quality_(quality), measures_(std::make_shared<MeasureCache>()) {}

  /// All levels that apply to a shot, in the order of the sheet; only `id` where it is given. Empty when
  /// cancelled.
  [[nodiscard]] std::vector<Level> levels(const Project& project, std::size_t shot, const std::string& id = {},
                                          const std::atomic<bool>* cancel = nullptr) const;

  /// Only those of `ids`, all where there are none, in the same order: nothing but what they read is measured.
  [[nodiscard]] std::vector<Level> some_levels(const Project& project, std::size_t shot,
                                               const std::vector<std::string>& ids,
                                               const std::atomic<bool>* cancel = nullptr) const;

  /// The same with passes added, up to the quality's most, until every value found by sampling is sure
  /// (`sure_of`), its standard error with it. `round` is told how they stand after each doubling; those that are
  /// not sure yet say so. What is not sure in the end is told by what was measured.
  using Round = std::function<void(const std::vector<Level>& levels)>;
  [[nodiscard]] std::vector<Level> sure_levels(const Project& project, std::size_t shot,
                                               const std::string& id = {},
                                               const std::atomic<bool>* cancel = nullptr,
                                               const Round& round = {}) const;

  /// Levers of one level, each verified by staging the changed shot, the least harmful first. When there are none
  /// `why` says so. A level that is home needs none.
  struct Levers {
    std::vector<Lever> list;
    std::string why;
  };
  [[nodiscard]] Levers levers(const Document& document, std::size_t shot, const std::string& id,
                              const std::atomic<bool>* cancel = nullptr, const LeverSearch& how = {}) const;

  /// All levels of the whole spot, the features' included, for which every shot's light is measured; only `id`
  /// where it is given.
  [[nodiscard]] std::vector<Level> spot(const Project& project, const std::string& id = {},
                                        const std::atomic<bool>* cancel = nullptr) const;
  /// The same for a level of the whole spot.
  [[nodiscard]] Levers spot_levers(const Document& document, const std::string& id,
                                   const std::atomic<bool>* cancel = nullptr) const;

  [[nodiscard]] MeasureCache& measures() const { return *measures_; }
  [[nodiscard]] const MeasureQuality& quality() const { return quality_; }
  /// The same kept measures at another quality.
  [[nodiscard]] Forecaster with_quality(const MeasureQuality& quality) const {
    Forecaster other(quality);
    other.measures_ = measures_;
    return other;
  }

 private:
  MeasureQuality quality_;
  std::shared_ptr<MeasureCache> measures_;
};

/// Levels of the whole spot that apply to it and need no light.
[[nodiscard]] std::vector<Level> spot_levels(const Project& project);
/// Whether an id is one of the spot's.
[[nodiscard]] bool is_of_spot(const std::string& id);
/// Ids of the spot's levels, in order.
[[nodiscard]] const std::vector<std::string>& spot_level_ids();

/// Ids of all levels that are computed, in order.
[[nodiscard]] const std::vector<std::string>& level_ids();

}  // namespace cinnabar
