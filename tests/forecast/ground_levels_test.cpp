// Gear in the picture and in mirrors, even and key backdrops, the window's drift, noise, lean and plates: against
// values worked by hand, in set-ups that look down, stand away from the origin, are turned or have no backdrop.
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/color/palette.h"
#include "cinnabar/photometry/daylight.h"
#include "cinnabar/photometry/exposure.h"
#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

Json wall(double reflectance, double distance = 1.0) {
  return {{"kind", "flat"}, {"distance", distance},
          {"width", 20.0},  {"height", 20.0},
          {"low", -10.0},   {"material", worlds::matte(reflectance, reflectance, reflectance)}};
}
Json with_rule(Json doc, const std::string& rule, const std::string& value) {
  doc["house_rules"] = {{rule, value}};
  return doc;
}

// Source: similar triangles, by hand: a card of 0.1 x 0.1 m half-way to a sharp plane of 0.68 x 0.3825 m.
TEST(GearInThePicture, IsTheShareOfTheFrameThatItCovers) {
  Json doc = can();
  doc["setups"][0]["surface"] = {{"width", 3.0}, {"depth", 3.0}, {"material", worlds::matte(0.5, 0.5, 0.5)}};
  expect_level(doc, "frame.gear", 0.0, State::level, 1e-9);
  doc["setups"][0]["cards"].push_back(worlds::card("c", {0.15, 0.15, 0.5}, {0.15, 0.15, 1.5}, 0.1, 0.1));
  const double wide = 0.036 * (1 / 0.05 - 1), high = 0.02025 * (1 / 0.05 - 1);  // at 1 m
  // At 0.5 m the frame is half as large; the card stands from 0.10 to 0.20 over the axis at 0.05, so 0.05 to 0.15
  // above it, of which the frame shows what is under its half height.
  const double half_high = high / 4, half_wide = wide / 4;
  const double shown = std::max(0.0, half_high - 0.05) * std::max(0.0, std::min(0.20, half_wide) - 0.10);
  expect_level(doc, "frame.gear", 100 * shown / (4 * half_high * half_wide), State::out, 0.6);
  EXPECT_NE(level_of(doc, "frame.gear")->sentence.find("c is in the picture"), std::string::npos);
  Json lamp = doc;  // a practical lamp may be seen
  lamp["setups"][0]["cards"] = Json::array();
  lamp["setups"][0]["lights"].push_back(
      worlds::rectangle("bulb", {0.15, 0.15, 0.5}, {0.15, 0.15, 1.5}, 0.1, 0.1, 10));
  expect_level(lamp, "frame.gear", 100 * shown / (4 * half_high * half_wide), State::out, 0.6);
  lamp["setups"][0]["lights"].back()["dressed"] = true;
  expect_level(lamp, "frame.gear", 0.0, State::level, 1e-9);
  // The same set-up moved as a whole, or looked at from above, changes nothing: the card goes with the frame.
  Json down = doc;
  down["shots"][0]["camera"]["place"] = {0, 1.05, 0}, down["shots"][0]["camera"]["aim"] = {0, 0.05, 0};
  down["setups"][0]["cards"][0]["place"] = {0.15, 0.55, -0.10},
  down["setups"][0]["cards"][0]["aim"] = {0.15, 1.55, -0.10};
  EXPECT_NEAR(*level_of(down, "frame.gear")->value, *level_of(doc, "frame.gear")->value, 0.3);
}

