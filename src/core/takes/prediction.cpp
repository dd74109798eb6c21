#include "cinnabar/takes/prediction.h"

namespace cinnabar {
namespace {
constexpr Range count{0.0, 1e15, false, false, true};
constexpr Range count_from_one{1.0, 1e5, false, false, true};

struct Predictive {
  double a, b, w;
  [[nodiscard]] double first() const {
    double p = 1.0;
    for (double i = 0; i < w; ++i) p *= (a + i) / (a + b + i);
    return p;
  }
  /// P(n + 1) / P(n).
  [[nodiscard]] double step(double n) const { return n / (n - w + 1.0) * (b + n - w) / (a + b + n); }
};

Expected<Predictive> predictive(const TakesLeftInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.kept > in.tried) return out_of_range("kept", "a whole number from 0 to tried");
  return Predictive{0.5 + in.kept, 0.5 + in.tried - in.kept, in.wanted};
}
}  // namespace

Keys<TakesLeftInputs> TakesLeftInputs::keys() {
  static const Key<TakesLeftInputs> list[]{{"tried", "takes", count, &TakesLeftInputs::tried},
                                           {"kept", "takes", count, &TakesLeftInputs::kept},
                                           {"wanted", "takes", count_from_one, &TakesLeftInputs::wanted}};
  return list;
}
Results<TakesLeft> TakesLeft::results() {
  static const ResultKey<TakesLeft> list[]{{"expected", "takes", &TakesLeft::expected},
                                           {"median", "takes", &TakesLeft::median},
                                           {"ninety", "takes", &TakesLeft::ninety}};
  return list;
}
Expected<TakesLeft> takes_left(const TakesLeftInputs& in) {
  const auto model = predictive(in);
  if (!model) return tl::unexpected(model.error());
  TakesLeft out;
  if (in.kept > 0.0) out.expected = in.wanted * in.tried / (in.kept - 0.5);
  double p = model->first(), sum = p;
  for (double n = in.wanted; n <= 1e5; ++n) {
    if (!out.median && sum >= 0.5 - 1e-12) out.median = n;
    if (sum >= 0.9 - 1e-12) {
      out.ninety = n;
      break;
    }
    p *= model->step(n);
    sum += p;
  }
  return out;
}

Expected<std::vector<double>> takes_left_chances(const TakesLeftInputs& in, std::size_t length) {
  const auto model = predictive(in);
  if (!model) return tl::unexpected(model.error());
  std::vector<double> chances(length, 0.0);
  double p = model->first();
  for (double n = in.wanted; n <= static_cast<double>(length); ++n) {
    chances[static_cast<std::size_t>(n) - 1] = p;
    p *= model->step(n);
  }
  return chances;
}

}  // namespace cinnabar
