// Rooms, fronts of lights, the polariser and shadows alone, in set-ups that no demo has.
#include "cinnabar/forecast/levers/knobs.h"
#include "cinnabar/project/model/windows.h"
#include "cinnabar/render/shadows.h"
#include "odd_setups.h"

namespace cinnabar {
namespace {
using namespace odd_setups;

class OddLights : public OddTest {
 protected:
  static std::vector<Level> levels(const Json& d) { return Forecaster(quick_measure).levels(worlds::read(d), 0); }
  static void expect_alike(const std::vector<Level>& a, const std::vector<Level>& b) {
    const auto ids = [](const std::vector<Level>& all) {
      std::vector<std::string> list;
      for (const Level& level : all) list.push_back(level.id);
      return list;
    };
    ASSERT_EQ(ids(a), ids(b));
    for (std::size_t i = 0; i < a.size(); ++i) {
      SCOPED_TRACE(a[i].id + ": " + a[i].formula + " / " + b[i].formula);
      EXPECT_EQ(a[i].value.has_value(), b[i].value.has_value());
      if (a[i].value && b[i].value) {
        const double errors = 3.0 * (a[i].error.value_or(0.0) + b[i].error.value_or(0.0));
        // Stops are logarithms: a thousandth of the light, however near to nought they are.
        const bool log = a[i].unit == Unit::stops || a[i].unit == Unit::signed_stops;
        const double least = log ? std::log2(1.001) : 1e-9;
        EXPECT_NEAR(*a[i].value, *b[i].value, errors + 0.01 * std::abs(*a[i].value) + least);
      }
    }
  }
};

// Own behaviour: black walls far off that may be seen, behind closed windows, change nothing.
TEST_P(OddLights, ABlackRoomWithItsWindowsClosedIsNone) {
  Json d = doc();
  Json& room = d["setups"][0]["room"];
  if (room.is_null()) room = Json::object();
  room.erase("windows");
  Json walled = d;
  for (const char* key : {"width", "depth", "height"}) room.erase(key);
  walled["setups"][0]["room"].update({{"width", 40},
                                      {"depth", 40},
                                      {"height", 40},
                                      {"place", {0, -20, 0}},
                                      {"reflectance", 0.0},
                                      {"dressed", true}});
  walled["setups"][0]["room"]["windows"] =
      Json::array({Json{{"id", "closed"}, {"wall", "left"}, {"width", 2}, {"height", 2}, {"on", false}}});
  // With their errors: a window that is there, though closed, has other paths drawn.
  const auto surely = [](const Json& of) { return Forecaster().sure_levels(worlds::read(of), 0); };
  expect_alike(surely(d), surely(walled));
}

// Own behaviour: a cloth without lamp or inner cloth behind it is the even face that a light has anyway.
TEST_P(OddLights, AnEvenClothIsAnEvenFace) {
  Json d = doc();
  for (Json& light : d["setups"][0]["lights"]) light.erase("front");
  const auto plain = levels(d);
  for (Json& light : d["setups"][0]["lights"])
    if (light["shape"] == "rectangle" || light["shape"] == "disc") light["front"] = {{"kind", "cloth"}};
  expect_alike(plain, levels(d));
}

// Source: its stops (common practice, no source) are what a polariser takes of all light.
TEST_P(OddLights, APolariserTakesItsStops) {
  Json d = doc();
  d["shots"][0]["camera"].erase("polariser");
  const auto stops = [](const Json& of) {
    return Forecaster(quick_measure).levels(worlds::read(of), 0, "camera.stops");
  };
  const auto plain = stops(d);
  for (const double angle : {0.0, 35.0, 90.0}) {
    d["shots"][0]["camera"]["polariser"] = {{"angle_deg", angle}, {"stops", 1.7}};
    const auto filmed = stops(d);
    ASSERT_EQ(plain.size(), filmed.size());
    if (plain.empty() || !plain[0].value) continue;
    EXPECT_NEAR(*plain[0].value - *filmed[0].value, 1.7, 1e-9) << angle;
  }
}

// Own behaviour: shares of light, none in the dark, and none of what is cast by a light that is off.
TEST_P(OddLights, ShadowsAreSharesAndTheDarkHasNone) {
  Json d = doc();
  const auto kept = [](const Json& of) {
    const Project project = worlds::read(of);
    const auto world = std::make_shared<const StagedWorld>(stage(project, *project.shots[0], 0.3));
    return shadows_alone(Tracer(world), *world, 64, 36);
  };
  const auto lit = kept(d);
  ASSERT_EQ(lit.size(), 64u * 36u);
  const auto [low, high] = std::minmax_element(lit.begin(), lit.end());
  EXPECT_GE(*low, 0.0f);
  EXPECT_LE(*high, 1.0f);
  EXPECT_LT(*low, 0.5f) << "something is lit";
  EXPECT_GT(*high, 0.5f) << "something throws a shadow, or is turned away";
  for (Json& light : d["setups"][0]["lights"]) light["on"] = false;
  if (d["setups"][0].contains("room")) d["setups"][0]["room"].erase("windows");
  const auto dark = kept(d);
  EXPECT_EQ(*std::max_element(dark.begin(), dark.end()), 0.0f);
}

// Own behaviour: levers leave windows where they are; closing them is all that they do.
TEST_P(OddLights, LeversMoveNoWindow) {
  Json d = doc();
  d["project"].update({{"date", "2026-04-12"}, {"hour", 10.0}, {"latitude", 47.0}, {"longitude", 11.0}});
  d["setups"][0]["room"] = {{"width", 6}, {"depth", 7}, {"height", 3}, {"north_deg", 160}, {"dressed", true}};
  d["setups"][0]["room"]["windows"] =
      Json::array({Json{{"id", "w"}, {"wall", "left"}, {"width", 1.5}, {"height", 1.5}, {"low", 0.8}}});
  const Document document = *Document::from_json(d);
  const Forecaster forecaster(quick_measure);
  std::size_t tried = 0;
  for (const char* id : {"light.product", "light.white", "light.ratio", "camera.stops", "light.highlight"})
    for (const Lever& lever : forecaster.levers(document, 0, id, nullptr, {.together = false}).list) {
      Json window = applied(document, lever.edit).to_json()["setups"][0]["room"]["windows"][0];
      window.erase("on");
      EXPECT_EQ(window, d["setups"][0]["room"]["windows"][0]) << lever.title;
      ++tried;
    }
  EXPECT_GT(tried, 0u);
}

// Source: Malus: films that are crossed take what metal mirrors of a light, which a lens's film alone does not
// (Born & Wolf: metal polarises little).
TEST(CrossedFilms, TakeAHighlightOffMetal) {
  Json d = odd_setups::set_up();
  d["products"][0].erase("label");
  d["products"][0]["parts"][0]["material"] = {{"kind", "metal"}, {"colour", {0.7, 0.7, 0.7}}, {"roughness", 0.35}};
  d["setups"][0]["lights"][0]["lumens"] = 12000;
  const Document document = *Document::from_json(d);
  ProjectReader reader;
  const Project project = reader.read(document);
  const Forecaster forecaster(quick_measure);
  const auto highlight = [&](const Project& of) { return forecaster.levels(of, 0, "light.highlight").at(0); };
  const Level before = highlight(project);
  ASSERT_TRUE(before.value);
  const KnobList knobs = knobs_for(document, project, 0, before);
  const auto turned = [&](const std::string& words) {
    double most = -1e9;
    for (const Knob& knob : knobs.knobs) {
      if (knob.title(0.0).find(words) == std::string::npos) continue;
      for (const double step : knob.steps) {
        const auto next = knob.apply(document, step);
        if (!next) continue;
        for (const auto& fault : validate(*next)) ADD_FAILURE() << fault.path << " " << fault.message;
        most = std::max(most, highlight(reader.read(*next)).value.value_or(-1e9));
      }
    }
    return most;
  };
  const double lens_alone = turned("Put a polariser on the lens"), crossed = turned("polarising film on key");
  EXPECT_GT(crossed, lens_alone + 1.0) << "stops under clipping";
  EXPECT_NEAR(lens_alone, *before.value + 1.5, 0.05) << "it takes its stops, no more";
}

INSTANTIATE_TEST_SUITE_P(Odd, OddLights, testing::ValuesIn(odds), [](const auto& odd) { return odd.param.name; });

}  // namespace
}  // namespace cinnabar
