// Bright dots of chance are spread, light is not lost, what is truly bright stays; and which light is asked.
#include "cinnabar/render/speckles.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <numeric>

#include "cinnabar/color/white.h"
#include "cinnabar/render/light_choice.h"
#include "staging.h"

namespace cinnabar {
namespace {

constexpr int passes = 64;

/// A film of one grey thing in an even light, in which single passes of single pixels can be made bright.
struct Even {
  Even(MaterialKind kind, int w = 48, int h = 27) : film(w, h, 0, Caustics::by_photons) {
    mesh.material.kind = kind;
    for (std::size_t p = 0; p < film.pixels(); ++p) {
      film.first[p].mesh = &mesh;
      for (int k = 0; k < passes; ++k) add(p, k % 2 ? 9.0f : 11.0f);
    }
    film.passes = passes;
  }
  void add(std::size_t p, float shown) {
    film.sums[p] += Rgb{1, 1, 1} * shown;
    film.totals[p] += shown, film.squares[p] += shown * shown;
  }
  [[nodiscard]] Picture picture() const { return mixed(film, {{1, 1, 1}}); }
  Mesh mesh;
  Film film;
};
double sum_of(const Picture& picture) {
  return std::accumulate(picture.pixels.begin(), picture.pixels.end(), 0.0,
                         [](double sum, const Rgb& c) { return sum + static_cast<double>(luminance(c)); });
}

// Own behaviour.
TEST(Speckles, AreSpreadAndNoLightIsLost) {
  Even even(MaterialKind::cloth);
  for (const auto& [x, y] : {std::pair{20, 10}, {21, 10}, {0, 0}, {47, 26}, {30, 20}})
    even.add(even.film.at(x, y), 64 * 10 * 40);  // one pass: forty times what lies about it, once all are in
  const Picture raw = even.picture(), calmed = calm(even.film, {{1, 1, 1}});
  EXPECT_EQ(speckles(raw, even.film).size(), 5U);
  EXPECT_NEAR(sum_of(calmed), sum_of(raw), 1e-5 * sum_of(raw));
  for (const Rgb& c : calmed.pixels) EXPECT_LT(luminance(c), 20);
}

// Own behaviour.
TEST(Speckles, OfAFewThousandTimesReachNoFurtherThanTheyMay) {
  Even even(MaterialKind::matte);
  even.add(even.film.at(24, 13), 64 * 10 * 5000.0f);
  const auto found = speckles(even.picture(), even.film);
  ASSERT_EQ(found.size(), 1U);
  EXPECT_EQ(found[0].reach, 15);
  EXPECT_NEAR(found[0].keeps, 1.0 / 5001, 1e-6);
}

// Own behaviour.
TEST(Speckles, AreNotWhatIsBrightInEveryPass) {
  Even even(MaterialKind::matte);
  for (int k = 0; k < passes; ++k) even.add(even.film.at(20, 10), 400);
  EXPECT_TRUE(speckles(even.picture(), even.film).empty());
}

// Own behaviour.
TEST(Speckles, AreLookedForOnMatteThingsAlone) {
  for (const auto kind : {MaterialKind::gloss, MaterialKind::metal, MaterialKind::glass, MaterialKind::mirror}) {
    Even even(kind);
    even.add(even.film.at(20, 10), 64 * 10 * 40);
    EXPECT_TRUE(speckles(even.picture(), even.film).empty());
  }
}

// Own behaviour.
TEST(Speckles, DoNotCrossToAnotherThing) {
  Even even(MaterialKind::matte);
  Mesh other;
  for (int y = 0; y < 27; ++y)
    for (int x = 24; x < 48; ++x) even.film.first[even.film.at(x, y)].mesh = &other;
  even.add(even.film.at(23, 13), 64 * 10 * 40);
  const Picture raw = even.picture(), calmed = calm(even.film, {{1, 1, 1}});
  double gained = 0;
  for (int y = 0; y < 27; ++y)
    for (int x = 24; x < 48; ++x)
      gained = std::max(gained, std::abs(static_cast<double>(luminance(calmed.pixels[even.film.at(x, y)]) -
                                                             luminance(raw.pixels[even.film.at(x, y)]))));
  EXPECT_EQ(gained, 0);
  EXPECT_LT(luminance(calmed.pixels[even.film.at(23, 13)]), 11);
}

// Own behaviour.
TEST(Speckles, NeedPassesThatWereKept) {
  Even even(MaterialKind::matte);
  even.add(even.film.at(20, 10), 64 * 10 * 40);
  Film few = even.film, by_paths = even.film;
  few.passes = 4;
  by_paths.squares.clear();
  EXPECT_TRUE(speckles(even.picture(), few).empty());
  EXPECT_TRUE(speckles(even.picture(), by_paths).empty());
}

/// A glass on cloth before a pale card, a lamp and a panel, in ways that no demo has.
struct OddSet {
  const char* name;
  void (*change)(Json& doc);
  double seconds = 0.0;
};
void PrintTo(const OddSet& set, std::ostream* out) { *out << set.name; }
Json on_cloth() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "glass"}, {"ior", 1.5}});
  Json& setup = doc["setups"][0];
  setup["surface"] = {
      {"width", 1.6}, {"depth", 1.2}, {"material", {{"kind", "cloth"}, {"colour", {0.05, 0.05, 0.05}}}}};
  setup["cards"].push_back(
      worlds::card("white", {0.2, 0.1, 0}, {0, 0.1, 0}, 0.3, 0.2, worlds::matte(0.9, 0.9, 0.9)));
  setup["lights"].push_back(worlds::rectangle("key", {-0.5, 0.5, 0.3}, {0, 0.05, 0}, 0.3, 0.3, 3000));
  setup["ambient"] = {{"illuminance_lx", 40}};
  doc["shots"][0]["camera"].update(
      {{"place", {0, 0.3, 0.6}}, {"aim", {0, 0.05, 0}}, {"focus", 0.65}, {"f_number", 11}});
  return doc;
}

