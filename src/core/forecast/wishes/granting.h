// Who grants a wish: one function a kind.
#pragma once
#include "cinnabar/forecast/wishes/wishes.h"

namespace cinnabar {

/// What a wish is granted in.
struct WishBench {
  const Forecaster& forecaster;
  const Document& document;
  std::size_t shot;
  const std::atomic<bool>* cancel = nullptr;
  bool look_only = false;  ///< whether it is met as things stand; nothing is changed
};
/// One way to it. Empty `changes`: it is so already.
struct Grant {
  std::string title;
  Values changes;
  double value = 0;
  bool met = false;
};
struct Grants {
  std::vector<Grant> list;
  std::string why;      ///< where it is empty
  double short_of = 0;  ///< in the wish's measure
};
using Granter = Expected<Grants> (*)(const WishBench&, const Wish&);

Expected<Grants> grant_stripe(const WishBench&, const Wish&);
Expected<Grants> grant_backdrop(const WishBench&, const Wish&);
Expected<Grants> grant_soft(const WishBench&, const Wish&);
Expected<Grants> grant_ratio(const WishBench&, const Wish&);
Expected<Grants> grant_even(const WishBench&, const Wish&);
Expected<Grants> grant_gradient(const WishBench&, const Wish&);
Expected<Grants> grant_no_mirror(const WishBench&, const Wish&);
Expected<Grants> grant_dark_edge(const WishBench&, const Wish&);
Expected<Grants> grant_bright_edge(const WishBench&, const Wish&);
Expected<Grants> grant_pool(const WishBench&, const Wish&);

}  // namespace cinnabar
