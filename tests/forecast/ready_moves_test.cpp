// Ready moves: every one on five products of very different size and two kits is a valid, whole shot whose levels
// can all be computed; and what each promises of its own holds.
#include "cinnabar/forecast/moves/ready_moves.h"

#include <functional>

#include "cinnabar/project/making/starter_kits.h"
#include "worlds.h"

namespace cinnabar {
namespace {

/// A cylinder with a label at half its height.
Json cylinder(const std::string& id, double height, double radius, double mass) {
  return {{"id", id},
          {"name", id},
          {"mass", mass},
          {"parts",
           {{{"id", "body"},
             {"profile", {{0.0, 0.0}, {radius, 0.0}, {radius, height}, {0.0, height}}},
             {"material", {{"kind", "matte"}, {"colour", {0.5, 0.3, 0.1}}}}}}},
          {"label",
           {{"part", "body"},
            {"bearing_deg", 0},
            {"arc_deg", 90},
            {"low", 0.3 * height},
            {"high", 0.7 * height},
            {"stroke", height / 80}}}};
}
Document world(const Json& product, const std::string& kit) {
  Json doc = worlds::bare();
  doc["kit"] = Json::object();
  doc["products"] = Json::array({product});
  doc["setups"][0]["surface"] = {
      {"width", 1.2}, {"depth", 0.8}, {"material", {{"kind", "matte"}, {"colour", {0.3, 0.3, 0.3}}}}};
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 1.2}, {"width", 2.4},
      {"height", 2.0},  {"low", -0.4},     {"material", {{"kind", "cloth"}, {"colour", {0.02, 0.02, 0.02}}}}};
  doc["shots"] = Json::array();
  auto with = *with_starter_kit(*Document::from_json(doc), kit);
  Json whole = with.to_json();
  if (whole["kit"].contains("lights"))
    whole["setups"][0]["lights"] = {{{"id", "key"},
                                     {"name", "Key"},
                                     {"kit", whole["kit"]["lights"][0]["id"]},
                                     {"place", {0.7, 0.6, 0.6}},
                                     {"aim", {0, 0.05, 0}},
                                     {"shape", "rectangle"},
                                     {"width", 0.5},
                                     {"height", 0.8},
                                     {"transmittance", 0.7},
                                     {"kelvin", 5600}}};
  else
    whole["setups"][0]["ambient"] = {{"illuminance_lx", 800}, {"kelvin", 5600}};
  return *Document::from_json(whole);
}
const std::vector<Json>& products() {
  static const std::vector<Json> list{cylinder("ring", 0.022, 0.012, 0.01), cylinder("tin", 0.04, 0.05, 0.2),
                                      cylinder("jar", 0.1, 0.036, 0.5), cylinder("bottle", 0.32, 0.04, 1.2),
                                      cylinder("keg", 0.4, 0.13, 4.5)};
  return list;
}

class EveryMove : public testing::TestWithParam<std::size_t> {};

// Own behaviour; what a move is for: common practice, no source.
TEST_P(EveryMove, IsAWholeValidShotOnEveryProductAndKit) {
  const ReadyMove& move = ready_moves()[GetParam()];
  const Forecaster forecaster(quick_measure);
  for (const char* kit : {"phone-window", "small-studio"})
    for (const Json& product : products()) {
      const Document before = world(product, kit);
      const auto made = with_move(forecaster, before, move.id, 0, {.levelling = false});
      const std::string where = move.id + " of " + product["id"].get<std::string>() + " with " + kit;
      ASSERT_TRUE(made.has_value()) << where << ": " << made.error().text();
      const auto faults = validate(made->document.to_json());
      ASSERT_TRUE(faults.empty()) << where << ": " << faults[0].path << " " << faults[0].message;
      ProjectReader reader;
      const Project project = reader.read(made->document);
      const Shot& shot = *project.shots[made->shot];
      EXPECT_EQ(shot.move, move.id) << where;
      ASSERT_TRUE(shot.camera.has_value()) << where;
      EXPECT_GE(made->levels.size(), 12u) << where;
      // Lamps that are not of the kit: how far they ripple nobody has said.
      const auto* floor = by_id(project.setups, shot.setup);
      const bool strange = std::any_of(floor->lights.begin(), floor->lights.end(),
                                       [&](const Light& l) { return !by_id(project.light_kits, l.kit); });
      for (const Level& l : made->levels)
        if (!strange || l.id != "light.flicker") {
          EXPECT_NE(l.state, State::unknown) << where << ": " << l.id << " " << l.formula;
        }
      const auto state = [&](const std::string& id) {
        for (const Level& l : made->levels)
          if (l.id == id) return l.state;
        return State::level;
      };
      EXPECT_NE(state("frame.close-focus"), State::out) << where;
      EXPECT_NE(state("camera.locked"), State::out) << where;
      EXPECT_NE(state("motion.reach"), State::out) << where;
      // Nothing of another shot's set-up is touched.
      EXPECT_EQ(*made->document.find("setups", "A"), *before.find("setups", "A")) << where;
      EXPECT_EQ(shot.setup == "A", project.setups.size() == 1) << where;
      if (!move.later.empty()) {
        EXPECT_NE(shot.notes.find("To be computed later"), std::string::npos) << where;
      }
    }
}
INSTANTIATE_TEST_SUITE_P(ReadyMoves, EveryMove, testing::Range<std::size_t>(0, 26), [](const auto& tested) {
  std::string name = ready_moves()[tested.param].id;
  std::replace(name.begin(), name.end(), '-', '_');
  return name;
});

