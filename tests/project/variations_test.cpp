// Set-ups that are variations of another: what they have alike they share, however the change is made.
#include "cinnabar/project/document/variations.h"

#include "cinnabar/project/making/shot_edits.h"
#include "worlds.h"

namespace cinnabar {
namespace {

/// Two shots away from the origin, lit by a key and a fill, the second on a variation of the first's set-up.
Document varied() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, worlds::matte(0.5, 0.5, 0.5));
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("key", {0.9, 0.7, 0.6}, {0.3, 0.05, -0.2}, 0.4, 0.2, 4000),
                   worlds::rectangle("fill", {-0.9, 0.7, 0.6}, {0.3, 0.05, -0.2}, 0.4, 0.2, 1000)});
  doc["setups"][0]["pins"] = Json::array({{{"id", "p1"},
                                           {"at", {0, 0.1, 0}},
                                           {"normal", {0, 1, 0}},
                                           {"measured", {{"illuminance_lx", 900}, {"at", "then"}}}}});
  Json second = doc["shots"][0];
  second["id"] = "s2";
  doc["shots"].push_back(second);
  const auto made = with_setup_varied(*Document::from_json(doc), 1);
  EXPECT_TRUE(made) << made.error().text();
  return *made;
}
Json at(const Document& document, const std::string& pointer) {
  return value_at(document, pointer).value_or(Json("nothing"));
}
Document set(const Document& document, const Values& values) {
  const auto next = with_values(document, values);
  EXPECT_TRUE(next) << next.error().text();
  EXPECT_TRUE(validate(*next).empty());
  return *next;
}

// Own behaviour.
TEST(Variations, AreMadeAlikeUnderANameOfTheirOwn) {
  const Document document = varied();
  ASSERT_EQ(document.list("setups").size(), 2u);
  EXPECT_TRUE(validate(document).empty());
  EXPECT_EQ(at(document, "/setups/1/of"), "A");
  EXPECT_EQ(at(document, "/shots/0/setup"), "A");
  EXPECT_EQ(at(document, "/shots/1/setup"), at(document, "/setups/1/id"));
  EXPECT_EQ(at(document, "/setups/1/lights"), at(document, "/setups/0/lights"));
  EXPECT_EQ(at(document, "/setups/1/pins/0/measured"), "nothing") << "nobody read a meter there";
  const auto more = with_setup_varied(document, 0);
  ASSERT_TRUE(more);
  EXPECT_NE(at(*more, "/setups/2/name"), at(*more, "/setups/1/name"));
  EXPECT_EQ(at(*with_setup_varied(document, 0, "At dusk"), "/setups/2/name"), "At dusk");
  EXPECT_FALSE(with_setup_varied(document, 5));
}

// Own behaviour.
TEST(Variations, GoAlongInWhatTheyHaveAlike) {
  const Json wall{{"kind", "flat"}, {"distance", 2.5}, {"width", 2.0}, {"height", 2.0}};
  Document document = set(varied(), {{"/setups/1/lights/0/dimmer", 0.25}, {"/setups/1/backdrop", wall}});
  EXPECT_EQ(at(document, "/setups/0/lights/0/dimmer"), "nothing") << "a variation changes nobody else";
  document = set(document, {{"/setups/0/lights/0/dimmer", 0.5},
                            {"/setups/0/lights/0/place", Json{0.8, 0.9, 0.4}},
                            {"/setups/0/lights/1/lumens", 1500},
                            {"/setups/0/ambient", Json{{"illuminance_lx", 20}}},
                            {"/setups/0/pins/0/measured/illuminance_lx", 800},
                            {"/setups/0/name", "Other"}});
  EXPECT_EQ(at(document, "/setups/1/lights/0/dimmer"), 0.25) << "it has its own";
  EXPECT_EQ(at(document, "/setups/1/backdrop"), wall);
  EXPECT_EQ(at(document, "/setups/1/lights/0/place"), Json({0.8, 0.9, 0.4}));
  EXPECT_EQ(at(document, "/setups/1/lights/1/lumens"), 1500);
  EXPECT_EQ(at(document, "/setups/1/ambient/illuminance_lx"), 20);
  EXPECT_EQ(at(document, "/setups/1/pins/0/measured"), "nothing");
  EXPECT_NE(at(document, "/setups/1/name"), "Other");
  document = set(document, {{"/setups/0/ambient", std::nullopt}});
  EXPECT_EQ(at(document, "/setups/1/ambient"), "nothing");
}

