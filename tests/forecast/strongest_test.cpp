// Which light gives most, wherever the product stands and however many lights there are: flux over distance
// squared (common practice, no source).
#include "cinnabar/forecast/measures/strongest.h"

#include "judging.h"

namespace cinnabar {
namespace {

Project shone_on(const Json& lights, const Json& product_at = {0, 0, 0}) {
  Json doc = judging::can();
  doc["setups"][0]["lights"] = lights;
  doc["shots"][0]["products"][0]["place"] = product_at;
  return worlds::read(doc);
}
std::optional<std::size_t> strongest(const Project& p) {
  return strongest_light(*p.setups[0], product_place(p, *p.setups[0]));
}

// Common practice, no source: flux over distance squared
TEST(Strongest, IsReckonedFromTheProductAndNotFromTheMiddleOfTheFloor) {
  const Json lights{worlds::rectangle("near-middle", {0, 0.5, 0.5}, {0, 0, 0}, 0.3, 0.3, 2000),
                    worlds::rectangle("aside", {2.0, 0.5, 0.5}, {2, 0, 0}, 0.3, 0.3, 2000)};
  EXPECT_EQ(strongest(shone_on(lights)), std::optional<std::size_t>(0));
  EXPECT_EQ(strongest(shone_on(lights, {1.9, 0, 0.2})), std::optional<std::size_t>(1));
}

// Common practice, no source: flux over distance squared
TEST(Strongest, IsNoneInTheDarkAndNotAnyThatIsOffOrDimmedToNothing) {
  Json off = worlds::rectangle("off", {0, 0.5, 0.3}, {0, 0, 0}, 0.3, 0.3, 9000);
  off["on"] = false;
  Json dimmed = worlds::rectangle("dimmed", {0, 0.5, 0.3}, {0, 0, 0}, 0.3, 0.3, 9000);
  dimmed["dimmer"] = 0.0;
  EXPECT_EQ(strongest(shone_on(Json::array())), std::nullopt);
  EXPECT_EQ(strongest(shone_on({off, dimmed})), std::nullopt);
  EXPECT_EQ(strongest(shone_on({off, dimmed, worlds::rectangle("far", {0, 3, 3}, {0, 0, 0}, 0.3, 0.3, 10)})),
            std::optional<std::size_t>(2));
}

// Common practice, no source: flux over distance squared
TEST(Strongest, IsFoundAmongTwenty) {
  Json lights = Json::array();
  for (int i = 0; i < 20; ++i)
    lights.push_back(worlds::rectangle("l" + std::to_string(i), {0.1 * i - 1, 1.0, i == 13 ? 0.2 : 1.5}, {0, 0, 0},
                                       0.2, 0.2, 500));
  EXPECT_EQ(strongest(shone_on(lights)), std::optional<std::size_t>(13));
}

}  // namespace
}  // namespace cinnabar