// Source: similar triangles, by hand: a rod of 25 mm, 0.5 m from the lens, over the frame's height.
TEST(GearInThePicture, KnowsStandsOfLightsBesideTheSurfaceAndGearThatIsTold) {
  Json doc = can();
  doc["setups"][0]["surface"] = {{"width", 0.3}, {"depth", 0.3}, {"material", worlds::matte(0.5, 0.5, 0.5)}};
  doc["setups"][0]["lights"].push_back(worlds::rectangle("side", {0.17, 1.0, 0.3}, {0, 0.05, 0}, 0.2, 0.2, 1000));
  const double wide = 0.036 * (1 / 0.05 - 1) * 0.7;  // of the frame, 0.7 m from the lens
  const auto seen = level_of(doc, "frame.gear");
  ASSERT_TRUE(seen && seen->value);
  EXPECT_NEAR(*seen->value, 100 * 0.025 / wide, 1.0) << seen->formula;
  EXPECT_NE(seen->sentence.find("side's stand"), std::string::npos) << seen->sentence;
  doc["setups"][0]["surface"]["width"] = 1.2, doc["setups"][0]["surface"]["depth"] = 1.2;
  expect_level(doc, "frame.gear", 0.0, State::level, 1e-9);  // over the surface it hangs; from what is not known
  Json arms = doc;  // from an arm, whose level part is seen where it stands in the frame's height
  arms["kit"]["supports"].push_back({{"id", "a"}, {"name", "Arm"}, {"kind", "arm"}, {"length", 2.0}});
  expect_level(arms, "frame.gear", 0.0, State::level, 1e-9);
  // 0.05 m over the axis and 0.7 m from the lens; from the lamp, 0.17 m aside, to the frame's farther edge or the
  // nearer: the arm comes from where less of it is seen, here from the lamp's own side.
  arms["setups"][0]["lights"].back()["place"] = {0.17, 0.10, 0.3};
  arms["setups"][0]["lights"].back()["width"] = 0.01, arms["setups"][0]["lights"].back()["height"] = 0.01;
  const double tall = 0.02025 * (1 / 0.05 - 1) * 0.7;
  const auto held = level_of(arms, "frame.gear");
  ASSERT_TRUE(held && held->value);
  EXPECT_NEAR(*held->value, 100 * (wide / 2 - 0.17) * 0.025 / (wide * tall), 0.35) << held->formula;
  EXPECT_NE(held->sentence.find("side's arm"), std::string::npos) << held->sentence;
  doc["setups"][0]["gear"] = {
      {{"id", "box"}, {"name", "Case"}, {"place", {0, -0.1, -1.0}}, {"size", {9, 9, 0.1}}}};
  const auto boxed = level_of(doc, "frame.gear");
  EXPECT_NE(boxed->sentence.find("Case"), std::string::npos) << boxed->sentence;
  EXPECT_GT(*boxed->value, 40);
  doc["setups"][0]["gear"][0]["dressed"] = true;
  expect_level(doc, "frame.gear", 0.0, State::level, 1e-9);
}

// Source: the law of reflection, by hand: a flat mirror square to the axis shows the lens in its middle.
TEST(MirroredGear, IsWhatLinesOfSightEndOn) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "mirror"}, {"colour", {0.9, 0.9, 0.9}}});
  // A slab whose front is a mirror 1 m from the lens: the ball of 6 cm radius, 1.06 m behind it, is seen as 12 cm
  // at 2.06 m.
  doc["products"][0]["parts"][0]["section"] = "box";
  doc["products"][0]["parts"][0]["profile"] = {{0.0, -0.2}, {0.3, -0.2}, {0.3, 0.3}, {0.0, 0.3}};
  doc["shots"][0]["products"][0]["place"] = {0, 0, -0.3};
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {1, 0.05, 1.5}, {0, 0.05, 0}, 0.5, 0.5, 4000));
  const double wide = 0.036 * (1 / 0.05 - 1), high = 0.02025 * (1 / 0.05 - 1);
  const double seen = pi * 0.06 * 0.06 / (2.06 * 2.06), product = 0.6 * high;
  EXPECT_GT(wide, 0.6);
  const auto level = level_of(doc, "light.mirror");
  ASSERT_TRUE(level && level->value);
  EXPECT_NEAR(*level->value, 100 * seen / product, 0.1) << level->formula;
  EXPECT_EQ(level->state, State::out);
  EXPECT_NE(level->sentence.find("the camera"), std::string::npos);
  // From a quarter aside it looks away from itself; a bare lamp at the mirrored place is seen instead.
  Json aside = doc;
  aside["shots"][0]["camera"]["place"] = {0.7, 0.05, 0.7};
  aside["shots"][0]["camera"]["aim"] = {0, 0.05, 0};
  expect_level(aside, "light.mirror", 0.0, State::level, 1e-9);
  aside["setups"][0]["lights"].push_back({{"id", "bulb"},
                                          {"name", "Bulb"},
                                          {"place", {-0.7, 0.05, 0.7}},
                                          {"aim", {0, 0.05, 0}},
                                          {"shape", "bare"},
                                          {"radius", 0.05},
                                          {"lumens", 800},
                                          {"kelvin", 3000}});
  const auto bulb = level_of(aside, "light.mirror");
  EXPECT_EQ(bulb->state, State::out);
  EXPECT_NE(bulb->sentence.find("Bulb"), std::string::npos);
  Json meant = aside;
  meant["setups"][0]["lights"][1]["meant_for"] = "product";
  expect_level(meant, "light.mirror", 0.0, State::level, 1e-9);
  Json hidden = aside;  // behind a card
  hidden["setups"][0]["cards"].push_back(worlds::card("c", {-0.35, 0.05, 0.35}, {0, 0.05, 0}, 0.4, 0.4));
  expect_level(hidden, "light.mirror", 0.0, State::level, 1e-9);
  // Satin mirrors nothing sharply, and a matte can is not judged at all.
  doc["products"][0]["parts"][0]["material"] = {
      {"kind", "metal"}, {"colour", {0.9, 0.9, 0.9}}, {"roughness", 0.3}};
  EXPECT_FALSE(level_of(doc, "light.mirror"));
}