// Own behaviour.
TEST(Variations, ThingsComeAndGoByTheirIds) {
  Document document = set(varied(), {{"/setups/1/lights/0/dimmer", 0.25}, {"/setups/1/lights/1", std::nullopt}});
  document = set(document, {{"/setups/0/lights/-", worlds::rectangle("rim", {0, 1, -1}, {0, 0, 0}, 0.1, 0.4, 900)},
                            {"/setups/0/lights/1/on", false}});
  ASSERT_EQ(at(document, "/setups/1/lights").size(), 2u) << "the fill stays away, the rim came";
  EXPECT_EQ(at(document, "/setups/1/lights/1/id"), "rim");
  document = set(document, {{"/setups/0/lights", Json::array()}});
  ASSERT_EQ(at(document, "/setups/1/lights").size(), 1u) << "the rim went, the key that was changed stays";
  EXPECT_EQ(at(document, "/setups/1/lights/0/dimmer"), 0.25);
}

// Own behaviour.
TEST(Variations, OfVariationsGoAlongTooAndAreTakenBackWithTheEdit) {
  Document document = *with_setup_varied(varied(), 1);
  ASSERT_EQ(document.list("setups").size(), 3u);
  const auto edit = changed(document, {{"/setups/0/lights/0/kelvin", 3200}}, "Key warmer");
  ASSERT_TRUE(edit);
  const Document after = applied(document, *edit);
  for (int s = 0; s < 3; ++s) EXPECT_EQ(at(after, fmt::format("/setups/{}/lights/0/kelvin", s)), 3200);
  EXPECT_EQ(applied(after, *edit, false).to_json(), document.to_json());
  const std::string first = at(document, "/setups/1/id"), second = at(document, "/setups/2/id");
  EXPECT_EQ(setups_along(document, "A"), (std::set<std::string>{"A", first, second}));
  EXPECT_EQ(setups_along(document, first), (std::set<std::string>{first, second}));
  EXPECT_EQ(setups_along(document, second), (std::set<std::string>{second}));
}

// Own behaviour.
TEST(Variations, OfNothingOrInACircleAreRefused) {
  const Document document = varied();
  const auto round = changed(document, {{"/setups/0/of", at(document, "/setups/1/id")}}, "round");
  ASSERT_FALSE(round);
  EXPECT_NE(round.error().text().find("leads back"), std::string::npos);
  EXPECT_FALSE(changed(document, {{"/setups/0/of", "A"}}, "itself"));
  EXPECT_FALSE(changed(document, {{"/setups/1/of", "Z"}}, "nothing"));
  EXPECT_FALSE(changed(document, {{"/setups/1/of", 7}}, "a number"));
  // What cannot be is told by validation, and ends.
  Json bad = document.to_json();
  bad["setups"][0]["of"] = bad["setups"][1]["id"];
  const auto set_anyway = with_value(*Document::from_json(bad), "/setups/0/lights/0/dimmer", 0.1);
  ASSERT_TRUE(set_anyway);
  EXPECT_EQ(at(*set_anyway, "/setups/1/lights/0/dimmer"), 0.1);
}

// Own behaviour.
TEST(Variations, AChangeCanBeKeptForOneShotAlone) {
  Document before = varied();
  before = set(before, {{"/shots/1/setup", "A"}});
  const Document after = set(before, {{"/setups/0/lights/0/dimmer", 0.3}});
  const auto alone = changed_for_shot_alone(before, after, 1);
  ASSERT_TRUE(alone) << alone.error().text();
  EXPECT_TRUE(validate(*alone).empty());
  EXPECT_EQ(at(*alone, "/setups/0"), at(before, "/setups/0"));
  EXPECT_EQ(at(*alone, "/setups/1"), at(before, "/setups/1")) << "nor do earlier variations go along";
  EXPECT_EQ(at(*alone, "/shots/0/setup"), "A");
  EXPECT_EQ(at(*alone, "/shots/1/setup"), at(*alone, "/setups/2/id"));
  EXPECT_EQ(at(*alone, "/setups/2/lights/0/dimmer"), 0.3);
  EXPECT_EQ(at(*alone, "/setups/2/of"), "A");
}

}  // namespace
}  // namespace cinnabar
