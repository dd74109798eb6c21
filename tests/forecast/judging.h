// Judging small worlds: one level of the first shot, against a value and a state; and levers that keep their word.
#pragma once
#include <cmath>

#include "cinnabar/forecast/forecast.h"
#include "cinnabar/forecast/levels/context.h"
#include "worlds.h"

namespace cinnabar::judging {

inline std::optional<Level> level_of(const Json& doc, const std::string& id) {
  static const Forecaster forecaster;
  const Project project = worlds::read(doc);
  auto list = forecaster.levels(project, 0, id);
  return list.empty() ? std::nullopt : std::optional(list[0]);
}

inline void expect_level(const Json& doc, const std::string& id, double value, State state, double tolerance) {
  const auto level = level_of(doc, id);
  ASSERT_TRUE(level) << id;
  ASSERT_TRUE(level->value) << id << " " << level->formula;
  EXPECT_NEAR(*level->value, value, tolerance) << id << " " << level->formula;
  EXPECT_EQ(state_name(level->state), std::string(state_name(state))) << id << " " << *level->value;
  EXPECT_FALSE(level->sentence.empty());
  EXPECT_FALSE(level->source.empty());
  EXPECT_NE(level->formula.find_first_of("0123456789"), std::string::npos) << "the formula has no numbers";
}

/// A labelled matte can 1 m from a 50 mm lens, lit by a large panel from the camera's side.
inline Json can(double reflectance = 0.18) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}, {"colour", {reflectance, reflectance, reflectance}}}, true);
  doc["products"][0]["label"]["material"]["colour"] = {reflectance, reflectance, reflectance};
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0, 0.05, 1.5}, {0, 0.05, 0}, 0.5, 0.5, 4000));
  return doc;
}

inline void expect_levers_hold(const Json& doc, const std::string& id, std::size_t at_least) {
  SCOPED_TRACE(id);
  const Document document = *Document::from_json(doc);
  const Forecaster forecaster, fresh;
  const auto levers = forecaster.levers(document, 0, id);
  EXPECT_GE(levers.list.size(), at_least) << levers.why;
  for (const Lever& lever : levers.list) {
    const Document after = applied(document, lever.edit);
    EXPECT_TRUE(validate(after).empty()) << lever.title;
    ProjectReader reader;
    const auto level = fresh.levels(reader.read(after), 0, id);
    ASSERT_EQ(level.size(), 1u) << lever.title;
    EXPECT_EQ(level[0].state, State::level) << lever.title << " " << level[0].formula;
    EXPECT_NEAR(*level[0].value, lever.after, 1e-9) << lever.title;
    EXPECT_FALSE(lever.price.empty());
  }
}

}  // namespace cinnabar::judging