// Source: Lambert's cosine and inverse-square laws, by hand: two halves of a wall, one twice as bright.
TEST(EvenBackdrop, IsTheSpreadOfItsTiles) {
  Json doc = with_rule(worlds::bare(), "backdrop", "white");
  worlds::add_cylinder(doc, worlds::matte(0.5, 0.5, 0.5));
  doc["setups"][0]["backdrop"] = wall(0.8);
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 1500.0}};
  const auto even = level_of(doc, "light.even");  // under an even surround
  ASSERT_TRUE(even && even->value);
  EXPECT_LT(*even->value, 0.05);
  EXPECT_EQ(even->state, State::level);
  // A panel 1 m before the wall and 0.6 m to the left of what is seen: inverse square and both cosines.
  doc["setups"][0]["ambient"]["illuminance_lx"] = 0.0;
  doc["setups"][0]["lights"].push_back(
      worlds::rectangle("wash", {-1.2, 0.05, 0.0}, {-1.2, 0.05, -1.0}, 0.05, 0.05, 4000));
  const double across = 2.0 * 0.018 / (0.05 / 0.95), edge = across * 0.9;  // the 5th and 95th of 16 columns
  const auto lux = [](double x) { return 1 / std::pow(1 + (x + 1.2) * (x + 1.2), 2); };
  const auto level = level_of(doc, "light.even");
  EXPECT_NEAR(*level->value, std::log2(lux(-edge) / lux(edge)), 0.25) << level->formula;
  EXPECT_EQ(level->state, State::out);
  EXPECT_EQ(level->band.high, std::optional(0.5));
  EXPECT_EQ(level_of(with_rule(doc, "backdrop", "key"), "light.even")->band.high, std::optional(0.3));
  EXPECT_FALSE(level_of(with_rule(doc, "backdrop", "gradient"), "light.even"));
  Json dark = doc;
  dark["setups"][0]["lights"][0]["on"] = false;
  EXPECT_EQ(level_of(dark, "light.even")->state, State::unknown);
}

// Own behaviour: farther back, or from two sides, it is evened, and the level then is what was told.
TEST(EvenBackdrop, IsBroughtHome) {
  Json doc = with_rule(worlds::bare(), "backdrop", "white");
  worlds::add_cylinder(doc, worlds::matte(0.5, 0.5, 0.5));
  doc["setups"][0]["backdrop"] = wall(0.8);
  doc["setups"][0]["lights"].push_back(
      worlds::rectangle("wash", {-0.7, 0.2, -0.2}, {0, 0.05, -1.0}, 0.4, 0.4, 900));
  doc["setups"][0]["lights"][0]["meant_for"] = "backdrop";
  doc["kit"]["lights"][0]["count"] = 2;
  expect_levers_hold(doc, "light.even", 1);
}

