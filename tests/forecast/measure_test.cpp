// Measures of light: kept by arrangement, mixed for every dimmer and exposure.
#include "cinnabar/forecast/measures/measure.h"

#include <algorithm>
#include <random>
#include <set>

#include "cinnabar/forecast/forecast.h"
#include "cinnabar/forecast/measures/world_number.h"
#include "worlds.h"

namespace cinnabar {
namespace {

Json lit_can() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}, {"colour", {0.4, 0.4, 0.4}}}, true);
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.5, 0.6, 0.6}, {0, 0.05, 0}, 0.5, 0.7, 4000));
  doc["setups"][0]["lights"].push_back(worlds::rectangle("rim", {-0.5, 0.6, -0.2}, {0, 0.05, 0}, 0.2, 0.7, 2000));
  return doc;
}

std::uint64_t number_of(const Json& doc, double at = 0) {
  const Project project = worlds::read(doc);
  return arrangement_of(stage(project, *project.shots[0], at, {.motion = false, .segments = 64}));
}

struct ChangeRow {
  const char* pointer;
  Json value;
  bool anew;  // whether light must be measured anew
};
class Arrangement : public testing::TestWithParam<ChangeRow> {};
// Own behaviour.
TEST_P(Arrangement, ChangesJustWithWhatRaysSee) {
  Json doc = lit_can();
  const auto before = number_of(doc);
  doc[Json::json_pointer(GetParam().pointer)] = GetParam().value;
  EXPECT_EQ(number_of(doc) != before, GetParam().anew) << GetParam().pointer;
}
INSTANTIATE_TEST_SUITE_P(
    Changes, Arrangement,
    testing::Values(
        ChangeRow{"/setups/0/lights/0/dimmer", 0.3, false}, ChangeRow{"/setups/0/lights/0/on", false, false},
        ChangeRow{"/setups/0/lights/0/kelvin", 3200, false}, ChangeRow{"/setups/0/lights/0/gel_mired", 20, false},
        ChangeRow{"/shots/0/camera/iso", 1600, false}, ChangeRow{"/shots/0/camera/shutter_time", 0.01, false},
        ChangeRow{"/shots/0/camera/nd_stops", 2, false}, ChangeRow{"/shots/0/camera/balance_k", 3200, false},
        ChangeRow{"/shots/0/target_stops", 1, false}, ChangeRow{"/setups/0/lights/0/lumens", 9000, true},
        ChangeRow{"/setups/0/lights/0/place", Json{0.5, 0.6, 0.61}, true},
        ChangeRow{"/setups/0/lights/0/width", 0.51, true}, ChangeRow{"/setups/0/lights/0/grid_deg", 40, true},
        ChangeRow{"/shots/0/camera/place", Json{0, 0.05, 1.01}, true},
        ChangeRow{"/shots/0/camera/f_number", 8, true}, ChangeRow{"/shots/0/camera/focus", 0.95, true},
        ChangeRow{"/shots/0/products/0/turn_deg", 20, true},
        ChangeRow{"/products/0/parts/0/material/colour", Json{0.5, 0.4, 0.4}, true},
        ChangeRow{"/setups/0/surface", Json{{"width", 1}, {"depth", 1}}, true}));

// Own behaviour.
TEST(Measures, AreTheSameKeptOrFresh) {
  Json doc = lit_can();
  MeasureCache kept;
  const Project first = worlds::read(doc);
  (void)kept.at(first, *first.shots[0], 0, quick_measure);
  doc["setups"][0]["lights"][0]["dimmer"] = 0.3;
  const Project dimmed = worlds::read(doc);
  const auto a = kept.at(dimmed, *dimmed.shots[0], 0, quick_measure);
  MeasureCache fresh;
  const auto b = fresh.at(dimmed, *dimmed.shots[0], 0, quick_measure);
  ASSERT_TRUE(a && b);
  EXPECT_EQ(a->measure->film.sums, b->measure->film.sums);
  for (std::size_t i = 0; i < a->measure->faces.size(); ++i) {
    EXPECT_DOUBLE_EQ(a->lux(a->measure->faces[i]), b->lux(b->measure->faces[i]));
  }
}

