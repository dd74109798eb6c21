// The purse of stops: everything that gives or takes light, on one scale. Moving one lets the others pay.
#pragma once
#include <set>
#include <string>
#include <vector>

#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

/// A setting that camera or lamps really have.
struct PurseNotch {
  double value = 0;    ///< in the row's own measure: frames a second, seconds, f-number, ISO, stops
  double stops = 0;    ///< light that it gives beside the shot as it is
  bool stands = true;  ///< no level that this setting decides alone goes out there
  std::string text;    ///< "1/240", "f/9", "+0.4"
};
struct PurseRow {
  std::string id;                   ///< "rate", "shutter", "aperture", "iso", "nd", "lights", as pins are named
  std::string title;                ///< for people
  std::string pointer;              ///< of the document, what a notch sets; empty for the rate and the lights
  std::vector<PurseNotch> notches;  ///< from least light to most
  std::size_t now = 0;              ///< where the shot stands
  double absolute = 0;  ///< where that is, in stops from a fixed setting: to compare purses of one shot
  std::string remark;   ///< its levels as they stand now
};
struct Purse {
  std::vector<PurseRow> rows;
  /// Of the shot as it is, from its target: + is too much light. Two where the light itself changes over the shot.
  double least_over = 0, most_over = 0;
  Band band;  ///< of camera.stops
  /// Who pays first, by the house rule of the exposure: lights first, or ISO first.
  std::vector<std::string> payers;
  std::vector<std::pair<std::string, double>> dimmers;  ///< of the lights, by pointer
};
/// The notch of each row.
using PurseHand = std::vector<std::size_t>;

/// The purse of a shot, its rate kept. Fails where the shot's light cannot be told.
[[nodiscard]] Expected<Purse> purse_of(const Forecaster& forecaster, const Document& document, std::size_t shot,
                                       const std::atomic<bool>* cancel = nullptr);

/// The shot as it is.
[[nodiscard]] PurseHand hand_now(const Purse& purse);
/// From the shot's target with these notches, at the moment that is farthest from it: + is too much light.
[[nodiscard]] double left_over(const Purse& purse, const PurseHand& hand);
/// One row moved to a notch; those that are neither it nor pinned pay in the purse's order, each as far as its
/// notches stand, until the target is met.
[[nodiscard]] PurseHand paid(const Purse& purse, PurseHand hand, std::size_t row, std::size_t notch,
                             const std::set<std::string>& pins);

/// All that a hand sets, in the document that the purse was made of.
[[nodiscard]] Values purse_values(const Purse& purse, const PurseHand& hand);

}  // namespace cinnabar