MoveMade jar(const std::string& move) {
  auto made =
      with_move(Forecaster(quick_measure), world(products()[2], "small-studio"), move, 0, {.levelling = false});
  EXPECT_TRUE(made.has_value()) << move;
  return std::move(*made);
}
Shot shot_of(const MoveMade& made) {
  ProjectReader reader;
  return *reader.read(made.document).shots[made.shot];
}
State state_of(const MoveMade& made, const std::string& id) {
  for (const Level& l : made.levels)
    if (l.id == id) return l.state;
  return State::unknown;
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, ThereAreTwentySixWithTitlesOfTheirOwn) {
  EXPECT_EQ(ready_moves().size(), 26u);
  std::set<std::string> ids, titles;
  for (const ReadyMove& m : ready_moves()) ids.insert(m.id), titles.insert(m.title);
  EXPECT_EQ(ids.size(), 26u);
  EXPECT_EQ(titles.size(), 26u);
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, TheSlowSpinLandsWithTheLabelToTheLens) {
  const MoveMade made = jar("slow-spin");
  const Shot shot = shot_of(made);
  EXPECT_NEAR(shot.products[0].turn_deg + shot.track("turntable")->at(100), 0.0, 1e-9);
  EXPECT_EQ(state_of(made, "motion.facing"), State::level);
  EXPECT_EQ(state_of(made, "frame.size"), State::level);
  EXPECT_EQ(shot.products[0].on, "table");
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, TheSlideKeepsTheProductInTheMiddle) {
  const MoveMade made = jar("slide-centred");
  const Shot shot = shot_of(made);
  for (double t = 0; t <= shot.set_time(); t += shot.set_time() / 50) {
    const CameraPose pose = camera_at(shot, t);
    const auto image = image_of(pose, {0, 0.05, 0});
    ASSERT_TRUE(image.has_value());
    EXPECT_LT(std::abs(image->x), 0.01 * 0.0359) << t;  // a hundredth of the frame's width
  }
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, ThePushKeepsItsFocusOnTheProduct) {
  for (const char* move : {"push-past", "pull-back"}) {
    const Shot shot = shot_of(jar(move));
    const CameraPose first = camera_at(shot, 0), last = camera_at(shot, shot.set_time());
    const Vec3 face{0, 0.05, 0.036};
    EXPECT_NEAR(first.focus - first.depth(face), last.focus - last.depth(face), 1e-3) << move;
    EXPECT_GT(length(first.place - last.place), 0.05) << move;
  }
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, LightsComeUpAndSwing) {
  const MoveMade dark = jar("out-of-dark");
  EXPECT_EQ(shot_of(dark).track("light.key.dimmer")->at(0), 0.0);
  EXPECT_GT(shot_of(dark).track("light.key.dimmer")->at(10), 0.2);
  EXPECT_EQ(shot_of(jar("light-sweep")).track("light.key.turn")->at(10), 0.0);
  const Shot doors = shot_of(jar("doors-of-light"));
  EXPECT_EQ(doors.track("light.door-left.turn")->at(0), -doors.track("light.door-right.turn")->at(0));
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, TheSilhouetteIsDarkBeforeALitBackdrop) {
  const MoveMade made = jar("silhouette");
  ProjectReader reader;
  const Project project = reader.read(made.document);
  ASSERT_EQ(project.setups.back()->lights.size(), 1u);
  EXPECT_EQ(project.setups.back()->lights[0].meant_for, MeantFor::backdrop);
  for (const Level& l : made.levels)
    if (l.id == "light.backdrop") {
      EXPECT_GT(*l.value, -2.0) << "stops from the exposure's own grey: lit";
    }
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, TheKeySpinStandsBeforeAColourThatTheProductLacks) {
  const MoveMade made = jar("key-spin");
  const Shot shot = shot_of(made);
  EXPECT_NEAR(shot.track("turntable")->at(1e3), 360, 1e-9);
  EXPECT_TRUE(shot.loops.value_or(false));
  const Json material = made.document.list("setups").back()->at("backdrop").at("material");
  EXPECT_GT(material["colour"][2].get<double>(), 3 * material["colour"][0].get<double>())
      << "a brown product: blue";
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, RoomForWordsIsLeftWhereTheyGo) {
  Json doc = world(products()[2], "small-studio").to_json();
  doc["deliverables"][0]["words"] = {{"area", {0.05, 0.1, 0.28, 0.8}}, {"last_seconds", 3}};
  const auto made =
      with_move(Forecaster(quick_measure), *Document::from_json(doc), "hero-words", 0, {.levelling = false});
  const Shot shot = shot_of(*made);
  EXPECT_GE(shot.screen_time, 3.0);
  const auto image = image_of(camera_at(shot, 0), {0, 0.05, 0});
  EXPECT_GT(image->x, 0.1 * 0.0359) << "words left, product right";
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, LevellingOnlyEverHelpsAndTouchesNothingElse) {
  const Document before = world(products()[2], "small-studio");
  const Forecaster forecaster(quick_measure);
  const auto bad = [](const std::vector<Level>& levels) {
    int sum = 0;
    for (const Level& l : levels) sum += l.state == State::out ? 2 : l.state == State::leaning ? 1 : 0;
    return sum;
  };
  for (const char* move : {"slow-spin", "macro-glide"}) {
    const auto plain = with_move(forecaster, before, move, 0, {.levelling = false}),
               level = with_move(forecaster, before, move, 0);
    EXPECT_LE(bad(level->levels), bad(plain->levels)) << move;
    EXPECT_EQ(*level->document.find("setups", "A"), *before.find("setups", "A"));
    if (bad(level->levels) < bad(plain->levels)) {
      EXPECT_FALSE(level->done.empty());
    }
  }
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, AreMadeInAnEmptyProjectAndRefuseWhatIsNone) {
  const auto made =
      with_move(Forecaster(quick_measure), empty_document("New"), "slow-spin", 0, {.levelling = false});
  ASSERT_TRUE(made.has_value());
  EXPECT_TRUE(validate(made->document.to_json()).empty());
  EXPECT_FALSE(with_move(Forecaster(quick_measure), empty_document("New"), "backflip", 0).has_value());
  std::atomic<bool> stop{true};
  EXPECT_FALSE(with_move(Forecaster(quick_measure), empty_document("New"), "slow-spin", 0, {}, &stop).has_value());
}

