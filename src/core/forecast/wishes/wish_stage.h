// A shot as wishes look at it: a bench that holds the project it reads.
#pragma once
#include "cinnabar/forecast/levers/bench.h"

namespace cinnabar {

struct HeldProject {
  ProjectReader reader;
  Project held;
};
struct WishStage : private HeldProject, Bench {
  WishStage(const Document& document, std::size_t which)
      : HeldProject{{}, {}}, Bench(document, held = reader.read(document), which) {}
};

}  // namespace cinnabar
