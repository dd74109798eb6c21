// What has to be carried in, held against what is owned: the packing list, what is short, and what that costs.
#pragma once
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// One kind of thing that the shots need.
struct PackedThing {
  std::string list, id;  ///< where it stands in the kit; id empty: it is not in the kit
  std::string name;
  std::string unit;  ///< of the amounts; empty: pieces
  double wanted = 0, owned = 0;
  std::optional<double> price;  ///< for one
  bool hired = false;
  std::vector<std::size_t> shots;  ///< that use it, by index
  std::string note;                ///< what else to know: heights, shelf life
  [[nodiscard]] double missing() const { return wanted > owned ? wanted - owned : 0.0; }
};

struct Packing {
  std::vector<PackedThing> things;
  double cost = 0;                ///< of what is missing and has a price
  std::size_t without_price = 0;  ///< kinds missing that have none
};

/// Lights by the most that one set-up uses at once, stands for lights and cards where the kit has any (a stand
/// that is too low does not count), supports by shot, cards and batteries by the takes planned with 10 s of lead
/// each, consumables by use per take and takes planned (one where none are), in the order of the kit.
[[nodiscard]] Packing packing(const Project& project);

/// What is missing, one sentence a kind: "LED panel: 2 wanted at once on set-up A, 1 owned".
[[nodiscard]] std::vector<std::string> shortages(const Project& project, const Packing& packing);

/// Names of what `after` is short of and `before` was not, or by less, with commas between.
[[nodiscard]] std::string newly_short(const Project& before, const Project& after);

}  // namespace cinnabar
