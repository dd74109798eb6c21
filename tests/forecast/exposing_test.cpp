// Exposures turned without rays: what is said of the levels is what is measured then.
#include "cinnabar/forecast/moves/exposing.h"

#include "odd_setups.h"

namespace cinnabar {
namespace {
using namespace odd_setups;

Level level(const std::string& id, double value, const Band& band) {
  Level l;
  l.id = id, l.value = value, l.band = band, l.state = state_of(value, band);
  return l;
}
const Band product{-0.33, 0.33}, highlight{0.0, {}};

// Own behaviour: nearest to the middles of the bands, no farther than there is light for, what counts first twice.
TEST(Exposing, IsWantedWhereTheLevelsStandBest) {
  EXPECT_NEAR(exposure_wanted({level("light.product", -1.0, product)}), 1.0, 0.06);
  EXPECT_NEAR(exposure_wanted({level("light.product", 2.2, product)}), -2.2, 0.06);
  EXPECT_NEAR(exposure_wanted({level("light.product", -1.0, product)}, 0.4), 0.4, 1e-9);
  EXPECT_EQ(exposure_wanted({level("light.product", 0.05, product)}), 0.0);
  EXPECT_EQ(exposure_wanted({level("light.ratio", 9.0, {1.0, 2.0})}), 0.0) << "not moved by it";
  const std::vector<Level> apart{level("light.product", -2.0, product), level("light.highlight", 0.2, highlight)};
  EXPECT_GT(exposure_wanted(apart, exposure_reach, {"light.product"}), 1.6);
  EXPECT_LT(exposure_wanted(apart, exposure_reach, {"light.highlight"}), 0.3);
}

class Exposed : public OddTest {};

// Source: exposure is linear in ISO (ISO 12232): stops of it move every one of these levels by as many.
TEST_P(Exposed, LevelsStandAsTheyAreSaidTo) {
  const Forecaster forecaster(quick_measure);
  const Document before = *Document::from_json(doc());
  ProjectReader reader;
  const auto now = forecaster.levels(reader.read(before), 0);
  const double iso = reader.read(before).shots[0]->camera->iso;
  for (const double stops : {-1.5, 0.8}) {
    const auto after = *with_value(before, "/shots/0/camera/iso", iso * std::exp2(stops));
    const auto said = exposed(now, stops), then = forecaster.levels(reader.read(after), 0);
    std::size_t seen = 0;
    for (const char* id : {"light.product", "camera.stops", "light.highlight", "light.backdrop"}) {
      SCOPED_TRACE(id);
      const Level *guess = level_named(said, id), *real = level_named(then, id);
      ASSERT_EQ(guess == nullptr, real == nullptr);
      if (!guess || !guess->value || !real->value) continue;
      EXPECT_NEAR(*guess->value, *real->value, 1e-6) << real->formula;
      ++seen;
    }
    EXPECT_GE(seen, 2u);
  }
}

// Own behaviour: no brighter than the camera and the limit of ISO allow, filters taken off first.
TEST_P(Exposed, IsTurnedByWhatTheCameraHas) {
  Json d = doc();
  d["shots"][0]["camera"]["nd_stops"] = 2.0, d["shots"][0]["camera"]["iso"] = 800;
  Document document = *Document::from_json(d);
  const Forecaster forecaster(quick_measure);
  ProjectReader reader;
  EXPECT_NEAR(exposure_left(reader.read(document), *reader.read(document).shots[0]), 3.0, 1e-9);
  auto levels = forecaster.levels(reader.read(document), 0);
  const int was = weight_of(levels);
  settle_exposure(forecaster, document, 0, levels);
  const auto& camera = *reader.read(document).shots[0]->camera;
  EXPECT_LE(camera.iso, 1600.0);
  EXPECT_GE(camera.nd_stops, 0.0);
  if (camera.iso > 800.0) EXPECT_EQ(camera.nd_stops, 0.0) << "filters come off first";
  EXPECT_LE(weight_of(levels), was);
  const auto measured = forecaster.levels(reader.read(document), 0);
  ASSERT_EQ(measured.size(), levels.size());
  for (std::size_t i = 0; i < levels.size(); ++i) EXPECT_EQ(measured[i].state, levels[i].state) << levels[i].id;
}

INSTANTIATE_TEST_SUITE_P(Odd, Exposed, testing::ValuesIn(odds), [](const auto& of) { return of.param.name; });

}  // namespace
}  // namespace cinnabar