/// The jar's slow spin under house rules and with a kit changed by `change`.
Shot spin(const std::function<void(Json&)>& change, const std::string& move = "slow-spin") {
  Json doc = world(products()[2], "small-studio").to_json();
  change(doc);
  const auto made = with_move(Forecaster(quick_measure), *Document::from_json(doc), move, 0, {.levelling = false});
  EXPECT_TRUE(made.has_value());
  return shot_of(*made);
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, FollowTheHouseRules) {
  const Shot usual = spin([](Json&) {});
  const double rate = 0.5 / usual.camera->shutter_time;  // half the frame
  const Shot crisp = spin([](Json& d) { d["house_rules"] = {{"shutter", "crisp"}}; });
  EXPECT_NEAR(crisp.camera->shutter_time, 0.2 / rate, 1e-9) << "72 degrees";
  const Shot safe = spin([](Json& d) { d["house_rules"] = {{"shutter", "flicker-safe"}}; });
  const double periods = safe.camera->shutter_time / 0.01;  // half periods of 50 Hz
  EXPECT_NEAR(periods, std::round(periods), 1e-9);
  EXPECT_LE(safe.camera->shutter_time, 1 / rate);
  const Shot deep = spin([](Json&d) {
    d["house_rules"] = {{"depth", "deep"}};
  }),
             shallow = spin([](Json&d) {
               d["house_rules"] = {{"depth", "shallow"}};
             });
  EXPECT_GE(deep.camera->f_number, shallow.camera->f_number);
  const Shot locked = spin([](Json& d) { d["house_rules"] = {{"movement", "locked-off"}}; }, "pull-back");
  EXPECT_EQ(locked.track("camera.slide"), nullptr);
  EXPECT_EQ(locked.crop_share, 0.85);
  EXPECT_NE(locked.notes.find("Made in the crop"), std::string::npos);
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, KeepWithinWhatTheKitCarriesAndCanDo) {
  const Shot slow_table = spin([](Json& d) {
    for (Json& s : d["kit"]["supports"])
      if (s["id"] == "table") s["rpm_high"] = 1.0;
  });
  const KeyedTrack* turn = slow_table.track("turntable");
  const double way = turn->at(1e3) - turn->at(0), seconds = turn->keys.back().first - turn->keys.front().first;
  EXPECT_LE(1.875 * way / seconds / 6.0, 1.0 + 1e-6) << "turns a minute at the peak of a minimum-jerk move";
  const Shot short_rail = spin(
      [](Json& d) {
        for (Json& s : d["kit"]["supports"])
          if (s["id"] == "rail") s["travel"] = 0.1;
      },
      "pull-back");
  const KeyedTrack* slide = short_rail.track("camera.slide");
  EXPECT_LE(std::abs(slide->at(1e3) - slide->at(0)), 0.1);
  const Shot unowned = spin(
      [](Json& d) {
        for (Json& s : d["kit"]["supports"])
          if (s["id"] == "rail") s["owned"] = false;
      },
      "pull-back");
  EXPECT_EQ(unowned.track("camera.slide"), nullptr) << "what is not owned moves nothing";
  const Shot splash = spin([](Json&) {}, "splash");
  EXPECT_NEAR(*splash.slow, 120.0 / 25.0, 1e-6) << "ten times is more than the kit's 120 a second give";
  EXPECT_EQ(splash.camera->mode, "hd-120");
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, EndOnABeatWhereThereIsATempo) {
  for (const char* move : {"slow-spin", "overhead", "hero-words", "stop-motion"}) {
    Json doc = world(products()[2], "small-studio").to_json();
    doc["project"]["beats_per_minute"] = 100;
    Json before = with_move(Forecaster(quick_measure), *Document::from_json(doc), "swap", 0, {.levelling = false})
                      ->document.list("shots")[0]
                      ->get<Json>();
    before["screen_time"] = 2.35;
    doc["shots"] = Json::array({before});
    const auto made =
        with_move(Forecaster(quick_measure), *Document::from_json(doc), move, 0, {.levelling = false});
    const double beats = (2.35 + shot_of(*made).screen_time) / 0.6;
    if (std::string(move) != "stop-motion") {  // its length is its steps'
      EXPECT_NEAR(beats, std::round(beats), 0.01) << move;
    }
  }
}

// Own behaviour; what a move is for: common practice, no source.
TEST(ReadyMoves, StandOnTheSetUpTheyAreDroppedOn) {
  Json doc = world(products()[2], "small-studio").to_json();
  Json other = doc["setups"][0];
  other["id"] = "Z", other["name"] = "Other";
  doc["setups"].push_back(other);
  const auto made = with_move(Forecaster(quick_measure), *Document::from_json(doc), "floating",
                              static_cast<std::size_t>(-1), {.levelling = false, .setup = "Z"});
  EXPECT_EQ(made->shot, 0u);
  EXPECT_EQ(shot_of(*made).setup, "Z");
  EXPECT_EQ(shot_of(*made).plates.size(), 2u);
}

}  // namespace
}  // namespace cinnabar
