// What the search for levers rests on: one level measured by what it reads alone, extremes of noisy pixels, first
// moves, several turned together, and prices.
#include <algorithm>
#include <cstdlib>
#include <random>

#include "cinnabar/forecast/level_table.h"
#include "cinnabar/forecast/measures/light_numbers.h"
#include "odd_setups.h"

namespace cinnabar {
namespace {

using judging::can;
using namespace odd_setups;

class InPart : public testing::TestWithParam<Odd> {};

/// A level asked for alone is measured by what it reads alone, and is the same number.
// Own behaviour.
TEST_P(InPart, OneLevelAloneIsTheSameAsAmongAll) {
  Json doc = set_up();
  GetParam().change(doc);
  const Project project = worlds::read(doc);
  const Forecaster whole;
  std::size_t sampled = 0;
  for (const Level& level : whole.levels(project, 0)) {
    if (!level_row(level.id)->sampled()) continue;
    const Forecaster fresh;
    const auto alone = fresh.levels(project, 0, level.id);
    ASSERT_EQ(alone.size(), 1u) << level.id;
    ASSERT_EQ(alone[0].value.has_value(), level.value.has_value()) << level.id;
    if (!level.value) continue;
    EXPECT_NEAR(*alone[0].value, *level.value, 1e-5) << level.id;
    EXPECT_EQ(alone[0].state, level.state) << level.id;
    ++sampled;
  }
  EXPECT_GE(sampled, 4u);
}

/// Passes that go only where a level reads give what passes over the whole picture give.
// Own behaviour.
TEST_P(InPart, PassesWhereItIsReadGiveWhatPassesEverywhereGive) {
  Json doc = set_up();
  GetParam().change(doc);
  const Project project = worlds::read(doc);
  MeasureQuality closer = full_measure;
  closer.passes = 32, closer.paths = 4 * full_measure.paths;
  const Forecaster everywhere(closer), there(closer);
  for (const Level& level : everywhere.levels(project, 0)) {
    const LevelRow* row = level_row(level.id);
    if (!row->sampled() || row->reads == reads_brightest || !level.value) continue;
    EXPECT_NEAR(*there.levels(project, 0, level.id).at(0).value, *level.value, 1e-4) << level.id;
  }
}

/// Levers for what is off keep their word where the demo never goes: they come home, and nothing gets worse of
/// which they are silent. CINNABAR_ALL_LEVERS for every level that is off, four levers each.
// Own behaviour.
TEST_P(InPart, LeversComeHome) {
  Json doc = set_up();
  doc["setups"][0]["lights"][0]["dimmer"] = 0.3;
  GetParam().change(doc);
  const Document document = *Document::from_json(doc);
  ProjectReader reader;
  const Forecaster forecaster;
  const auto before = forecaster.sure_levels(reader.read(document), 0);
  const bool all = std::getenv("CINNABAR_ALL_LEVERS") != nullptr;
  for (const Level& own : before) {
    if (own.state != State::out && own.state != State::leaning) continue;
    if (!all && own.id != "light.product" && own.id != "light.backdrop") continue;
    const auto levers = forecaster.levers(document, 0, own.id, nullptr, {.known = before});
    EXPECT_TRUE(!levers.list.empty() || !levers.why.empty()) << own.id;
    for (std::size_t k = 0; k < std::min<std::size_t>(all ? 4 : 2, levers.list.size()); ++k) {
      const Lever& lever = levers.list[k];
      for (const Level& after : Forecaster().sure_levels(reader.read(applied(document, lever.edit)), 0)) {
        if (after.id == own.id) {
          EXPECT_EQ(after.state, State::level) << lever.title << ": " << after.formula;
          continue;
        }
        const auto was =
            std::find_if(before.begin(), before.end(), [&](const Level& l) { return l.id == after.id; });
        if (was == before.end()) continue;
        const auto told = std::find_if(lever.moved.begin(), lever.moved.end(),
                                       [&](const MovedLevel& m) { return !m.shot && m.after.id == after.id; });
        const State said = told == lever.moved.end() ? was->state : told->after.state;
        EXPECT_LE(weight_of(after.state), weight_of(said)) << lever.title << " is silent about " << after.formula;
      }
    }
  }
}
INSTANTIATE_TEST_SUITE_P(Odd, InPart, testing::ValuesIn(odds),
                         [](const auto& odd) { return std::string(odd.param.name); });

/// In the dark nothing is told, alone or among all, and no lever is made up.
// Own behaviour.
TEST(InTheDark, NothingIsMeasuredAndNothingPromised) {
  Json doc = set_up();
  for (Json& light : doc["setups"][0]["lights"]) light["on"] = false;
  const Document document = *Document::from_json(doc);
  const Project project = worlds::read(doc);
  const Forecaster forecaster;
  std::size_t dark = 0;
  for (const Level& level : forecaster.sure_levels(project, 0)) {
    if (!level_row(level.id)->sampled()) continue;
    EXPECT_EQ(level.state, State::unknown) << level.id << " " << level.formula;
    EXPECT_FALSE(level.value) << level.id;
    EXPECT_FALSE(Forecaster().levels(project, 0, level.id).at(0).value) << level.id;
    const auto levers = forecaster.levers(document, 0, level.id);
    EXPECT_TRUE(levers.list.empty()) << level.id;
    EXPECT_FALSE(levers.why.empty()) << level.id;
    ++dark;
  }
  EXPECT_GE(dark, 4u);
}

/// The mean of the highest third of pure noise lies phi(z) / (1/3) = 1.0908 deviations up, z the 2/3 quantile of
/// the normal distribution (Abramowitz & Stegun 1964, table 26.1); ranked by the mean of 25 it keeps a fifth of
/// that.
// Source: Abramowitz & Stegun 1964, table 26.1.
TEST(Extremes, OfNoiseAreNotPickedForTheirNoise) {
  Film film(240, 240, 1);
  std::mt19937 random(11);
  std::normal_distribution<double> noise(1.0, 0.2);
  std::vector<std::optional<double>> pixels(film.pixels());
  std::vector<double> sorted;
  for (auto& p : pixels) p = noise(random), sorted.push_back(*p);
  std::sort(sorted.rbegin(), sorted.rend());
  double top = 0.0;
  for (std::size_t i = 0; i < sorted.size() / 3; ++i) top += sorted[i] / (sorted.size() / 3);
  EXPECT_NEAR(top, 1.0 + 1.0908 * 0.2, 0.01) << "what a plain third gives";
  EXPECT_NEAR(mean_of_extreme(film, pixels, 1.0 / 3, true), 1.0 + 1.0908 * 0.2 / 5, 0.01);
  EXPECT_NEAR(mean_of_extreme(film, pixels, 1.0 / 3, false), 1.0 - 1.0908 * 0.2 / 5, 0.01);
  // Where one half is brighter in truth, its pixels are found, and those that are no pixels of it left out.
  for (int y = 0; y < 240; ++y)
    for (int x = 0; x < 240; ++x) {
      auto& p = pixels[film.at(x, y)];
      if (x < 80) *p += 3.0;
      if (y < 10) p.reset();
    }
  EXPECT_NEAR(mean_of_extreme(film, pixels, 1.0 / 3, true), 4.0, 0.02);
}

struct FirstMove {
  const char *level, *words;
};
void PrintTo(const FirstMove& move, std::ostream* out) { *out << move.level << " " << move.words; }
class FirstMoves : public testing::TestWithParam<FirstMove> {};

/// What a practitioner would try first is among what is tried.
// Common practice, no source
TEST_P(FirstMoves, AreAmongWhatIsTried) {
  Json doc = set_up();
  doc["setups"][0]["lights"].push_back(worlds::rectangle("strip", {-0.5, 0.3, 0.1}, {0, 0.05, 0}, 0.1, 0.8, 900));
  doc["setups"][0]["lights"].push_back(worlds::rectangle("spare", {0.2, 0.9, 0.2}, {0, 0.05, 0}, 0.3, 0.3, 900));
  doc["setups"][0]["lights"][3]["on"] = false;
  doc["setups"][0]["cards"].push_back({{"id", "fill"},
                                       {"name", "Fill"},
                                       {"place", {-0.3, 0.1, 0.1}},
                                       {"aim", {0, 0.05, 0}},
                                       {"width", 0.3},
                                       {"height", 0.3}});
  doc["kit"]["lights"].push_back({{"id", "steady"}, {"name", "Steady"}, {"lumens", 5000}, {"ripple", 0.0}});
  Json second = doc["kit"]["cameras"][0];
  second["id"] = "second", second["name"] = "Second body";
  doc["kit"]["cameras"].push_back(second);
  doc["products"][0]["features"] = {
      {{"id", "name"}, {"name", "the name"}, {"at", {0, 0.05, 0.04}}, {"detail", 0.004}}};
  doc["shots"][0]["products"][0].erase("on");
  doc["shots"][0]["needs"] = {{"features", {"can/name"}}};
  const Document document = *Document::from_json(doc);
  const Project project = worlds::read(doc);
  const KnobList list = knobs_for(document, project, 0, {.id = GetParam().level});
  const bool there = std::any_of(list.knobs.begin(), list.knobs.end(), [](const Knob& knob) {
    return std::any_of(knob.steps.begin(), knob.steps.end(),
                       [&](double v) { return knob.title(v).find(GetParam().words) != std::string::npos; });
  });
  EXPECT_TRUE(there);
}
INSTANTIATE_TEST_SUITE_P(
    Levels, FirstMoves,
    testing::Values(
        FirstMove{"light.product", "Switch spare on"}, FirstMove{"light.product", "Dim key"},
        FirstMove{"light.product", "Open from"}, FirstMove{"light.shadow", "every light brighter"},
        FirstMove{"light.backdrop", "left of the backdrop"}, FirstMove{"light.backdrop", "Stand a flag"},
        FirstMove{"light.backdrop", "Turn key"}, FirstMove{"light.backdrop", "degrees down"},
        FirstMove{"frame.copy-space", "right of the backdrop"}, FirstMove{"light.highlight", "Carry key"},
        FirstMove{"light.highlight", "Hang diffusion"}, FirstMove{"light.highlight", "way to the product"},
        FirstMove{"light.ratio", "on the dark side"}, FirstMove{"light.ratio", "Move the card Fill"},
        FirstMove{"light.ratio", "Turn the card Fill"}, FirstMove{"light.soft", "it takes a stop"},
        FirstMove{"light.stripe", "Raise strip"}, FirstMove{"light.stripe", "Lean strip"},
        FirstMove{"light.stripe", "Lower the camera"}, FirstMove{"light.stripe", "Set the product down"},
        FirstMove{"light.spill", "Switch key off"}, FirstMove{"light.cast", "product and camera"},
        FirstMove{"light.flicker", "Put Steady in the place of"}, FirstMove{"light.flicker", "Record"},
        FirstMove{"focus.depth", "every light brighter"}, FirstMove{"focus.diffraction", "neutral density"},
        FirstMove{"frame.shapes", "Aim the camera"}, FirstMove{"frame.backdrop-edge", "Raise the camera"},
        FirstMove{"frame.backdrop-edge", "forward from the backdrop"},
        FirstMove{"camera.mode", "Shoot with Second body"}, FirstMove{"camera.iso", "every light"},
        FirstMove{"camera.iso", "Move key"}, FirstMove{"frame.feature", "Focus on the name"},
        FirstMove{"frame.feature", "Carry key"}));

/// Three stops short: no light and no stop alone reaches without harm; two together do.
// Own behaviour.
TEST(Together, WhatOneAloneCannotIsFoundByTwo) {
  Json doc = can();
  doc["setups"][0]["lights"][0]["dimmer"] = 0.2;
  const Document document = *Document::from_json(doc);
  const Forecaster forecaster;
  const auto alone = forecaster.levers(document, 0, "light.product", nullptr, {.together = false});
  for (const Lever& lever : alone.list) EXPECT_GT(lever.harm, 0) << lever.title;
  const auto levers = forecaster.levers(document, 0, "light.product");
  ASSERT_FALSE(levers.list.empty());
  const Lever& best = levers.list.front();
  EXPECT_EQ(best.harm, 0) << best.title << ": " << best.price;
  EXPECT_NE(best.title.find("; "), std::string::npos) << best.title;
  for (const Lever& lever : levers.list)  // one thing is turned once
    EXPECT_LE(std::count(lever.title.begin(), lever.title.end(), ';'), 2) << lever.title;
}

/// What a lever moves is told as it was and as it is then, the harmed first; levels known before change nothing.
// Own behaviour.
TEST(Prices, TellWhatMoves) {
  Json doc = can();
  doc["setups"][0]["lights"][0]["dimmer"] = 0.2;
  const Document document = *Document::from_json(doc);
  ProjectReader reader;
  const Forecaster forecaster;
  const auto before = forecaster.sure_levels(reader.read(document), 0);
  const auto levers =
      forecaster.levers(document, 0, "light.product", nullptr, {.known = before, .together = false});
  const auto again = forecaster.levers(document, 0, "light.product", nullptr, {.together = false});
  ASSERT_EQ(levers.list.size(), again.list.size());
  ASSERT_FALSE(levers.list.empty());
  const Lever& iso = levers.list.front();
  EXPECT_NE(iso.title.find("ISO"), std::string::npos);
  EXPECT_EQ(iso.title, again.list.front().title);
  ASSERT_GE(iso.moved.size(), 2u);
  EXPECT_EQ(iso.moved[0].after.id, "camera.iso") << "what is harmed stands first";
  EXPECT_EQ(iso.moved[0].before.value, 400.0);
  EXPECT_EQ(iso.moved[0].after.value, 3200.0);
  EXPECT_EQ(iso.moved[0].after.state, State::out);
  for (const MovedLevel& moved : iso.moved) {
    const auto was =
        std::find_if(before.begin(), before.end(), [&](const Level& l) { return l.id == moved.after.id; });
    ASSERT_NE(was, before.end());
    EXPECT_EQ(was->value, moved.before.value) << was->id;
    EXPECT_NE(moved.after.id, "light.product");
  }
}

}  // namespace
}  // namespace cinnabar
