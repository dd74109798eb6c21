// One knob turned for one level, by staging the changed shot until the level is home.
#pragma once
#include <map>

#include "cinnabar/forecast/levers/knobs.h"

namespace cinnabar {

/// The same forecaster looking no closer than a search needs.
[[nodiscard]] Forecaster roughly(const Forecaster& forecaster);
/// The same looking only at these moments.
[[nodiscard]] Forecaster only_at(const Forecaster& forecaster, std::vector<double> set_times);

/// What a search for one level knows.
struct Quest {
  const Forecaster& forecaster;
  const Document& document;  ///< that is changed
  std::size_t shot;
  const Level& level;  ///< as it stands there
  int above = 0;       ///< lights that stand against the house rule already
  double error = 0;    ///< what the rough look errs by now: after a turn about as much, its samples being the same
  const std::atomic<bool>* cancel = nullptr;

  [[nodiscard]] bool ended() const { return cancel && cancel->load(); }
};
[[nodiscard]] double rough_error(const Quest& quest, const Project& project);

/// The search looks roughly; what it finds is looked at again as closely as was asked, both at the moment at which
/// the level is worst.
class Turning {
 public:
  /// `tries` bounds the rough looks, so that no project makes a search endless.
  Turning(const Quest& quest, const Knob& knob, int tries);

  struct Found {
    double value;
    Document document;
    Level level;
  };

  /// The smallest turn in either direction that brings the level home.
  std::optional<Found> solve();
  /// One step more than a turn that was found, where the level is home there too.
  std::optional<Found> further(double value);
  /// Where none does: the turn that comes nearest, if it takes a quarter at least of what is missing.
  [[nodiscard]] std::optional<Found> nearest() const;

 private:
  [[nodiscard]] bool ended() const { return tries_ <= 0 || quest_.ended(); }
  [[nodiscard]] long first_step(int direction) const;
  [[nodiscard]] double slack() const;  ///< a smaller turn is none
  [[nodiscard]] bool within_slack(long index) const;
  [[nodiscard]] std::optional<Document> turned(double value, Project& changed);
  const Found* at(long index);
  std::optional<Found> closely(long index, int direction);
  std::optional<long> nearest_home(long index, int direction, double error);
  std::optional<long> found_or_near(int direction);
  std::optional<long> search(int direction);
  [[nodiscard]] long stride(long first, int direction, long before, long reach) const;
  [[nodiscard]] std::optional<double> value_of(long first, int direction, long place) const;
  [[nodiscard]] double home_from(double value) const;
  [[nodiscard]] long on_line(long first, int direction, long from, long to, double wanted) const;
  long refined(long first, int direction, long bad, long good);
  std::optional<long> between(long first, int direction, long near, long far, int start_side);

  const Quest quest_;
  const Forecaster close_, rough_;
  const Knob& knob_;
  int tries_;
  ProjectReader reader_;
  std::map<long, std::optional<Found>> tried_;
};

}  // namespace cinnabar