// Own behaviour: denser air, air that hangs elsewhere and none are three arrangements.
TEST(Measures, AreAnewWhereTheAirChanges) {
  const Project project = worlds::read(lit_can());
  StagedWorld world = stage(project, *project.shots[0], 0, {.motion = false, .segments = 64});
  const auto clear = numbers_of(world);
  world.clouds.push_back({.form = CloudForm::box, .place = {0, 0, 0}, .half = {1, 1, 1}, .extinction = {0.1}});
  const auto thin = numbers_of(world);
  world.clouds[0].extinction = {0.4};
  const auto dense = numbers_of(world);
  world.clouds[0].place.x = 0.5;
  const auto aside = numbers_of(world);
  const std::set<std::uint64_t> all{clear.all, thin.all, dense.all, aside.all},
      facing{clear.facing, thin.facing, dense.facing, aside.facing};
  EXPECT_EQ(all.size(), 4u);
  EXPECT_EQ(facing.size(), 4u);

  Json doc = lit_can();
  MeasureCache cache;
  const auto light_now = [&] {
    const Project now = worlds::read(doc);
    return cache.at(now, *now.shots[0], 0.9, quick_measure)->measure;
  };
  const auto without = light_now();
  EXPECT_EQ(light_now(), without);
  doc["shots"][0]["effects"] =
      Json::array({{{"id", "s"}, {"kind", "steam"}, {"at", 0.0}, {"place", {0.02, 0.1, 0.3}}}});
  const auto steaming = light_now();
  EXPECT_NE(steaming, without);
  EXPECT_NE(steaming->film.sums, without->film.sums);
}

// Own behaviour: how the lens is set costs patches no ray, where the camera stands does; from another dimmer on
// the patch that gets most is another one.
TEST(Measures, OfPatchesGoByTheirWorldAlone) {
  Json doc = lit_can();
  MeasureCache cache, fresh;
  MeasureQuality quality{64, full_measure.passes, full_measure.paths, 24};
  quality.reads = reads_highest_face;
  std::shared_ptr<const LightMeasure> measure;
  const auto lux_now = [&](MeasureCache& by) {
    const Project now = worlds::read(doc);
    const auto moment = by.at(now, *now.shots[0], 0, quality);
    measure = moment->measure;
    std::vector<double> lux;
    for (const Reading& face : moment->measure->faces) lux.push_back(moment->lux(face));
    return lux;
  };
  const auto before = lux_now(cache);
  const auto kept = measure;
  doc["shots"][0]["camera"]["f_number"] = 4, doc["shots"][0]["camera"]["focus"] = 0.9;
  EXPECT_EQ(lux_now(cache), before);
  EXPECT_EQ(measure, kept);
  doc["shots"][0]["camera"]["place"] = {0.4, 0.2, 1.0};
  EXPECT_NE(lux_now(cache), before);
  EXPECT_EQ(lux_now(cache), lux_now(fresh));
  // Closer: only what is near the highest goes on, and gives what it would give alone.
  quality.passes *= 4, quality.paths *= 4;
  for (const double dimmer : {1.0, 0.0}) {
    doc["setups"][0]["lights"][0]["dimmer"] = dimmer;
    const auto close = lux_now(cache);
    MeasureQuality whole = quality;
    whole.reads = reads_picture | reads_faces;
    const Project now = worlds::read(doc);
    MeasureCache another;
    const auto all = another.at(now, *now.shots[0], 0, whole);
    ASSERT_EQ(close.size(), 9u);
    const auto most = std::max_element(close.begin(), close.end());
    EXPECT_DOUBLE_EQ(*most, all->lux(all->measure->faces[static_cast<std::size_t>(most - close.begin())]));
    EXPECT_EQ(most - close.begin() > 4, dimmer > 0.0) << "the key stands on one side, the rim on the other";
  }
}

