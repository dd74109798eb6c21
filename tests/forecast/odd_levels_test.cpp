// The levels of ground, gear, mirrors, lean, plates and noise, and wishes, methods and stops, in set-ups that no
// demo has.
#include "cinnabar/effects/pours.h"
#include "cinnabar/forecast/measures/lens_reach.h"
#include "cinnabar/forecast/methods/fewer_lights.h"
#include "cinnabar/forecast/methods/methods.h"
#include "cinnabar/forecast/stops/find_stops.h"
#include "cinnabar/forecast/stops/purse.h"
#include "cinnabar/forecast/wishes/wishes.h"
#include "cinnabar/render/mirrored.h"
#include "cinnabar/render/tracer.h"
#include "odd_setups.h"

namespace cinnabar {
namespace {
using namespace odd_setups;
using namespace judging;

class OddLevels : public testing::TestWithParam<Odd> {
 protected:
  /// Of gloss, with a readout and two plates, under a rule of the backdrop.
  static Json doc(const std::string& rule) {
    Json d = set_up();
    d["products"][0]["parts"][0]["material"] = {{"kind", "gloss"}, {"colour", {0.5, 0.05, 0.05}}, {"ior", 1.5}};
    d["kit"]["cameras"][0]["modes"][0]["readout"] = 0.015;
    d["shots"][0]["plates"] = {"clean", "full"};
    d["house_rules"]["backdrop"] = rule;
    if (rule == "key") d["setups"][0]["backdrop"]["material"] = worlds::matte(0.05, 0.5, 0.1);
    GetParam().change(d);
    return d;
  }
};
constexpr const char* judged[] = {"frame.gear",   "light.even",   "light.mirror", "light.key",
                                  "camera.noise", "motion.match", "motion.skew"};

// Own behaviour: alone or among all the same; the share of a picture is one; a level that is off comes home by its
// levers.
TEST_P(OddLevels, AreTheSameAloneAndAmongAllAndComeHome) {
  for (const char* rule : {"white", "key"}) {
    const Json d = doc(rule);
    const Project project = worlds::read(d);
    const Forecaster forecaster, quick(quick_measure);
    const auto all = quick.levels(project, 0);
    for (const char* id : judged) {
      SCOPED_TRACE(std::string(rule) + " " + id);
      const auto among = std::find_if(all.begin(), all.end(), [&](const Level& l) { return l.id == id; });
      const auto alone = Forecaster(quick_measure).levels(project, 0, id);
      ASSERT_EQ(alone.empty(), among == all.end());
      if (alone.empty()) continue;
      EXPECT_EQ(alone[0].value, among->value);
      EXPECT_EQ(alone[0].state, among->state);
      EXPECT_NE(alone[0].state, State::unknown) << alone[0].formula;
      if (std::string(id) == "frame.gear" || std::string(id) == "light.mirror") {
        EXPECT_GE(*alone[0].value, 0.0);
        EXPECT_LE(*alone[0].value, 100.0);
        EXPECT_FALSE(alone[0].error) << "exact";
      }
      if (alone[0].state == State::level) continue;
      if (forecaster.levels(project, 0, id)[0].state != State::out) continue;
      // What the rule does not touch has the same levers under the other.
      if (std::string(rule) == "key" && std::string(id) != "light.key" && std::string(id) != "light.even")
        continue;
      // Home when looked at as closely as it takes, as levers are told.
      const Document document = *Document::from_json(d);
      const auto levers = forecaster.levers(document, 0, id);
      EXPECT_TRUE(!levers.list.empty() || !levers.why.empty());
      for (std::size_t k = 0; k < std::min<std::size_t>(2, levers.list.size()); ++k) {
        ProjectReader reader;
        const auto after = Forecaster().sure_levels(reader.read(applied(document, levers.list[k].edit)), 0, id);
        ASSERT_EQ(after.size(), 1u);
        EXPECT_EQ(after[0].state, State::level) << levers.list[k].title << ": " << after[0].formula;
        EXPECT_NEAR(*after[0].value, levers.list[k].after, 1e-9) << levers.list[k].title;
      }
    }
    // What applies where: no ground without a backdrop but for a camera that looks down.
    const auto has = [&](const char* id) {
      return std::any_of(all.begin(), all.end(), [&](const Level& l) { return l.id == id; });
    };
    EXPECT_EQ(has("light.even"), std::string(GetParam().name) != "no_backdrop");
    EXPECT_TRUE(has("frame.gear") && has("light.mirror") && has("camera.noise") && has("motion.match"));
    const std::string name = GetParam().name;
    EXPECT_EQ(has("motion.skew"), name == "ramped" || name == "travelling") << "only there something moves";
  }
}

/// How near a ray comes to a bar, and how far along the ray: both parted finely, without the program's own bodies.
bool passes_within(double radius, const Vec3& eye, const Vec3& along, const Vec3& from, const Vec3& to) {
  for (int k = 0; k <= 400; ++k) {
    const Vec3 out = from + (to - from) * (k / 400.0) - eye;
    const double far = dot(out, along);
    if (far > 0.0 && length(out - along * far) <= radius) return true;
  }
  return false;
}

// Source: rays against straight bars of 25 mm, worked here: a lamp over the surface a third of the way to the
// camera hangs on an arm that comes from the side where less of it is seen; an arm that is too short for the other
// side comes from the nearer.
TEST_P(OddLevels, SeeTheArmOfWhatHangsOverTheSurface) {
  if (std::string(GetParam().name) == "travelling") return;  // its camera is elsewhere at every moment
  Json d = doc("white");
  const auto gear = [](const Json& json) { return *level_of(json, "frame.gear")->value; };
  const double before = gear(d);
  const Project bare = worlds::read(d);
  const StagedWorld world = stage(bare, *bare.shots[0], 0.0, {.motion = false});
  const CameraPose& pose = world.camera.middle_pose();
  const Vec3 hero = bare.shots[0]->products[0].place + Vec3{0, 0.05, 0};
  const Vec3 lamp = hero + (pose.place - hero) * 0.25 + pose.frame.up * 0.03 + pose.frame.right * 0.05;
  ASSERT_TRUE(std::abs(lamp.x) < 0.6 && std::abs(lamp.z) < 0.4) << "over the surface";
  Json hung = worlds::rectangle("over", {lamp.x, lamp.y, lamp.z}, {lamp.x, lamp.y - 1, lamp.z}, 0.002, 0.002, 10);
  hung["name"] = "Over";
  d["setups"][0]["lights"].push_back(hung);
  EXPECT_NEAR(gear(d), before, 0.1) << "without arms nobody knows what holds it";
  constexpr int wide = 160;
  const int high =
      static_cast<int>(std::lround(wide * world.camera.optics.sensor_height / world.camera.optics.sensor_width));
  double seen[2] = {0, 0};
  for (int y = 0; y < high; ++y)
    for (int x = 0; x < wide; ++x) {
      const Vec3 along = pose.toward(world.camera.optics, (x + 0.5) / wide, (y + 0.5) / high);
      for (const int side : {0, 1}) {
        const double foot = std::copysign(0.6 + 0.15, lamp.x) * (side == 0 ? 1 : -1);
        if (passes_within(0.0125, pose.place, along, {foot, lamp.y, lamp.z}, lamp) ||
            passes_within(0.0125, pose.place, along, {foot, bare.setups[0]->room.place.y, lamp.z},
                          {foot, lamp.y, lamp.z}))
          seen[side] += 100.0 / (wide * high);
      }
    }
  EXPECT_GT(std::max(seen[0], seen[1]), 1.0) << "there is something to see";
  d["kit"]["supports"].push_back({{"id", "arm"}, {"name", "Arm"}, {"kind", "arm"}});
  EXPECT_NEAR(gear(d), before + std::min(seen[0], seen[1]), 0.6);
  d["kit"]["supports"].back()["length"] = std::abs(0.75 - std::abs(lamp.x)) + 0.05;
  EXPECT_NEAR(gear(d), before + seen[0], 0.6) << "no arm reaches from the other side";
}

// Own behaviour: in the dark nothing is made up; what needs no light is told all the same.
TEST_P(OddLevels, KnowTheDark) {
  Json d = doc("white");
  for (Json& light : d["setups"][0]["lights"]) light["on"] = false;
  if (d["setups"][0].contains("room"))
    for (Json& window : d["setups"][0]["room"]["windows"]) window["on"] = false;
  for (const char* id : {"light.even", "light.key"})
    for (const Level& level : Forecaster().levels(worlds::read(d), 0, id))
      EXPECT_EQ(level.state, State::unknown) << id;
  const auto gear = Forecaster().levels(worlds::read(d), 0, "frame.gear");
  ASSERT_EQ(gear.size(), 1u);
  EXPECT_TRUE(gear[0].value);
  const Forecaster forecaster;
  EXPECT_FALSE(find_stops(forecaster, *Document::from_json(d), 0, {}));
  EXPECT_FALSE(answers_for(forecaster, *Document::from_json(d), 0, {*read_wish("ratio", {"stops=1"})}));
}

// Own behaviour: a backdrop that a track holds farther back, lower and leant is judged as one that stands there;
// pulled there through the shot its edge comes as near as at the worse of the two.
TEST_P(OddLevels, KnowWhereABackdropIsPulled) {
  Json still = doc("white");
  if (!still["setups"][0].contains("backdrop")) return;
  Json& drop = still["setups"][0]["backdrop"];
  const double distance = drop["distance"], low = drop.value("low", 0.0);
  Json held = still, pulled = still;
  drop["distance"] = distance + 0.3, drop["low"] = low - 0.2, drop["tilt_deg"] = 12;
  const Json place{0, low - 0.2, -distance - 0.3};
  const auto track = [](const char* target, const Json& from, const Json& to) {
    return Json{{"target", target}, {"profile", "linear"}, {"keys", {{0, from}, {0.5, to}}}};
  };
  for (auto* on : {&held, &pulled})
    if (!(*on)["shots"][0].contains("tracks")) (*on)["shots"][0]["tracks"] = Json::array();
  held["shots"][0]["tracks"].push_back(track("backdrop.place", place, place));
  held["shots"][0]["tracks"].push_back(track("backdrop.tilt", 12, 12));
  pulled["shots"][0]["tracks"].push_back(track("backdrop.place", {0, low, -distance}, place));
  for (const char* id : {"frame.backdrop-edge", "focus.hides-edge"}) {
    const auto stands = level_of(still, id), is_held = level_of(held, id);
    ASSERT_EQ(stands.has_value(), is_held.has_value()) << id;
    if (!stands || !stands->value) continue;
    EXPECT_NEAR(*is_held->value, *stands->value, 1e-6 + 1e-3 * std::abs(*stands->value)) << id;
  }
  Json upright = still;
  upright["setups"][0]["backdrop"].erase("tilt_deg");
  const auto before = level_of(doc("white"), "frame.backdrop-edge"),
             after = level_of(upright, "frame.backdrop-edge"), goes = level_of(pulled, "frame.backdrop-edge");
  if (before && after && goes && before->value && after->value)
    EXPECT_LE(*goes->value, std::min(*before->value, *after->value) + 0.5);
}

// Own behaviour: every answer is a valid document in which what was promised is found.
TEST_P(OddLevels, AreServedByWishesMethodsAndStops) {
  const Json d = doc("colour");
  const Document document = *Document::from_json(d);
  const Forecaster forecaster;
  const auto stops = find_stops(forecaster, document, 0, {});
  ASSERT_TRUE(stops) << stops.error().text();
  EXPECT_TRUE(!stops->list.empty() || stops->short_stops != 0.0);
  for (const StopsAnswer& one : stops->list) {
    EXPECT_TRUE(validate(one.after).empty()) << one.title;
    const auto level = judging::level_of(one.after.to_json(), "camera.stops");
    ASSERT_TRUE(level && level->value) << one.title;
    EXPECT_NE(level->state, State::out) << one.title << " " << level->formula;
  }
  const auto answers = answers_for(forecaster, document, 0, {*read_wish("ratio", {"stops=1.2"})});
  ASSERT_TRUE(answers) << answers.error().text();
  EXPECT_TRUE(!answers->list.empty() || !answers->why.empty());
  for (const WishAnswer& one : answers->list) {
    const auto after = with_values(document, one.changes);
    ASSERT_TRUE(after && validate(*after).empty()) << one.title;
    EXPECT_NEAR(*judging::level_of(after->to_json(), "light.ratio")->value, 1.2, 0.16) << one.title;
  }
  const auto found = methods_for(forecaster, document, 0, "one-strip");
  ASSERT_TRUE(found) << found.error().text();
  EXPECT_EQ(found->size(), 1u);
  for (const MethodStanding& one : *found) EXPECT_TRUE(validate(one.after).empty()) << one.method->id;
}

// Own behaviour: what the purse says of a hand is what the staged shot shows, a light left out leaves the rest as
// it was, and lenses and mirrored directions are told from wherever the camera stands.
TEST_P(OddLevels, AreCountedInStopsAndSeenByEveryLens) {
  const Json d = doc("colour");
  const Document document = *Document::from_json(d);
  const Forecaster forecaster;
  const auto purse = purse_of(forecaster, document, 0);
  ASSERT_TRUE(purse) << purse.error().text();
  const PurseHand hand = hand_now(*purse);
  for (std::size_t r = 1; r < purse->rows.size(); ++r) {
    const std::size_t last = purse->rows[r].notches.size() - 1,
                      to = hand[r] > 0 ? hand[r] - 1 : std::min<std::size_t>(1, last);
    const PurseHand after = paid(*purse, hand, r, to, {});
    const auto then = with_values(document, purse_values(*purse, after));
    ASSERT_TRUE(then) << purse->rows[r].id;
    EXPECT_TRUE(validate(*then).empty()) << purse->rows[r].id;
    const auto level = judging::level_of(then->to_json(), "camera.stops");
    ASSERT_TRUE(level && level->value) << purse->rows[r].id;
    EXPECT_NEAR(*level->value, left_over(*purse, after), 0.12) << purse->rows[r].id << " " << level->formula;
  }
  const auto fewer = fewer_lights(forecaster, document, 0);
  ASSERT_TRUE(fewer) << fewer.error().text();
  for (const WithoutLight& one : *fewer) EXPECT_TRUE(validate(one.after).empty()) << one.id;
  const Project project = worlds::read(d);
  const Shot& shot = *project.shots[0];
  for (const LensReach& one : lens_reaches(project, shot, 0.5 * shot.set_time())) {
    EXPECT_GT(one.half_across, 0.0);
    EXPECT_TRUE(std::isfinite(one.spare));
  }
  const auto world = std::make_shared<const StagedWorld>(stage(project, shot, 0.5 * shot.set_time()));
  const Tracer tracer(world);
  Film film = tracer.film(96, 54);
  ASSERT_TRUE(tracer.add_pass(film));
  const auto room = unrolled_room(*world, film, 120, 60);
  ASSERT_TRUE(room);
  const auto camera = room->share(world->camera.poses.front().place - room->from);
  EXPECT_NEAR(std::remainder(camera.x - 0.5, 1.0), 0.0, 0.01);
  float mirrored = 0;
  for (const RoomPlace& place : room->places) mirrored += place.seen;
  EXPECT_GT(mirrored, 0) << "gloss mirrors something";
}
// Source: closed form of the cylinder's ungula (`tilt_hold`): a full glass that leans, wherever it stands,
// whatever looks at it and however it is lit or slowed; its lever brings it home.
TEST_P(OddLevels, JudgeAGlassThatLeans) {
  Json doc = OddLevels::doc("colour");
  doc["products"].push_back(
      {{"id", "tumbler"},
       {"parts", Json::array({{{"id", "glass"},
                               {"profile", {{0.0, 0.0}, {0.04, 0.0}, {0.04, 0.12}}},
                               {"wall", 0.002},
                               {"material", {{"kind", "glass"}, {"ior", 1.52}}}},
                              {{"id", "drink"},
                               {"profile", {{0.0, 0.002}, {0.038, 0.002}, {0.038, 0.1}, {0.0, 0.1}}},
                               {"material", {{"kind", "liquid"}, {"ior", 1.333}}}}})}});
  doc["shots"][0]["products"].push_back({{"product", "tumbler"}, {"place", {0.12, 0, -0.1}}, {"turn_deg", 130}});
  Json& tracks = doc["shots"][0]["tracks"];
  if (!tracks.is_array()) tracks = Json::array();
  tracks.push_back(worlds::moving("product.tumbler.tilt", "minimum-jerk", {{0.1, 0}, {0.4, -50}}));
  const auto held = tilt_hold({0.038, 0.118, 0.098, 50.0});
  ASSERT_TRUE(held);
  const auto level = level_of(doc, "effect.volume");
  ASSERT_TRUE(level && level->value);
  EXPECT_NEAR(*level->value, -1e6 * held->spilled_volume, 0.02);
  EXPECT_EQ(level->state, State::out);
  expect_levers_hold(doc, "effect.volume", 1);
}

INSTANTIATE_TEST_SUITE_P(Odd, OddLevels, testing::ValuesIn(odds),
                         [](const auto& odd) { return std::string(odd.param.name); });

}  // namespace
}  // namespace cinnabar
