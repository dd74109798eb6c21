// The Board's edits: shots moved, copied, split and joined keep playing as they did.
#include "cinnabar/project/making/shot_edits.h"

#include "worlds.h"

namespace cinnabar {
namespace {

Json two() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}}, true);
  Json& shot = doc["shots"][0];
  shot["screen_time"] = 4.0;
  shot["play"] = {{0, 1.0}, {1, 0.25}};
  shot["tracks"] = Json::array({{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, 0}, {1.5, 90}}}}});
  shot["needs"] = {{"facing", {{"bearing_deg", 0}, {"at", 3.0}, {"for", 0.5}}}, {"length", 4.0}};
  doc["shots"].push_back(shot);
  doc["shots"][1]["id"] = "s2";
  doc["shots"][1]["tracks"][0]["keys"] = {{0, 90}, {1, 120}};
  return doc;
}
Document document() { return *Document::from_json(two()); }
Project read(const Document& d) {
  EXPECT_TRUE(validate(d).empty());
  ProjectReader reader;
  return reader.read(d);
}

TEST(ShotSplit, PlaysOnAsTheWholeDid) {
  const Project whole = read(document());
  for (const double cut : {0.4, 1.0, 2.5, 3.7}) {
    const auto parted = with_shot_split(document(), 0, cut);
    ASSERT_TRUE(parted) << parted.error().text();
    const Project p = read(*parted);
    ASSERT_EQ(p.shots.size(), 3u);
    const Shot &first = *p.shots[0], &second = *p.shots[1], &all = *whole.shots[0];
    EXPECT_NEAR(first.screen_time + second.screen_time, 4.0, 1e-6);
    for (double s = 0.05; s < 4.0; s += 0.1) {
      const bool in_first = s < cut;
      const Shot& part = in_first ? first : second;
      const double own = in_first ? s : s - cut;
      EXPECT_NEAR(part.clock.set_at(own) + (in_first ? 0.0 : all.clock.set_at(cut)), all.clock.set_at(s), 2e-5)
          << cut << " " << s;
      EXPECT_NEAR(part.track("turntable")->at(part.clock.set_at(own)),
                  all.track("turntable")->at(all.clock.set_at(s)), 2e-3)
          << cut << " " << s;
    }
    EXPECT_EQ(first.facing.has_value(), cut > 3.0);
    EXPECT_EQ(second.facing.has_value(), cut <= 3.0);
    if (second.facing) {
      EXPECT_NEAR(second.facing->at, 3.0 - cut, 1e-6);
    }
  }
  EXPECT_FALSE(with_shot_split(document(), 0, 0.0));
  EXPECT_FALSE(with_shot_split(document(), 0, 4.0));
  EXPECT_FALSE(with_shot_split(document(), 9, 1.0));
  const auto backward = with_values(document(), {{"/shots/0/reversed", true}});
  ASSERT_TRUE(backward);
  const auto parted = with_shot_split(*backward, 0, 1.0);
  ASSERT_FALSE(parted);
  EXPECT_NE(parted.error().text().find("backward"), std::string::npos);
}

TEST(ShotSplit, KeepsAnEasedMoveWhatItWas) {
  Json doc = two();
  doc["shots"][0]["tracks"][0]["profile"] = "minimum-jerk";
  doc["shots"][0]["play"] = Json::array();
  const Document whole = *Document::from_json(doc);
  const KeyedTrack all = *read(whole).shots[0]->track("turntable");
  const Project p = read(*with_shot_split(whole, 0, 0.6));
  for (double t = 0; t < 1.6; t += 0.07) {
    const double now =
        t < 0.6 ? p.shots[0]->track("turntable")->at(t) : p.shots[1]->track("turntable")->at(t - 0.6);
    EXPECT_NEAR(now, all.at(t), 0.1) << t;
  }
  // Where nothing of it moves at the cut the move stays eased.
  EXPECT_EQ(read(*with_shot_split(whole, 0, 2.0)).shots[0]->track("turntable")->shape, Shape::minimum_jerk);
}

TEST(ShotJoin, PlaysTheTwoOneAfterTheOther) {
  const Project before = read(document());
  const auto joined = with_shots_joined(document(), 0);
  ASSERT_TRUE(joined) << joined.error().text();
  const Project p = read(*joined);
  ASSERT_EQ(p.shots.size(), 1u);
  const Shot &one = *p.shots[0], &a = *before.shots[0], &b = *before.shots[1];
  EXPECT_NEAR(one.screen_time, 8.0, 1e-6);
  for (double s = 0.05; s < 8.0; s += 0.1) {
    const double expected = s < 4 ? a.clock.set_at(s) : a.set_time() + b.clock.set_at(s - 4);
    EXPECT_NEAR(one.clock.set_at(s), expected, 1e-3) << s;
    const double angle =
        s < 4 ? a.track("turntable")->at(a.clock.set_at(s)) : b.track("turntable")->at(b.clock.set_at(s - 4));
    if (std::abs(s - 4) > 0.06) {
      EXPECT_NEAR(one.track("turntable")->at(one.clock.set_at(s)), angle, 0.2) << s;
    }
  }
}

TEST(ShotJoin, AsksForOneSetUpOneModeAndNoTakes) {
  Json doc = two();
  doc["shots"][1]["camera"]["mode"] = "m100";
  EXPECT_FALSE(with_shots_joined(*Document::from_json(doc), 0));
  doc = two();
  doc["takes"].push_back({{"id", "t1"}, {"shot", "s2"}, {"number", 1}});
  const auto refused = with_shots_joined(*Document::from_json(doc), 0);
  ASSERT_FALSE(refused);
  EXPECT_NE(refused.error().text().find("has takes"), std::string::npos);
  EXPECT_FALSE(with_shots_joined(document(), 1)) << "the last has none after it";
}

TEST(ShotCopies, ShareTheSetUpOrHaveTheirOwn) {
  const auto same = with_shot_copied(document(), 0, false), own = with_shot_copied(document(), 0, true);
  ASSERT_TRUE(same && own);
  const Project a = read(*same), b = read(*own);
  EXPECT_EQ(a.shots.size(), 3u);
  EXPECT_EQ(a.shots[1]->setup, "A");
  EXPECT_EQ(a.setups.size(), 1u);
  EXPECT_EQ(b.setups.size(), 2u);
  EXPECT_NE(b.shots[1]->setup, "A");
  EXPECT_NE(by_id(b.setups, b.shots[1]->setup), nullptr);
}

TEST(ShotMoves, AndRemovalsKeepTheRest) {
  Json doc = two();
  doc["takes"].push_back({{"id", "t1"}, {"shot", "s1"}, {"number", 1}});
  const Document d = *Document::from_json(doc);
  EXPECT_EQ(read(*with_shot_moved(d, 0, 1)).shots[1]->id, "s1");
  EXPECT_FALSE(with_shot_moved(d, 0, 2));
  const Project left = read(*without_shot(d, 0));
  EXPECT_EQ(left.shots.size(), 1u);
  EXPECT_TRUE(left.takes.empty()) << "its takes went with it";
  EXPECT_FALSE(without_shot(d, 5));
}

}  // namespace
}  // namespace cinnabar
