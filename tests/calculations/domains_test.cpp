// Every calculation refuses what its own list says it refuses, and names the key: missing, unknown, given twice,
// malformed, not finite, and out of range on either side of each bound.
#include <gtest/gtest.h>

#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/cli/calculations.h"

namespace cinnabar {
namespace {

/// Words that each calculation takes: one good value for every key, by the key's name, or by the calculation's
/// where a key means something else there.
std::string good_word(const std::string& calc, const std::string& key) {
  static const std::map<std::string, std::string> by_key{{"points", "0:1,1:0.5"},
                                                         {"heights", "0.3,0.6"},
                                                         {"lab1", "50,2,3"},
                                                         {"lab2", "60,-2,3"},
                                                         {"shape", "linear"},
                                                         {"utc", "2026-06-01T12:00"},
                                                         {"angle_deg", "45"},
                                                         {"focal", "0.05"},
                                                         {"focus", "2"},
                                                         {"distance", "3"},
                                                         {"circle", "0.00002"},
                                                         {"hole_area", "0.0001"},
                                                         {"area", "0.01"},
                                                         {"discharge", "0.6"},
                                                         {"radius", "0.1"},
                                                         {"source_distance", "1"},
                                                         {"tried", "10"},
                                                         {"kept", "3"},
                                                         {"wanted", "2"},
                                                         {"hold_frames", "2"},
                                                         {"frame_rate", "24"},
                                                         {"capture_rate", "48"},
                                                         {"timeline_rate", "24"},
                                                         {"time", "0.01"},
                                                         {"kelvin", "5600"},
                                                         {"from_k", "5600"},
                                                         {"to_k", "3200"},
                                                         {"scene_k", "3200"},
                                                         {"balance_k", "5600"},
                                                         {"temperature_c", "20"},
                                                         {"glycerin_fraction", "0.5"},
                                                         {"transmittance", "0.5"},
                                                         {"depth", "0.3"},
                                                         {"mains_hz", "50"},
                                                         {"wavelength", "5.5e-7"},
                                                         {"latitude", "51"},
                                                         {"elevation_deg", "45"},
                                                         {"longitude", "4"}};
  static const std::map<std::string, std::string> by_both{{"fresnel-spot.source_distance", "0.04"},
                                                          {"snoot.length", "0.2"},
                                                          {"grid.grid_deg", "40"},
                                                          {"polariser.ior", "1.5"},
                                                          {"gel-colour.bands", "0.2,0.5,1"},
                                                          {"daylight.sky", "clear"},
                                                          {"window.sky", "partly"},
                                                          {"window.ground", "0.2"},
                                                          {"window-drift.sky", "overcast"},
                                                          {"round-mirror.camera_distance", "0.6"},
                                                          {"backdrop-rim.ior", "1.5"},
                                                          {"key-difference.screen", "0,1,0"},
                                                          {"key-difference.product", "1,0,0"},
                                                          {"flicker-beat.lamps", "0.5:0.3:0,0.5:0.3:120"},
                                                          {"turntable-start.offset", "0.01"},
                                                          {"expose.f_numbers", "2.8,4"},
                                                          {"expose.times", "0.01"},
                                                          {"expose.isos", "100,200"},
                                                          {"expose.nds", "0,1"},
                                                          {"expose.rule", "add-light"},
                                                          {"grey-noise.iso", "1"},
                                                          {"fill.profile", "0.03:0,0.03:0.1"},
                                                          {"fill.level", "0.05"},
                                                          {"tilt-hold.height", "0.5"},
                                                          {"settle.density", "2"},
                                                          {"tumble.hold", "0.02"},
                                                          {"layer-drop.terminal_speeds", "0,3"},
                                                          {"recoil.stretch", "1.5"},
                                                          {"swing-hit.radius", "0.1"},
                                                          {"swing-hit.gap", "0.1"},
                                                          {"string-spin.friction_torque", "0.01"},
                                                          {"air-jet.speed", "20"},
                                                          {"rebound.restitution", "0.5"},
                                                          {"bead-hold.advancing_deg", "60"},
                                                          {"bead-hold.receding_deg", "30"},
                                                          {"bead-dry.contact_angle_deg", "60"},
                                                          {"bead-dry.humidity", "0.5"},
                                                          {"lamp-melt.radiant_efficacy", "300"},
                                                          {"haze.asymmetry", "0.8"},
                                                          {"lip-pour.leave_deg", "30"},
                                                          {"plate-parallax.turn_deg", "1"}};
  if (const auto own = by_both.find(calc + "." + key); own != by_both.end()) return own->second;
  const auto found = by_key.find(key);
  return found == by_key.end() ? "1" : found->second;
}

std::vector<std::string> good_words(const Calculation& calc) {
  std::vector<std::string> words;
  for (const auto& key : calc.inputs) words.push_back(key.name + "=" + good_word(calc.name, key.name));
  return words;
}

class Domain : public testing::TestWithParam<std::string> {
 protected:
  const Calculation& calc_ = *find_calculation(GetParam());
  /// The refusal of words, which must name the key; empty when they were taken.
  std::string refusal(const std::vector<std::string>& words) {
    const auto answer = calc_.run(words);
    return answer ? "" : answer.error().text();
  }
};

// Own behaviour.
TEST_P(Domain, TakesGoodValuesAndNamesItsSource) {
  const auto words = good_words(calc_);
  const auto answer = calc_.run(words);
  ASSERT_TRUE(answer) << answer.error().text();
  EXPECT_EQ((*answer)["calc"], GetParam());
  EXPECT_FALSE((*answer)["source"].get<std::string>().empty());
  EXPECT_EQ((*answer)["inputs"].size(), calc_.inputs.size());
  for (const auto& line : calc_.results) EXPECT_TRUE((*answer)["results"].contains(line.name)) << line.name;
  for (const auto& [key, value] : (*answer)["results"].items())
    EXPECT_TRUE(!value.is_number() || std::isfinite(value.get<double>())) << key;
}

// Own behaviour.
TEST_P(Domain, RefusesAMissingKeyByName) {
  for (std::size_t i = 0; i < calc_.inputs.size(); ++i) {
    if (calc_.inputs[i].optional) continue;
    auto words = good_words(calc_);
    words.erase(words.begin() + static_cast<std::ptrdiff_t>(i));
    EXPECT_NE(refusal(words).find(calc_.inputs[i].name), std::string::npos) << calc_.inputs[i].name;
  }
}

// Own behaviour.
TEST_P(Domain, RefusesUnknownAndRepeatedKeys) {
  auto words = good_words(calc_);
  words.push_back("nonsense=1");
  EXPECT_NE(refusal(words).find("nonsense"), std::string::npos);
  words.back() = words.front();
  EXPECT_NE(refusal(words).find(calc_.inputs.front().name), std::string::npos);
  words.back() = "no equals sign";
  EXPECT_FALSE(refusal(words).empty());
}

// Own behaviour.
TEST_P(Domain, RefusesWhatIsNoFiniteNumber) {
  for (std::size_t i = 0; i < calc_.inputs.size(); ++i)
    for (const char* rubbish : {"nan", "inf", "-inf", "1e999", "", "twelve", "1 2", "0x10"}) {
      auto words = good_words(calc_);
      words[i] = calc_.inputs[i].name + "=" + rubbish;
      EXPECT_NE(refusal(words).find(calc_.inputs[i].name), std::string::npos) << words[i];
    }
}

// Own behaviour.
TEST_P(Domain, RefusesBothSidesOfEveryBoundItLists) {
  for (std::size_t i = 0; i < calc_.inputs.size(); ++i) {
    const std::string& range = calc_.inputs[i].range;
    std::vector<double> outside;  // "> 0 and <= 360", ">= 0", "from 0 to 1"
    const auto words_of_range = split(range, ' ');
    for (std::size_t w = 0; w + 1 < words_of_range.size(); ++w) {
      const auto bound = parse_number(words_of_range[w + 1]);
      if (!bound) continue;
      const std::string& sign = words_of_range[w];
      const double step = 1e-3 * (1 + std::abs(*bound));
      if (sign == ">") outside.insert(outside.end(), {*bound, *bound - step});
      if (sign == "<") outside.insert(outside.end(), {*bound, *bound + step});
      if (sign == ">=" || sign == "from") outside.push_back(*bound - step);
      if (sign == "<=" || sign == "to") outside.push_back(*bound + step);
    }
    for (const double value : outside) {
      auto words = good_words(calc_);
      words[i] = calc_.inputs[i].name + "=" + number_text(value, 12);
      EXPECT_NE(refusal(words).find(calc_.inputs[i].name), std::string::npos) << words[i] << " of " << range;
    }
  }
}

std::vector<std::string> names() {
  std::vector<std::string> list;
  for (const Calculation& calc : calculations()) list.push_back(calc.name);
  return list;
}
INSTANTIATE_TEST_SUITE_P(Calculations, Domain, testing::ValuesIn(names()), [](const auto& row) {
  std::string name = row.param;
  for (char& c : name) c = c == '-' ? '_' : c;
  return name;
});

}  // namespace
}  // namespace cinnabar
