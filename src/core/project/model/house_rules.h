// House rules: where practitioners disagree, which way this house goes. An enum a rule; their names stand once, in
// the table, in the enums' order.
#pragma once
#include <cstddef>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "cinnabar/project/document/document.h"

namespace cinnabar {

enum class HouseRule {
  shutter,
  exposure,
  backdrop,
  placing,
  depth,
  movement,
  overhead,
  ambient,
  fill,
  droplets,
  order,
  focus,
  effects
};

// The first of each is the default.
enum class ShutterRule { half, crisp, flicker_safe };
enum class ExposureRule { add_light, stop_down };
enum class BackdropRule { black, white, gradient, colour, key };
enum class PlacingRule { far, flush };
enum class DepthRule { shallow, deep };
enum class MovementRule { in_camera, locked_off };
enum class OverheadRule { allowed, never };
enum class AmbientRule { black_out, window };
enum class FillRule { none, big_far, small_near };
enum class DropletsRule { glycerin, water };
enum class OrderRule { hero_first, story, fewest_moves };
enum class FocusRule { marks, autofocus_locked };
enum class EffectsRule { real, plates };

/// Which rule an enum's values answer.
constexpr HouseRule rule_of(ShutterRule) { return HouseRule::shutter; }
constexpr HouseRule rule_of(ExposureRule) { return HouseRule::exposure; }
constexpr HouseRule rule_of(BackdropRule) { return HouseRule::backdrop; }
constexpr HouseRule rule_of(PlacingRule) { return HouseRule::placing; }
constexpr HouseRule rule_of(DepthRule) { return HouseRule::depth; }
constexpr HouseRule rule_of(MovementRule) { return HouseRule::movement; }
constexpr HouseRule rule_of(OverheadRule) { return HouseRule::overhead; }
constexpr HouseRule rule_of(AmbientRule) { return HouseRule::ambient; }
constexpr HouseRule rule_of(FillRule) { return HouseRule::fill; }
constexpr HouseRule rule_of(DropletsRule) { return HouseRule::droplets; }
constexpr HouseRule rule_of(OrderRule) { return HouseRule::order; }
constexpr HouseRule rule_of(FocusRule) { return HouseRule::focus; }
constexpr HouseRule rule_of(EffectsRule) { return HouseRule::effects; }

struct HouseRuleRow {
  HouseRule rule;
  std::string key;                 ///< in a document
  std::vector<std::string> names;  ///< of its enum's values
};
/// One row a rule, in the enum's order.
[[nodiscard]] const std::vector<HouseRuleRow>& house_rule_rows();
[[nodiscard]] const HouseRuleRow& row_of(HouseRule rule);

/// As a document has it: "flicker-safe".
template <class Rule>
[[nodiscard]] const std::string& rule_name(Rule value) {
  return row_of(rule_of(value)).names[static_cast<std::size_t>(value)];
}

/// What was chosen, as the place of a value in its enum; a rule that is not there follows whoever stands above.
using HouseRules = std::map<HouseRule, std::size_t>;
/// From a document's object; rules of other programs stay in the document only.
[[nodiscard]] HouseRules read_house_rules(const Json& rules);

}  // namespace cinnabar
