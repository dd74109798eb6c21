// The room, its windows and gels, as edits that leave a valid document.
#include "cinnabar/planning/room_things.h"

#include "worlds.h"

namespace cinnabar {
namespace {

using Kind = SetThing::Kind;

/// A document, an edit made of it, and what is then there.
Json made(const Json& doc, const std::function<std::optional<SetEdit>(const OnSet&)>& edit) {
  const Document document = *Document::from_json(doc);
  const Project project = worlds::read(doc);
  const auto out = edit({document, project, 0, 0.0});
  EXPECT_TRUE(out);
  if (!out) return doc;
  const auto next = with_values(document, out->values);
  EXPECT_TRUE(next) << (next ? "" : next.error().text());
  for (const auto& fault : validate(*next)) ADD_FAILURE() << fault.path << " " << fault.message;
  return next->to_json();
}

// Own behaviour.
TEST(RoomThings, WallsAndWindowsComeAndGo) {
  Json doc = worlds::bare();
  doc["project"]["means"] = {{"room_width", 3.2}};
  doc["setups"][0]["lights"] = Json::array({worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 0.3, 0.3, 2000)});
  const Json walled = made(doc, room_switched);
  EXPECT_EQ(walled["setups"][0]["room"]["width"], 3.2);
  EXPECT_EQ(walled["setups"][0]["room"]["depth"], 5.0);
  Json lit = walled;
  for (const RoomWall wall : {RoomWall::left, RoomWall::ceiling})
    lit = made(lit, [wall](const OnSet& on) { return window_added(on, wall); });
  ASSERT_EQ(lit["setups"][0]["room"]["windows"].size(), 2u);

  const Document document = *Document::from_json(lit);
  const Project project = worlds::read(lit);
  const OnSet on{document, project, 0, 0.0};
  ASSERT_EQ(project.setups[0]->lights.size(), 3u);
  // The lamp, the camera and the room are taken on the floor; windows are in the list of lights alone.
  const auto things = things_of(on);
  EXPECT_EQ(things.size(), 3u);
  EXPECT_EQ(things.back().kind, Kind::room);
  EXPECT_EQ(name_of(on, {Kind::light, 2}), "Skylight");
  EXPECT_EQ(pointer_of(on, {Kind::light, 2}), "/setups/0/room/windows/1");
  EXPECT_TRUE(value_at(document, pointer_of(on, things.back())));
  EXPECT_TRUE(carried_to(on, {Kind::light, 1}, {0, 1, 0}, true).empty()) << "nothing carries a window";
  EXPECT_FALSE(modifier_put(on, {Kind::light, 1}, ""));
  EXPECT_FALSE(doubled(on, {Kind::light, 1}));
  EXPECT_FALSE(gel_put(on, {Kind::light, 1}, "teal"));
  const Json one = made(lit, [](const OnSet& o) { return taken_away(o, {Kind::light, 1}); });
  ASSERT_EQ(one["setups"][0]["room"]["windows"].size(), 1u);
  EXPECT_EQ(one["setups"][0]["room"]["windows"][0]["wall"], "ceiling");
  EXPECT_EQ(one["setups"][0]["lights"].size(), 1u);
  const Json overcast = made(one, [](const OnSet& o) { return sky_set(o, SkyKind::overcast); });
  EXPECT_EQ(overcast["setups"][0]["room"]["sky"], "overcast");
  const Json open = made(overcast, room_switched);
  EXPECT_FALSE(open["setups"][0]["room"].contains("width"));
  EXPECT_FALSE(open["setups"][0]["room"].contains("windows"));
}

// Own behaviour.
TEST(RoomThings, GelsArePutOnAndTakenOff) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"] = Json::array({worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 0.3, 0.3, 2000)});
  for (const GelKind& gel : gel_kinds()) {
    const Json put = made(doc, [&](const OnSet& on) { return gel_put(on, {Kind::light, 0}, gel.id); });
    EXPECT_EQ(put["setups"][0]["lights"][0]["gel_bands"].size(), 3u);
    const Json off = made(put, [](const OnSet& on) { return gel_put(on, {Kind::light, 0}, {}); });
    EXPECT_EQ(off["setups"][0]["lights"][0], doc["setups"][0]["lights"][0]);
  }
}

// Own behaviour: what does not fit is told with its mend.
TEST(RoomThings, WhatDoesNotFitIsRefused) {
  Json windows = worlds::bare();
  windows["setups"][0]["room"] = {
      {"windows", Json::array({Json{{"id", "w"}, {"wall", "left"}, {"width", 1}, {"height", 1}}})}};
  Json lens = worlds::bare();
  lens["setups"][0]["lights"] = Json::array({worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 0.3, 0.3, 2000)});
  lens["setups"][0]["lights"][0]["front"] = {
      {"kind", "lens"}, {"source_radius", 0.01}, {"focal", 0.1}, {"distance", 0.05}};
  Json far = lens;
  far["setups"][0]["lights"][0].update({{"shape", "disc"}, {"radius", 0.05}});
  far["setups"][0]["lights"][0]["front"]["distance"] = 0.2;
  Json bare = far;
  bare["setups"][0]["lights"][0]["front"] = {{"kind", "tube"}};
  for (const auto& [doc, place] : {std::pair{windows, "/setups/0/room/windows"},
                                   {lens, "/setups/0/lights/0/front"},
                                   {far, "/setups/0/lights/0/front/distance"},
                                   {bare, "/setups/0/lights/0/front/length"}}) {
    const auto faults = validate(doc);
    ASSERT_FALSE(faults.empty()) << place;
    EXPECT_EQ(faults.front().path, place);
    EXPECT_FALSE(faults.front().mend.empty());
  }
}

// Own behaviour: a modifier of the kit takes its front with it.
TEST(RoomThings, AModifiersFrontGoesOnItsLight) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"] = Json::array({worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 0.3, 0.3, 2000)});
  const Json cloth{{"kind", "cloth"}, {"gap", 0.3}, {"baffle", 0.1}};
  doc["kit"]["modifiers"] = {
      {{"id", "box"}, {"shape", "rectangle"}, {"width", 0.6}, {"height", 0.9}, {"front", cloth}},
      {{"id", "snoot"}, {"front", {{"kind", "tube"}, {"length", 0.1}, {"mouth_radius", 0.02}}}}};
  const Json boxed = made(doc, [](const OnSet& on) { return modifier_put(on, {Kind::light, 0}, "box"); });
  EXPECT_EQ(boxed["setups"][0]["lights"][0]["front"], cloth);
  const Project project = worlds::read(boxed);
  ASSERT_TRUE(project.setups[0]->lights[0].shines);
  EXPECT_NEAR(project.setups[0]->lights[0].shines->face().half_height, 0.45, 1e-12);
  // A tube is round and does not fit a rectangle: it leaves the light as it is, without the cloth.
  const Json snooted = made(boxed, [](const OnSet& on) { return modifier_put(on, {Kind::light, 0}, "snoot"); });
  EXPECT_FALSE(snooted["setups"][0]["lights"][0].contains("front"));
  const Json off = made(boxed, [](const OnSet& on) { return modifier_put(on, {Kind::light, 0}, ""); });
  EXPECT_FALSE(off["setups"][0]["lights"][0].contains("front"));
}

}  // namespace
}  // namespace cinnabar