// Own behaviour: contrast asks the outer patches alone.
TEST(Measures, OfContrastKnowTheOuterPatches) {
  const Project project = worlds::read(lit_can());
  MeasureCache cache, fresh;
  MeasureQuality ends = search_measure;
  ends.reads = reads_ends;
  const auto some = cache.at(project, *project.shots[0], 0, ends),
             all = fresh.at(project, *project.shots[0], 0, search_measure);
  ASSERT_EQ(some->measure->faces.size(), 9u);
  for (const std::size_t i : {0, 8})
    EXPECT_EQ(some->measure->faces[i].per_luminance, all->measure->faces[i].per_luminance) << i;
  EXPECT_EQ(some->lux(some->measure->faces[4]), 0.0);
}

// Own behaviour: what is kept of lights that stay while another is carried, also through their way and beside
// them, while the product and a card move, is what is measured anew.
TEST(Measures, KeepWhatOtherLightsGiveOnlyWhereNothingComesBetween) {
  Json doc = lit_can();
  Json& lights = doc["setups"][0]["lights"];
  lights[1]["grid_deg"] = 40;
  Json spot{{"id", "spot"},     {"shape", "disc"}, {"radius", 0.05}, {"place", {0.0, 0.7, 0.9}},
            {"aim", {0, 0, 0}}, {"kit", "led"},    {"lumens", 900}};
  spot["front"] = {{"kind", "lens"}, {"source_radius", 0.01}, {"focal", 0.08}, {"distance", 0.05}};
  lights.push_back(spot);
  doc["setups"][0]["cards"].push_back(worlds::card("flag", {-0.9, 0.4, 0.4}, {0, 0.05, 0}, 0.3, 0.3));
  MeasureCache kept;
  bool blocked = false;
  double free_way = 0.0;
  for (int step = 0; step <= 8; ++step) {
    lights[1]["place"] = {-0.5 + 0.12 * step, 0.4 - 0.01 * step, -0.2 + 0.08 * step};  // past the key's way
    if (step >= 3) doc["setups"][0]["cards"][0]["place"] = {0.3 + 0.01 * step, 0.35, 0.4};
    if (step >= 6) doc["shots"][0]["products"][0]["place"] = {0.02, 0, 0.01};
    const Project now = worlds::read(doc);
    MeasureCache fresh;
    const auto a = kept.at(now, *now.shots[0], 0, quick_measure),
               b = fresh.at(now, *now.shots[0], 0, quick_measure);
    ASSERT_TRUE(a && b);
    for (std::size_t i = 0; i < a->measure->faces.size(); ++i)
      EXPECT_EQ(a->measure->faces[i].per_luminance, b->measure->faces[i].per_luminance) << step << " " << i;
    const double key = b->measure->faces[6].per_luminance[0];
    if (step == 0) free_way = key;
    blocked = blocked || key < 0.5 * free_way;
  }
  EXPECT_TRUE(blocked) << "something comes between in this test";
}

// Source: straight lines from a point to places of a ball, by hand.
TEST(Measures, KnowWhatIsInTheWay) {
  EXPECT_TRUE(in_the_way({0, 0, 0}, {0, 0, 1}, 0.1, {0.05, 0, 0.9}, 0.01)) << "in the cone";
  EXPECT_FALSE(in_the_way({0, 0, 0}, {0, 0, 1}, 0.1, {0.09, 0, 0.3}, 0.01)) << "beside it, where it is thin";
  EXPECT_TRUE(in_the_way({0, 0, 0}, {0, 0, 1}, 0.1, {0.09, 0, 0.3}, 0.07));
  EXPECT_FALSE(in_the_way({0, 0, 0}, {0, 0, 1}, 0.1, {0, 0, 1.5}, 0.3)) << "behind";
  EXPECT_FALSE(in_the_way({0, 0, 0}, {0, 0, 1}, 0.1, {0, 0, -0.5}, 0.3)) << "before";
  std::mt19937 random(7);
  std::uniform_real_distribution<double> any(-1, 1);
  const auto place = [&] { return Vec3{any(random), any(random), any(random)}; };
  for (int k = 0; k < 20000; ++k) {
    const Vec3 from = place(), to = place(), middle = place();
    const double to_radius = 0.3 * std::abs(any(random)), radius = 0.2 * std::abs(any(random));
    const Vec3 out = place();
    if (length(out) > 1) continue;
    const Vec3 way = to + out * to_radius - from;
    const double at = std::clamp(dot(middle - from, way) / dot(way, way), 0.0, 1.0);
    if (length(from + way * at - middle) <= radius) {
      EXPECT_TRUE(in_the_way(from, to, to_radius, middle, radius)) << k;
    }
  }
}

