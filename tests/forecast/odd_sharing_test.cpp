// Shared set-ups, bodies and methods by a window, in set-ups that no demo has.
#include "cinnabar/forecast/methods/methods.h"
#include "cinnabar/forecast/touched.h"
#include "cinnabar/planning/set_bodies.h"
#include "cinnabar/project/document/variations.h"
#include "cinnabar/project/making/shot_edits.h"
#include "odd_setups.h"

namespace cinnabar {
namespace {
using namespace odd_setups;

class OddSharing : public OddTest {
 protected:
  static std::map<std::string, Level> levels(const Document& document, std::size_t shot) {
    ProjectReader reader;
    std::map<std::string, Level> by_id;
    for (Level& level : Forecaster(quick_measure).levels(reader.read(document), shot))
      by_id.emplace(level.id, std::move(level));
    return by_id;
  }
};

// Own behaviour: what is told of the others is what a forecast of each says before and after, and all of it.
TEST_P(OddSharing, WhatIsToldOfOtherShotsIsWhatTheirForecastsSay) {
  Json d = doc();
  Json second = d["shots"][0];
  second["id"] = "s2";
  d["shots"].push_back(second);
  second["id"] = "s3";
  d["shots"].push_back(second);
  const Document shared = *with_setup_varied(*Document::from_json(d), 2);
  const Document before = *with_value(shared, "/setups/1/lights/1/on", false);
  const Document after = *with_values(
      before, {{"/setups/0/lights/0/on", false}, {"/setups/0/lights/1/lumens", 4500}, {"/setups/0/name", "Else"}});
  ASSERT_TRUE(validate(after).empty());
  EXPECT_EQ(value_at(after, "/setups/1/lights/1/lumens"), Json(4500));
  EXPECT_EQ(value_at(after, "/setups/1/lights/1/on"), Json(false)) << "its own";
  const auto told = touched(Forecaster(quick_measure), before, after, 0);
  ASSERT_EQ(told.size(), 2u);
  for (const Touched& one : told) {
    SCOPED_TRACE(one.shot);
    EXPECT_FALSE(one.moved.empty()) << "a light went";
    const auto was = levels(before, one.shot), is = levels(after, one.shot);
    for (const auto& [id, level] : is) {
      if (!was.contains(id)) continue;
      const auto moved = std::find_if(one.moved.begin(), one.moved.end(),
                                      [&id = id](const MovedLevel& m) { return m.after.id == id; });
      EXPECT_EQ(moved != one.moved.end(), has_moved(was.at(id), level, true)) << id;
      if (moved == one.moved.end()) continue;
      EXPECT_EQ(moved->before.value, was.at(id).value) << id;
      EXPECT_EQ(moved->after.value, level.value) << id;
      EXPECT_EQ(moved->after.state, level.state) << id;
    }
  }
}

// Own behaviour: what raises is of the picture, stands under the product and leaves every level computable.
TEST_P(OddSharing, AProductOnABodyIsJudgedAsBefore) {
  for (const SheetKind& kind : body_kinds()) {
    SCOPED_TRACE(kind.id);
    const Document document = *Document::from_json(doc());
    ProjectReader reader;
    const Project project = reader.read(document);
    const auto edit = body_added({document, project, 0, 0.0}, kind.id);
    ASSERT_TRUE(edit);
    const Document with = *with_values(document, edit->values);
    for (const auto& fault : validate(with)) ADD_FAILURE() << fault.path << " " << fault.message;
    const Project then = reader.read(with);
    const Gear& body = then.setups[0]->gear[0];
    const Vec3 was = project.shots[0]->products[0].place, is = then.shots[0]->products[0].place;
    EXPECT_NEAR(is.y - was.y, body.dressed ? body.size.y : 0.0, 1e-6);
    const auto before = levels(document, 0), after = levels(with, 0);
    for (const auto& [id, level] : before) {
      ASSERT_TRUE(after.contains(id)) << id;
      if (level.value && body.dressed) {
        EXPECT_TRUE(after.at(id).value) << id << " " << after.at(id).sentence;
      }
    }
    if (body.dressed) {
      EXPECT_NEAR(after.at("frame.gear").value.value_or(-1), before.at("frame.gear").value.value_or(-1), 3.0);
    }
    const Values gone = body_taken({with, then, 0, 0.0}, {SetThing::Kind::body, 0});
    EXPECT_EQ(value_at(*with_values(with, gone), "/shots/0/products/0"),
              value_at(document, "/shots/0/products/0"));
  }
}

// Own behaviour: a window's methods carry no lamp, and what they are made for is told as it then stands.
TEST_P(OddSharing, AWindowLightsIt) {
  Json d = doc();
  d["kit"]["lights"] = Json::array();
  for (Json& light : d["setups"][0]["lights"]) light.erase("kit");
  Json& shot = d["shots"][0];
  if (shot.contains("tracks"))
    for (std::size_t k = shot["tracks"].size(); k-- > 0;)
      if (shot["tracks"][k]["target"].get<std::string>().starts_with("light.")) shot["tracks"].erase(k);
  const Document document = *Document::from_json(d);
  const Forecaster forecaster(quick_measure);
  const auto found = methods_for(forecaster, document, 0, "window-side");
  ASSERT_TRUE(found) << found.error().text();
  ASSERT_EQ(found->size(), 1u);
  const MethodStanding& one = found->front();
  for (const auto& fault : validate(one.after)) ADD_FAILURE() << fault.path << " " << fault.message;
  const Json lights = *value_at(one.after, "/setups/0/lights");
  EXPECT_LE(lights.size(), 1u);
  for (const Json& light : lights) EXPECT_EQ(light["daylight"], true);
  const auto then = levels(one.after, 0);
  for (const Level& level : one.levels) {
    EXPECT_EQ(level.state, then.at(level.id).state) << level.id;
    if (level.id == "light.product") {
      EXPECT_TRUE(level.value) << "it is lit";
    }
  }
}

INSTANTIATE_TEST_SUITE_P(Odd, OddSharing, testing::ValuesIn(odds), [](const auto& odd) { return odd.param.name; });

}  // namespace
}  // namespace cinnabar
