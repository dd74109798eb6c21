// Measures of light: kept by arrangement, mixed for every dimmer and exposure.
#include "cinnabar/forecast/measure.h"

#include "cinnabar/forecast/forecast.h"
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
  static PictureCache pictures;
  return arrangement_of(stage(project, *project.shots[0], at, pictures, {.motion = false, .segments = 64}));
}

struct ChangeRow {
  const char* pointer;
  Json value;
  bool anew;  // whether light must be measured anew
};
class Arrangement : public testing::TestWithParam<ChangeRow> {};
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

TEST(Measures, StopWhenCancelled) {
  const Project project = worlds::read(lit_can());
  const std::atomic<bool> cancel{true};
  MeasureCache cache;
  EXPECT_FALSE(cache.at(project, *project.shots[0], 0, full_measure, &cancel));
  EXPECT_TRUE(Forecaster().levels(project, 0, {}, &cancel).empty());
}

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

}  // namespace
}  // namespace cinnabar
