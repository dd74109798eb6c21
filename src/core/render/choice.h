// One of several things by chance.
#pragma once
#include <algorithm>
#include <vector>

namespace cinnabar {

/// Chances in proportion to weights; weights of 0 are never picked.
class Choice {
 public:
  Choice() = default;
  explicit Choice(const std::vector<double>& weights) {
    double sum = 0.0;
    for (const double w : weights) sum += w;
    float so_far = 0.0f;
    for (const double w : weights) {
      chances_.push_back(sum > 0.0 ? static_cast<float>(w / sum) : 0.0f);
      cumulative_.push_back(so_far += chances_.back());
    }
  }
  [[nodiscard]] bool any() const { return !cumulative_.empty() && cumulative_.back() > 0.0f; }
  [[nodiscard]] float chance(std::size_t i) const { return chances_[i]; }
  /// By a number in 0..1; only where there is any.
  [[nodiscard]] std::size_t pick(float number) const {
    return static_cast<std::size_t>(
        std::upper_bound(cumulative_.begin(), cumulative_.end() - 1, number * cumulative_.back()) -
        cumulative_.begin());
  }

 private:
  std::vector<float> chances_, cumulative_;
};

}  // namespace cinnabar