class OddSets : public testing::TestWithParam<OddSet> {};
// Own behaviour.
TEST_P(OddSets, GiveInFourWaysWhatTheyGiveInOneAndKeepTheirLightWhenCalm) {
  Json doc = on_cloth();
  GetParam().change(doc);
  const auto world = worlds::staged(doc, GetParam().seconds);
  const Tracer tracer(world);
  const LayerWeights weights = neutral_weights(*world);
  double means[2] = {};
  for (const int ways : {1, 4}) {
    Film film = tracer.film(64, 36, Caustics::by_photons);
    film.ways = ways;
    for (int pass = 0; pass < 512 / ways; ++pass) ASSERT_TRUE(tracer.add_pass(film));
    const Picture raw = mixed(film, weights), calmed = calm(film, weights);
    means[ways == 4 ? 1 : 0] = sum_of(raw);
    EXPECT_NEAR(sum_of(calmed), sum_of(raw), 1e-5 * sum_of(raw));
    EXPECT_LE(speckles(calmed, film).size(), speckles(raw, film).size());
  }
  EXPECT_GT(means[0], 0);
  EXPECT_NEAR(means[1], means[0], 0.01 * means[0]);
}
INSTANTIATE_TEST_SUITE_P(
    Beyond, OddSets,
    testing::Values(
        OddSet{"Plain", [](Json&) {}},
        OddSet{"LookingDownAwayFromTheOrigin",
               [](Json& doc) {
                 doc["shots"][0]["products"][0]["place"] = {0.3, 0, -0.2};
                 doc["shots"][0]["camera"].update(
                     {{"place", {0.3, 0.7, -0.19}}, {"aim", {0.3, 0, -0.2}}, {"focus", 0.65}});
               }},
        OddSet{"TallFrame", [](Json& doc) { doc["shots"][0]["camera"]["roll_deg"] = 90; }},
        OddSet{"NoLights", [](Json& doc) { doc["setups"][0]["lights"] = Json::array(); }},
        OddSet{"LightsOff", [](Json& doc) { doc["setups"][0]["lights"][0]["on"] = false; }},
        OddSet{"TwentyLights",
               [](Json& doc) {
                 for (int k = 0; k < 19; ++k)
                   doc["setups"][0]["lights"].push_back(
                       worlds::rectangle("l" + std::to_string(k), {0.9 * std::cos(k), 0.5, 0.9 * std::sin(k)},
                                         {0, 0.05, 0}, 0.1, 0.1, 60 + 30 * k));
               }},
        OddSet{"RampedAndTurning",
               [](Json& doc) {
                 doc["products"][0]["parts"][0]["material"] = {
                     {"kind", "satin"}, {"colour", {0.6, 0.3, 0.2}}, {"roughness", 0.5}};
                 doc["shots"][0]["play"] = {{0, 1.0}, {0.6, 0.25}};
                 doc["shots"][0]["tracks"] = Json::array(
                     {{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, -60}, {1.0, 200}}}}});
               },
               0.4},
        OddSet{"MirrorBesideIt",
               [](Json& doc) {
                 doc["setups"][0]["cards"][0]["material"] = {{"kind", "mirror"}, {"colour", {0.9, 0.9, 0.9}}};
               }}),
    [](const auto& set) { return std::string(set.param.name); });