// Own behaviour.
TEST(Measures, StopWhenCancelled) {
  const Project project = worlds::read(lit_can());
  const std::atomic<bool> cancel{true};
  MeasureCache cache;
  EXPECT_FALSE(cache.at(project, *project.shots[0], 0, full_measure, &cancel));
  EXPECT_TRUE(Forecaster().levels(project, 0, {}, &cancel).empty());
}

// Own behaviour.
TEST(Measures, SeeDimmersMoveOnTheirTracks) {
  Json doc = lit_can();
  doc["shots"][0]["tracks"] = Json::array({{{"target", "light.key.dimmer"}, {"keys", {{0, 0}, {2, 1}}}}});
  const Project project = worlds::read(doc);
  MeasureCache cache;
  const auto start = cache.at(project, *project.shots[0], 0, quick_measure),
             end = cache.at(project, *project.shots[0], 1.99, quick_measure);
  EXPECT_EQ(start->measure, end->measure);  // one measure serves both
  EXPECT_LT(start->weights[0].x, 0.02f * end->weights[0].x);
}

/// The light of a document's first shot at its start.
LightMoment moment_of(const Json& doc, const MeasureQuality& quality = quick_measure) {
  static MeasureCache cache;
  const Project project = worlds::read(doc);
  return *cache.at(project, *project.shots[0], 0.0, quality);
}

// Own behaviour.
TEST(Patches, StandAroundTheProductAsTheCameraSeesIt) {
  // One small panel square to the patch 60 degrees to the camera's right, and nothing else.
  Json doc = lit_can();
  const Vec3 place = turned({0, 0, 1.04}, 60) + Vec3{0, 0.05, 0};
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("side", {place.x, place.y, place.z}, {0, 0.05, 0}, 0.05, 0.05, 1000)});
  const LightMoment moment = moment_of(doc);
  ASSERT_EQ(moment.measure->faces.size(), 9u);
  EXPECT_GT(moment.lux(moment.measure->faces[8]), 100.0);
  EXPECT_LT(moment.lux(moment.measure->faces[0]), 1.0) << "120 degrees away: over its horizon";
  // Faces run from the camera's left to its right, 15 degrees apart: the light falls by the cosine.
  for (std::size_t k = 4; k < 9; ++k)
    EXPECT_NEAR(moment.lux(moment.measure->faces[k]) / moment.lux(moment.measure->faces[8]),
                std::cos(radians(15.0 * static_cast<double>(8 - k))), 0.06);
}

// Own behaviour.
TEST(Patches, AreNoneWithoutAProduct) {
  Json doc = lit_can();
  doc["shots"][0]["products"] = Json::array();
  const LightMoment moment = moment_of(doc);
  EXPECT_TRUE(moment.measure->faces.empty());
  EXPECT_FALSE(moment.measure->front());
  EXPECT_FALSE(moment.measure->foot);
}

// Own behaviour.
TEST(Casts, KnowTheLightWithAndWithoutTheProduct) {
  Json doc = lit_can();
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 0.4}, {"width", 4.0}, {"height", 4.0}, {"low", -2.0}};
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("front", {0.5, 0.3, 1.0}, {0, 0.05, 0}, 0.05, 0.05, 3000)});
  const LightMoment moment = moment_of(doc);
  ASSERT_FALSE(moment.measure->cast.empty());
  int shaded = 0, lit = 0;
  for (const CastPoint& p : moment.measure->cast) {
    ASSERT_EQ(p.with.size(), 1u);
    EXPECT_LE(p.with[0], p.without[0] + 1e-9) << "a product adds no straight light";
    (p.with[0] < 0.5 * p.without[0] ? shaded : lit) += 1;
  }
  EXPECT_GT(shaded, 0);
  EXPECT_GT(lit, shaded) << "most of the wall is clear of it";
  doc["shots"][0]["products"] = Json::array();
  EXPECT_TRUE(moment_of(doc).measure->cast.empty());
}

}  // namespace
}  // namespace cinnabar
