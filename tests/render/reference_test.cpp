// The tracer against the second opinion of reference.h on nine small sets, patch by patch.
#include <gtest/gtest.h>
#include <tbb/parallel_for.h>

#include "cinnabar/color/white.h"
#include "reference.h"
#include "staging.h"

namespace cinnabar::second_opinion {
namespace {

using reference::Index;
using reference::Patch;

struct Set {
  const char* name;
  Json (*document)();
  std::vector<Patch> patches;
  double allowed;
  Index metal{1.0, 0.0};
  int paths = 150000, passes = 256;
};
void PrintTo(const Set& set, std::ostream* out) { *out << set.name; }

/// A bench with a matte grey table, a key from the left and a glow all round; the camera looks down a little.
Json bench(const Json& table, double key_lumens = 400) {
  Json doc = worlds::bare();
  doc["setups"][0]["surface"] = {{"width", 1.6}, {"depth", 1.2}, {"material", table}};
  doc["setups"][0]["lights"].push_back(
      worlds::rectangle("key", {-0.45, 0.45, 0.15}, {0, 0.05, 0}, 0.5, 0.4, key_lumens));
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 300}};
  doc["shots"][0]["camera"].update(
      {{"place", {0, 0.2, 0.6}}, {"aim", {0, 0.05, 0}}, {"focus", 0.6}, {"f_number", 22}});
  return doc;
}
Json grey(double tone) { return {{"kind", "matte"}, {"colour", {tone, tone, tone}}}; }
Json of(const char* kind, double tone, Json more = Json::object()) {
  more["kind"] = kind;
  more["colour"] = {tone, tone, tone};
  return more;
}

const Patch on_body{0.475, 0.4, 0.525, 0.55}, left_of_body{0.425, 0.45, 0.45, 0.6},
    right_of_body{0.55, 0.4, 0.575, 0.6}, table_left{0.1, 0.7, 0.25, 0.85}, table_right{0.7, 0.6, 0.85, 0.75},
    in_front{0.45, 0.85, 0.55, 0.95};

Json matte() {
  Json doc = bench(grey(0.4));
  worlds::add_cylinder(doc, grey(0.6));
  return doc;
}
Json two_whites() {
  Json doc = bench(grey(0.85));
  worlds::add_cylinder(doc, grey(0.9));
  doc["setups"][0]["cards"].push_back(worlds::card("fill", {0.25, 0.12, 0.05}, {0, 0.05, 0}, 0.3, 0.3, grey(0.9)));
  doc["setups"][0]["cards"].push_back(
      worlds::card("flag", {-0.2, 0.3, 0.0}, {-0.4, 0.45, 0.1}, 0.15, 0.1, grey(0.03)));
  return doc;
}
Json gloss_table() {
  Json doc = bench(of("gloss", 0.1, {{"ior", 1.5}}));
  worlds::add_cylinder(doc, grey(0.7));
  return doc;
}
const Index aluminium{1.097, 6.795};  // at 589 nm (CRC Handbook of Chemistry and Physics; value from memory)
Json metal(double roughness, double brushing) {
  const double f0 = reference::metal_reflectance(aluminium, 1.0);
  Json doc = bench(grey(0.4));
  worlds::add_cylinder(doc, of("metal", f0, {{"roughness", roughness}, {"brushing", brushing}}));
  return doc;
}
Json mirror_and_metal() {
  Json doc = metal(0.5, 0.0);
  doc["setups"][0]["cards"].push_back(
      worlds::card("mirror", {0.17, 0.08, 0.0}, {0, 0.08, 0.3}, 0.12, 0.15, of("mirror", 0.85)));
  return doc;
}
Json brushed() { return metal(0.5, 0.8); }
Json brushed_upright() { return metal(0.4, -0.8); }
Json glass() {
  Json doc = bench(grey(0.4));
  worlds::add_cylinder(doc, {{"kind", "glass"}, {"ior", 1.5}, {"absorption", {5, 5, 5}}});
  return doc;
}
Json drink() {
  Json doc = bench(grey(0.5));
  worlds::add_cylinder(doc, {{"kind", "glass"}, {"ior", 1.52}});
  Json& parts = doc["products"][0]["parts"];
  parts[0]["wall"] = 0.003;
  parts[0]["profile"] = {{0.0, 0.0}, {0.035, 0.0}, {0.035, 0.1}};
  parts.push_back({{"id", "drink"},
                   {"profile", {{0.0, 0.003}, {0.032, 0.003}, {0.032, 0.07}, {0.0, 0.07}}},
                   {"material", {{"kind", "liquid"}, {"ior", 1.34}, {"absorption", {10, 10, 10}}}}});
  return doc;
}
Json wax() {
  Json doc = bench(grey(0.4));
  worlds::add_cylinder(
      doc, of("translucent", 1.0, {{"ior", 1.44}, {"scattering", {400, 400, 400}}, {"absorption", {2, 2, 2}}}));
  return doc;
}

