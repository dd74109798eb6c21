// What a change does besides bringing its level home: to other levels, other shots, the spot and the kit.
#pragma once
#include <limits>
#include <set>

#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

/// A change that brings the level home, and what it takes.
struct Turned {
  std::string title;
  Document document;  ///< with it made
  double minutes = 0;
  std::string gear;
  bool shared = false;              ///< turns the set-up, and so every shot in it
  int turns = 1;                    ///< how many things are turned
  std::set<std::string> touched{};  ///< members of the project, by list, id and pointer
};

/// Prices changes of one shot. Any thread may ask.
class Pricing {
 public:
  /// `before`: how the shot's levels stand, as closely as they are told; `own` is the level to be brought home.
  Pricing(const Forecaster& forecaster, const Document& document, const Project& project, std::size_t shot,
          const std::vector<Level>& before, std::string own, const std::atomic<bool>* cancel);

  struct Priced {
    Lever lever;
    std::vector<Level> after;  ///< the shot's other levels then
  };
  /// What is asked of a change: others are given up as soon as they are known not to be worth their price.
  struct Asked {
    bool owned = false;                               ///< it needs nothing that is not there
    int less_harm = std::numeric_limits<int>::max();  ///< it does less harm than this
    bool* unsure = nullptr;  ///< told, in place of a patient look, that the level stands too near an edge
  };
  /// Nothing where the level does not come home after all, gear would come into the picture, the change is none,
  /// or it is not what is asked.
  [[nodiscard]] std::optional<Priced> priced(const Turned& change, const Asked& asked) const;
  /// Of the levels that a change makes worse, the one that it harms most; nothing where it harms none.
  [[nodiscard]] std::optional<Level> most_harmed(const std::vector<Level>& after) const;

 private:
  [[nodiscard]] std::vector<Level> own_after(const Project& changed, bool patiently) const;
  [[nodiscard]] std::vector<Level> surely(const Project& changed, const std::vector<double>& times,
                                          bool patiently) const;
  [[nodiscard]] std::vector<double> times_of(const Project& project) const;
  [[nodiscard]] std::vector<Level> levels_after(const Project& changed) const;
  [[nodiscard]] std::string told_of_others(const Document& document, const Project& changed, Lever& lever) const;

  static constexpr std::size_t worst_moments = 4;
  struct Other {
    std::size_t shot;
    std::vector<Level> before;  ///< roughly
  };
  const Forecaster forecaster_, patient_;  ///< with few doublings; with as many as a forecast takes
  const Forecaster rough_;
  const Document& document_;
  const Project& project_;
  const std::size_t shot_;
  const std::vector<Level>& before_;
  const std::string own_;
  const std::atomic<bool>* cancel_;
  std::vector<Level> rough_before_;
  std::vector<MomentValue> rough_own_;  ///< the level to be brought home, roughly, at every moment
  std::vector<double> times_;           ///< at which its light is measured
  std::vector<Other> others_;           ///< shots of the same set-up, or of a variation of it
  std::vector<Level> spot_;
  double gear_ = 0;  ///< share of the picture that gear takes up
};

}  // namespace cinnabar
