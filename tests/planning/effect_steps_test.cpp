// What people do for an effect: cues in time, shared out, and what is readied and cleaned up.
#include "cinnabar/planning/effect_steps.h"

#include <gtest/gtest.h>

#include <algorithm>

namespace cinnabar {
namespace {

EffectOutcome worked(const std::string& kind, const std::map<std::string, std::vector<double>>& given, double at,
                     double high = 1.0) {
  const EffectKind& of = *effect_kind(kind);
  EffectPlace about;
  about.vessels.push_back({0, {0, 0, 0}, {{0.035, 0.005}, {0.035, 0.085}}, 0.05});
  const auto outcome = of.outcome({*measures_of(of, given, ""), {0, high, 0}, at, 1, about});
  EXPECT_TRUE(outcome) << kind;
  return outcome ? *outcome : EffectOutcome{};
}
Effect effect_of(const std::string& kind, double at) {
  Effect effect;
  effect.id = "e", effect.kind = kind, effect.at = at;
  return effect;
}

// Common practice, no source: layers are cut each in its own time, by the helpers in turn.
TEST(EffectSteps, ShareReleasesOutAmongHelpers) {
  Effect effect = effect_of("layers", 2.0);
  effect.hands = 2;
  const EffectOutcome out = worked("layers", {{"heights", {0.3, 0.5, 0.7}}, {"terminal_speeds", {0}}}, 2.0);
  const EffectSteps steps = steps_of(effect, out);
  std::vector<int> helpers;
  double last = -1e9;
  for (const EffectCue& cue : steps.cues) {
    EXPECT_GE(cue.at, last) << cue.what;
    last = cue.at;
    if (cue.helper > 0) helpers.push_back(cue.helper);
  }
  EXPECT_EQ(helpers, (std::vector<int>{1, 2, 1}));
  EXPECT_NEAR(steps.cues.front().at, 0.0, 1e-12) << "the camera runs before";
  EXPECT_FALSE(steps.after.empty());
}

// Own behaviour: each kind has its cues in time; what can hurt is readied and cleaned up, each thing once.
TEST(EffectSteps, AreThereForEveryKind) {
  for (const EffectKind& kind : effect_kinds()) {
    if (kind.id == "flame") continue;
    Effect effect = effect_of(kind.id, 1.0);
    effect.reset_minutes = 7;
    const EffectSteps steps = steps_of(effect, worked(kind.id, {}, 1.0, kind.id == "swing" ? 1.2 : 0.4));
    ASSERT_FALSE(steps.cues.empty()) << kind.id;
    EXPECT_TRUE(std::ranges::is_sorted(steps.cues, {}, &EffectCue::at)) << kind.id;
    EXPECT_EQ(steps.after.back(), "7 min to the next take") << kind.id;
    for (const auto* list : {&steps.before, &steps.after}) {
      std::vector<std::string> once = *list;
      std::ranges::sort(once);
      EXPECT_EQ(std::ranges::adjacent_find(once), once.end()) << kind.id;
      for (const std::string& one : once) EXPECT_FALSE(one.empty()) << kind.id;
    }
  }
  const EffectSteps pour = steps_of(effect_of("pour", 1.0), worked("pour", {{"volume", {1e-5}}}, 1.0, 0.2));
  EXPECT_NE(std::ranges::find(pour.cues, std::string("upright again"), &EffectCue::what), pour.cues.end());
}

}  // namespace
}  // namespace cinnabar
