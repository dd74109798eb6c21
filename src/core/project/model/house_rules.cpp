#include "cinnabar/project/model/house_rules.h"

#include <algorithm>

namespace cinnabar {

const std::vector<HouseRuleRow>& house_rule_rows() {
  static const std::vector<HouseRuleRow> rows{
      {HouseRule::shutter, "shutter", {"half", "crisp", "flicker-safe"}},
      {HouseRule::exposure, "exposure", {"add-light", "stop-down"}},
      {HouseRule::backdrop, "backdrop", {"black", "white", "gradient", "colour", "key"}},
      {HouseRule::placing, "placing", {"far", "flush"}},
      {HouseRule::depth, "depth", {"shallow", "deep"}},
      {HouseRule::movement, "movement", {"in-camera", "locked-off"}},
      {HouseRule::overhead, "overhead", {"allowed", "never"}},
      {HouseRule::ambient, "ambient", {"black-out", "window"}},
      {HouseRule::fill, "fill", {"none", "big-far", "small-near"}},
      {HouseRule::droplets, "droplets", {"glycerin", "water"}},
      {HouseRule::order, "order", {"hero-first", "story", "fewest-moves"}},
      {HouseRule::focus, "focus", {"marks", "autofocus-locked"}},
      {HouseRule::effects, "effects", {"real", "plates"}}};
  return rows;
}

const HouseRuleRow& row_of(HouseRule rule) { return house_rule_rows()[static_cast<std::size_t>(rule)]; }

HouseRules read_house_rules(const Json& rules) {
  HouseRules read;
  if (!rules.is_object()) return read;
  for (const HouseRuleRow& row : house_rule_rows()) {
    const auto said = rules.find(row.key);
    if (said == rules.end() || !said->is_string()) continue;
    const auto at = std::find(row.names.begin(), row.names.end(), said->get_ref<const std::string&>());
    if (at != row.names.end()) read[row.rule] = static_cast<std::size_t>(at - row.names.begin());
  }
  return read;
}

}  // namespace cinnabar