class SecondOpinion : public testing::TestWithParam<Set> {};

// Source: exact Fresnel and plain random walks of tests/render/reference.h; constants named there.
TEST_P(SecondOpinion, Agrees) {
  const Set& set = GetParam();
  const Json doc = set.document();
  const auto world = worlds::staged(doc);
  const Tracer tracer(world);
  constexpr int w = 80, h = 40;
  const Film paths = worlds::rendered(tracer, w, h, set.passes),
             photons = worlds::rendered(tracer, w, h, set.passes, Caustics::by_photons);
  const reference::World other(doc, set.metal);
  std::vector<reference::Mean> means(set.patches.size());
  tbb::parallel_for(std::size_t{0}, means.size(),
                    [&](std::size_t k) { means[k] = other.luminance(set.patches[k], set.paths, 7 + k); });
  for (const Film* film : {&paths, &photons}) {
    const Picture picture = mixed(*film, neutral_weights(*world));
    for (std::size_t k = 0; k < means.size(); ++k) {
      const Patch& p = set.patches[k];
      double mean = 0.0;
      int pixels = 0;
      for (int y = static_cast<int>(std::lround(p.top * h)); y < std::lround(p.bottom * h); ++y)
        for (int x = static_cast<int>(std::lround(p.left * w)); x < std::lround(p.right * w); ++x, ++pixels)
          mean += static_cast<double>(luminance(picture.pixels[film->at(x, y)]));
      mean /= pixels;
      EXPECT_LT(means[k].error, 0.4 * set.allowed * means[k].value) << "the reference is not sure, patch " << k;
      EXPECT_NEAR(mean, means[k].value, set.allowed * means[k].value)
          << "patch " << k << (film == &paths ? " by paths" : " by photons") << ", off by "
          << 100 * (mean / means[k].value - 1) << " %, reference sure to "
          << 100 * means[k].error / means[k].value;
    }
  }
}
INSTANTIATE_TEST_SUITE_P(
    Sets, SecondOpinion,
    testing::Values(
        Set{"Matte", matte, {on_body, left_of_body, right_of_body, table_left, table_right, in_front}, 0.02},
        Set{"TwoWhites", two_whites, {on_body, left_of_body, right_of_body, table_left, in_front}, 0.02},
        Set{"GlossTable",
            gloss_table,
            {on_body, table_left, table_right, in_front, {0.475, 0.75, 0.525, 0.8}},
            0.02,
            {1, 0},
            600000,
            1024},
        Set{"MirrorAndRoughMetal",
            mirror_and_metal,
            {on_body, {0.45, 0.4, 0.475, 0.55}, right_of_body, table_left, {0.8, 0.3, 0.85, 0.4}},
            0.02,
            aluminium,
            1000000,
            1024},
        Set{"BrushedMetal",
            brushed,
            {on_body, left_of_body, right_of_body, in_front},
            0.02,
            aluminium,
            1000000,
            2048},
        Set{"BrushedUpright",
            brushed_upright,
            {on_body, left_of_body, right_of_body, in_front},
            0.02,
            aluminium,
            1000000,
            1024},
        Set{"SolidGlass",
            glass,
            {on_body, left_of_body, right_of_body, table_left, {0.65, 0.5, 0.7, 0.6}},
            0.05,
            {1, 0},
            600000},
        Set{"DrinkInAGlass",
            drink,
            {on_body, left_of_body, table_left, {0.6, 0.5, 0.65, 0.6}, {0.65, 0.5, 0.7, 0.6}},
            0.05,
            {1, 0},
            600000},
        Set{"Wax", wax, {on_body, left_of_body, right_of_body, table_left}, 0.02, {1, 0}, 150000}),
    [](const testing::TestParamInfo<Set>& set) { return set.param.name; });

}  // namespace
}  // namespace cinnabar::second_opinion
