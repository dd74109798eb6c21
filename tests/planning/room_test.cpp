// The room and the circuits that set-ups need, by hand.
#include "cinnabar/planning/room.h"

#include "worlds.h"

namespace cinnabar {
namespace {

Json world() {
  Json doc = worlds::bare();
  doc["setups"][0]["surface"] = {{"width", 1.2}, {"depth", 0.8}, {"material", {{"kind", "matte"}}}};
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 1.5}, {"width", 2.0}, {"height", 1.6}, {"low", 0.0}};
  doc["setups"][0]["lights"].push_back({{"id", "a"},
                                        {"kit", "led"},
                                        {"place", {1.4, 1.1, 0.2}},
                                        {"aim", {0, 0, 0}},
                                        {"shape", "rectangle"},
                                        {"width", 0.5},
                                        {"height", 0.6}});
  return doc;
}

// Own behaviour, worked by hand.
TEST(Room, IsWhatStandsInItWithFeetAndTheOneBehindTheCamera) {
  const RoomNeeds needs = room_needs(worlds::read(world()));
  EXPECT_NEAR(needs.width, 1.0 + 1.7, 1e-9);        // backdrop to the left, the light's foot to the right
  EXPECT_NEAR(needs.depth, 1.5 + 0.3 + 1.6, 1e-9);  // backdrop's stand; camera at 1 m and 0.6 m behind it
  EXPECT_NEAR(needs.height, 0.75 + 1.6, 1e-9);      // the backdrop's top, the light's being at 1.4
  EXPECT_NEAR(needs.watts, 100, 1e-9);
  EXPECT_EQ(needs.widest, "A");
}

// Own behaviour, worked by hand.
TEST(Room, FaultsNameTheSetUpAndTheMetres) {
  Json doc = world();
  const auto told = [&] {
    const Project p = worlds::read(doc);
    return room_faults(p, room_needs(p));
  };
  EXPECT_TRUE(told().empty()) << "nothing is said of the room";
  doc["project"]["means"] = {{"room_width", 3.4}, {"room_depth", 2.7}, {"room_height", 2.4}};
  EXPECT_TRUE(told().empty()) << "it stands the other way round";
  doc["project"]["means"] = {{"room_width", 3.0}, {"room_depth", 3.0}, {"room_height", 2.25}};
  ASSERT_EQ(told().size(), 2u);
  EXPECT_EQ(told()[0], "The room is 0.40 m too small for set-up A.");
  EXPECT_EQ(told()[1], "The room is 100 mm too low for set-up A.");
  doc["kit"]["lights"][0]["watts"] = 3000;  // 0.8 x 16 A x 230 V = 2944 W
  doc["project"]["means"] = {{"circuits", 1}};
  ASSERT_EQ(told().size(), 1u);
  EXPECT_EQ(told()[0], "Set-up A draws 3000 W; 1 circuit carries 2944 W for long.");
  doc["project"]["means"]["circuits"] = 2;
  EXPECT_TRUE(told().empty());
}

// Own behaviour, worked by hand.
TEST(Room, OfAnEmptyProjectIsNone) {
  ProjectReader reader;
  EXPECT_EQ(room_needs(reader.read(empty_document("New"))).width, 0);
}

}  // namespace
}  // namespace cinnabar