// Source: ISO/CIE 11664-6 on what each is recorded as, by hand: luminance E rho / pi over clipping.
TEST(KeyColour, IsTheDifferenceOfWhatIsRecorded) {
  Json doc = with_rule(worlds::bare(), "backdrop", "key");
  worlds::add_cylinder(doc, worlds::matte(0.6, 0.1, 0.05));
  doc["setups"][0]["backdrop"] = wall(0.5, 6.0);
  doc["setups"][0]["backdrop"]["material"] = worlds::matte(0.05, 0.5, 0.08);
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 1500.0}, {"kelvin", 5600}};
  const auto level = level_of(doc, "light.key");
  ASSERT_TRUE(level && level->value);
  const double n = 5.6 * (1 + 0.05 / 0.95), clip = 78.0 / 400 * n * n / (0.65 * 0.02), light = 1500 / pi / clip;
  const Vec3 screen = Vec3{0.05, 0.5, 0.08} * light, product = Vec3{0.6, 0.1, 0.05} * light;
  // The can's foot and the wall's own light darken and tint it a little.
  EXPECT_NEAR(*level->value, difference_of(screen, product), 6) << level->formula;
  EXPECT_EQ(level->state, State::level);
  Json green = doc;
  green["products"][0]["parts"][0]["material"]["colour"] = {0.06, 0.4, 0.1};
  EXPECT_EQ(level_of(green, "light.key")->state, State::out);
  // Close before it, much of its light is the screen's own.
  Json close = doc;
  close["setups"][0]["backdrop"]["distance"] = 0.06;
  close["setups"][0]["backdrop"]["material"] = worlds::matte(0.1, 0.95, 0.2);
  const auto spilt = level_of(close, "light.key");
  EXPECT_EQ(spilt->state, State::out) << spilt->formula;
  EXPECT_NE(spilt->sentence.find("Over 5 %"), std::string::npos) << spilt->sentence;
}

// Source: Meeus (sun); ISO 15469 and IES RP-21 (sky; values from memory), by the calculation of that name.
TEST(WindowsDrift, IsThatOfThePaneOverTheTakes) {
  Json doc = with_rule(can(), "ambient", "window");
  EXPECT_FALSE(level_of(doc, "light.daylight")) << "nothing is told of when and where";
  doc["project"]["date"] = "2026-12-03";
  EXPECT_EQ(level_of(doc, "light.daylight")->state, State::unknown) << "no window";
  // A window behind the camera, facing south where north is away from the camera.
  doc["setups"][0]["lights"][0]["daylight"] = true;
  doc["setups"][0]["room"] = {{"north_deg", 180.0}};
  const auto asked = level_of(doc, "light.daylight");
  EXPECT_EQ(asked->state, State::unknown);
  EXPECT_NE(asked->formula.find("the hour of the first take, latitude and longitude are not known"),
            std::string::npos)
      << asked->formula;
  doc["project"].update({{"date", "2026-12-03"}, {"hour", 10.0}, {"latitude", 51.2}, {"longitude", 4.4}});
  doc["shots"][0]["takes_planned"] = 10;
  doc["shots"][0]["reset_minutes"] = 11.8;  // 10 x (2 s + 10 s + 11.8 min) = 120 min
  expect_level(doc, "light.daylight", 0.262147, State::level, 2e-3);
  doc["shots"][0]["takes_planned"] = 20;
  const auto longer = level_of(doc, "light.daylight");
  EXPECT_NEAR(*longer->value, *window_drift({51.2, 4.4, "2026-12-03T10:00", 240, 180, "clear"})->spread, 1e-6);
  // Turned by a quarter the pane looks east: the room is what turns, not the sun.
  doc["setups"][0]["room"]["north_deg"] = 90.0;
  EXPECT_NEAR(*level_of(doc, "light.daylight")->value,
              *window_drift({51.2, 4.4, "2026-12-03T10:00", 240, 90, "clear"})->spread, 1e-6);
  doc["project"]["hour"] = 15.5;
  EXPECT_EQ(level_of(doc, "light.daylight")->state, State::unknown) << "the sun goes down";
  EXPECT_FALSE(level_of(can(), "light.daylight"));
}

// Source: EMVA 1288, by the calculation of that name; two by two recorded pixels make a delivered one.
TEST(GreyNoise, IsOfADeliveredPixelAtTheIsoDialled) {
  Json doc = can();
  doc["kit"]["cameras"][0].update({{"full_well_e", 50000}, {"read_noise_e", 3}});
  doc["kit"]["cameras"][0]["modes"][0]["stops_over_grey"] = 3.0;
  doc["shots"][0]["camera"]["iso"] = 1600;
  const double db = grey_noise({50000, 100, 1600, 3.0, 3, 4})->snr_db;
  expect_level(doc, "camera.noise", db, State::leaning, 0.01);
  doc["shots"][0]["camera"]["iso"] = 6400;
  expect_level(doc, "camera.noise", grey_noise({50000, 100, 6400, 3.0, 3, 4})->snr_db, State::out, 0.01);
  doc["shots"][0]["camera"]["iso"] = 50;
  EXPECT_EQ(level_of(doc, "camera.noise")->state, State::unknown) << "under the lowest";
}