std::pair<std::vector<LightSampler>, std::vector<double>> lights_all_round(int count) {
  Json doc = worlds::bare();
  for (int k = 0; k < count; ++k)
    doc["setups"][0]["lights"].push_back(worlds::rectangle("l" + std::to_string(k),
                                                           {std::cos(k) * 0.9, 0.2 + 0.05 * k, std::sin(k) * 0.9},
                                                           {0, 0, 0}, 0.1 + 0.02 * k, 0.2, 500));
  std::pair<std::vector<LightSampler>, std::vector<double>> all;
  for (const StagedLight& l : worlds::staged(doc)->lights) {
    all.first.emplace_back(l);
    all.second.push_back(static_cast<double>(all.first.back().area));
  }
  return all;
}

// Own behaviour: samples against their chances.
TEST(TheLightToAsk, IsPickedAsOftenAsItsChanceSays) {
  for (const int count : {1, 2, 20, 200}) {
    const auto [lights, power] = lights_all_round(count);
    const LightChoice choice(lights, power);
    const Vec3f at{0.3f, 0.1f, -0.2f};
    for (const Vec3f& n : {Vec3f{0, 1, 0}, Vec3f{0, 0, 0}, unit(Vec3f{-1, 0.2f, 0.4f})}) {
      std::vector<int> picked(lights.size(), 0);
      constexpr int looks = 20000;
      for (int k = 0; k < looks; ++k) {
        const auto one = choice.pick(at, n, (static_cast<float>(k) + 0.5f) / looks);
        ++picked[one.light];
        EXPECT_FLOAT_EQ(one.chance, choice.chance(at, n, one.light));
      }
      double sum = 0;
      for (std::size_t i = 0; i < lights.size(); ++i) {
        sum += static_cast<double>(choice.chance(at, n, i));
        EXPECT_NEAR(picked[i], looks * static_cast<double>(choice.chance(at, n, i)), 3);
      }
      EXPECT_NEAR(sum, 1, 1e-4);
    }
  }
}

// Own behaviour: samples against their chances.
TEST(TheLightToAsk, IsMostlyOneThatCanGiveSomething) {
  const auto [lights, power] = lights_all_round(20);
  const LightChoice choice(lights, power);
  const Vec3f n{1, 0, 0};
  double behind = 0;
  for (std::size_t i = 0; i < lights.size(); ++i)
    if (lights[i].centre.x < -0.3f) behind += static_cast<double>(choice.chance({0, 0.1f, 0}, n, i));
  EXPECT_GT(behind, 0);     // by power: shapes are known roughly only
  EXPECT_LT(behind, 0.05);  // of a third of all
}

// Own behaviour: samples against their chances.
TEST(TheLightToAsk, IsNeverOneWithoutPower) {
  auto [lights, power] = lights_all_round(6);
  power[2] = power[4] = 0;
  const LightChoice choice(lights, power);
  EXPECT_TRUE(choice.any());
  EXPECT_EQ(choice.chance({0, 0, 0}, {}, 2), 0);
  for (int k = 0; k < 1000; ++k) {
    const auto one = choice.pick({0, 0, 0}, {0, 1, 0}, (static_cast<float>(k) + 0.5f) / 1000);
    EXPECT_TRUE(one.light != 2 && one.light != 4);
    EXPECT_GT(one.chance, 0);
  }
  EXPECT_FALSE(LightChoice(lights, std::vector<double>(6, 0)).any());
  EXPECT_FALSE(LightChoice().any());
}

}  // namespace
}  // namespace cinnabar