// Source: way = speed x time, by hand: an image at v leans by atan(v T / H) over a readout of T.
TEST(Lean, IsTheWayDuringTheReadout) {
  Json doc = can();
  EXPECT_FALSE(level_of(doc, "motion.skew")) << "nothing moves";
  doc["shots"][0]["tracks"] = {
      {{"target", "camera.slide"}, {"profile", "linear"}, {"keys", {{0, -0.5}, {2, 0.5}}}}};
  doc["shots"][0]["camera"]["slide_axis"] = {1, 0, 0};
  EXPECT_FALSE(level_of(doc, "motion.skew")) << "no readout is told";
  doc["kit"]["cameras"][0]["modes"][0]["readout"] = 0.02;
  // The can's front is 0.96 m away: 0.5 m/s there is 0.5 x (0.05 / 0.95) / 0.96 on the sensor.
  const double v = 0.5 * (0.05 / 0.95) / 0.96;
  expect_level(doc, "motion.skew", std::atan(v * 0.02 / 0.02025) * 180 / pi, State::out, 0.03);
  doc["kit"]["cameras"][0]["modes"][0]["readout"] = 0.005;
  EXPECT_EQ(level_of(doc, "motion.skew")->state, State::level);
}

// Source: similar triangles, by hand: a slider that comes back within a millimetre, through the lens.
TEST(Plates, MatchAsCloselyAsWhatCarriesComesBack) {
  Json doc = can();
  EXPECT_FALSE(level_of(doc, "motion.match")) << "one recording";
  doc["shots"][0]["plates"] = {"clean", "with the can"};
  expect_level(doc, "motion.match", 0.0, State::level, 1e-9);
  doc["shots"][0]["tracks"] = {{{"target", "camera.slide"}, {"profile", "linear"}, {"keys", {{0, 0}, {2, 0.2}}}}};
  doc["shots"][0]["camera"]["slide_axis"] = {1, 0, 0};
  EXPECT_EQ(level_of(doc, "motion.match")->state, State::unknown) << "what it stands on is not told";
  doc["kit"]["supports"].push_back({{"id", "rail"}, {"name", "Rail"}, {"kind", "slider"}, {"repeat", 0.0001}});
  doc["shots"][0]["camera"]["on"] = "rail";
  const double px = 0.0001 * (0.05 / 0.95) / 1.0 / (0.036 / 3840);
  expect_level(doc, "motion.match", px, State::level, 1e-6);
  doc["kit"]["supports"][1]["repeat"] = 0.001;
  expect_level(doc, "motion.match", 10 * px, State::out, 1e-6);
  // By its motor: 40 mm a turn in 200 steps of 16: half a microstep, a twentieth of a step and 20 um of play.
  doc["kit"]["supports"][1].erase("repeat");
  doc["kit"]["supports"][1].update(
      {{"steps_per_turn", 200}, {"microsteps", 16}, {"turn_travel", 0.04}, {"backlash", 2e-5}});
  expect_level(doc, "motion.match", px / 0.0001 * 3.625e-5, State::level, 1e-6);
  // 0.1 m a second at 25 frames: half a frame is 2 mm, at the can's front, 0.96 m away.
  EXPECT_NE(level_of(doc, "motion.match")->sentence.find(number_text(px / 0.0001 * 0.002 / 0.96, 2) + " px more"),
            std::string::npos)
      << level_of(doc, "motion.match")->sentence;
  doc["kit"]["supports"][1].erase("turn_travel");
  EXPECT_EQ(level_of(doc, "motion.match")->state, State::unknown) << "how far a turn goes is not told";
}

/// Recorded pixels that a can's side or top moves when its turntable is off by so much, the worst over the move:
/// by plain trigonometry, for a camera at `from` that looks straight at the axis, level or down.
double off_by_turning(const Vec3& from, double distance_off, double off_deg, double from_deg, double to_deg) {
  const double image = 0.05 / 0.95, pitch = 0.036 / 3840;
  const bool down = from.y > 0.5;
  const auto seen = [&](double x, double y, double z) {
    const double depth = down ? from.y - y : from.z - z;
    return std::pair{x * image / depth, (down ? z : y - from.y) * image / depth};
  };
  const auto about = [](double x, double z, double degrees_) {
    const double a = degrees_ * pi / 180;
    return std::pair{x * std::cos(a) + z * std::sin(a), z * std::cos(a) - x * std::sin(a)};
  };
  double most = 0.0;
  for (double turn = from_deg; turn <= to_deg + 1e-9; turn += (to_deg - from_deg) / 90)
    for (int k = 0; k < 360; ++k)
      for (const double y : {0.0, 0.1}) {
        const double a = k * pi / 180;
        const auto [x, z] = about(distance_off + 0.04 * std::sin(a), 0.04 * std::cos(a), turn);
        const auto [nx, nz] = about(std::sin(a), std::cos(a), turn);
        const Vec3 to = from - Vec3{x, y, z};
        const bool side = nx * to.x + nz * to.z > 0.0, top = y > 0.0 && to.y > 0.0;
        if (!side && !top) continue;
        const auto [x2, z2] = about(x, z, off_deg);
        const auto [u, v] = seen(x, y, z);
        const auto [u2, v2] = seen(x2, y, z2);
        most = std::max(most, std::hypot(u2 - u, v2 - v));
      }
  return most / pitch;
}

// Source: similar triangles and trigonometry, by hand above: a turntable that comes back within a tenth of a
// degree; the can on its axis, off it, from above, in a tall frame, in ramped time, and by its motor's steps.
TEST(Plates, MatchAsCloselyAsTheTurntableComesBack) {
  Json doc = can();
  doc["shots"][0]["plates"] = {"clean", "with the can"};
  doc["shots"][0]["tracks"] = {{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, 0}, {2, 90}}}}};
  expect_level(doc, "motion.match", 0.0, State::level, 1e-9);
  doc["shots"][0]["products"][0]["on"] = "table";
  expect_level(doc, "motion.match", 0.0, State::level, 1e-9);
  doc["kit"]["supports"][0]["repeat"] = 0.1;
  const Vec3 level{0, 0.05, 1.0}, above{0, 1.05, 0};
  const double on_axis = off_by_turning(level, 0, 0.1, 0, 90);
  EXPECT_NEAR(on_axis, 0.1 * pi / 180 * 0.04 * (0.05 / 0.95) / 0.96 / (0.036 / 3840), 1e-5) << "its front";
  expect_level(doc, "motion.match", on_axis, State::level, 0.01 * on_axis);
  // 45 degrees a second at 25 frames: half a frame takes the front 0.9 degrees on, nine times as far.
  EXPECT_NE(level_of(doc, "motion.match")->sentence.find(number_text(9 * on_axis, 2) + " px more"),
            std::string::npos)
      << level_of(doc, "motion.match")->sentence;
  doc["shots"][0]["products"][0]["place"] = {0.2, 0, 0};
  const double aside = off_by_turning(level, 0.2, 0.1, 0, 90);
  expect_level(doc, "motion.match", aside, aside > 1.1 ? State::out : State::level, 0.02 * aside);
  Json tall = doc;
  tall["shots"][0]["camera"]["roll_deg"] = 90;
  tall["deliverables"][0]["width"] = 1080, tall["deliverables"][0]["height"] = 1920;
  tall["shots"][0]["play"] = {{0, 1.0}, {0.6, 0.5}};
  tall["shots"][0]["screen_time"] = worlds::read(doc).shots[0]->screen_time * 1.5;
  const auto ramped = level_of(tall, "motion.match");
  ASSERT_TRUE(ramped && ramped->value);
  const double turned_to = 45 * worlds::read(tall).shots[0]->set_time();
  const double on_side = off_by_turning(level, 0.2, 0.1, 0, std::min(90.0, turned_to));
  EXPECT_NEAR(*ramped->value, on_side, 0.02 * on_side);
  Json down = doc;
  down["shots"][0]["camera"]["place"] = {0.0, 1.05, 0.0}, down["shots"][0]["camera"]["aim"] = {0, 0.05, 0};
  const double from_above = off_by_turning(above, 0.2, 0.1, 0, 90);
  const auto seen = level_of(down, "motion.match");
  ASSERT_TRUE(seen && seen->value);
  EXPECT_NEAR(*seen->value, from_above, 0.02 * from_above);
  doc["shots"][0]["products"][0]["place"] = {0, 0, 0};
  doc["kit"]["supports"][0].erase("repeat");
  doc["kit"]["supports"][0].update({{"steps_per_turn", 200}, {"microsteps", 8}});
  const double stepped = off_by_turning(level, 0, 1.8 / 16 + 0.05 * 1.8, 0, 90);
  expect_level(doc, "motion.match", stepped, State::level, 0.01 * stepped);
}

}  // namespace
}  // namespace cinnabar
