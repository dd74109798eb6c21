// Materials against what they must be: white ones give out all they get, light goes the same way forth and back,
// covers lie on the share they are said to, a body that scatters inside follows diffusion.
#include <gtest/gtest.h>

#include <cmath>
#include <functional>

#include "cinnabar/color/white.h"
#include "cinnabar/optics/fresnel.h"
#include "cinnabar/render/cards.h"
#include "cinnabar/render/dressing.h"
#include "cinnabar/render/meter.h"
#include "cinnabar/render/tracer.h"
#include "staging.h"

namespace cinnabar {
namespace {

using worlds::staged;

struct Named {
  const char* name;
  Json material;
};
void PrintTo(const Named& named, std::ostream* out) { *out << named.name; }
std::string name_of(const testing::TestParamInfo<Named>& info) { return info.param.name; }

Json white(const char* kind, Json more = Json::object()) {
  more["kind"] = kind;
  more["colour"] = {1, 1, 1};
  return more;
}

/// A cylinder of a material in an even glow of 1 cd/m2, seen from so near.
struct Glowing {
  Glowing(const Json& material, const Json& place, double focus, int w, int h, int passes) {
    Json doc = worlds::bare();
    worlds::add_cylinder(doc, material);
    doc["setups"][0]["ambient"] = {{"illuminance_lx", pi}};
    doc["shots"][0]["camera"].update({{"place", place}, {"focus", focus}, {"f_number", 22}});
    world = staged(doc);
    film = worlds::rendered(Tracer(world), w, h, passes);
    picture = mixed(film, neutral_weights(*world));
  }
  std::shared_ptr<const StagedWorld> world;
  Film film;
  Picture picture;
};

class WhiteFurnace : public testing::TestWithParam<Named> {};

// Source: conservation of energy (white furnace).
TEST_P(WhiteFurnace, ShowsNothing) {  // what loses nothing cannot be told from an even glow behind it
  const Glowing seen_in(GetParam().material, {0, 0.12, 0.25}, 0.2, 48, 27, 256);
  const Film& film = seen_in.film;
  const Picture& picture = seen_in.picture;
  double sum = 0.0, worst = 0.0;
  int seen = 0;
  constexpr int block = 5;
  for (int y = 0; y + block <= 27; y += block)
    for (int x = 0; x + block <= 48; x += block) {
      double mean = 0.0;
      int on = 0;
      for (int j = 0; j < block; ++j)
        for (int i = 0; i < block; ++i) {
          const std::size_t p = film.at(x + i, y + j);
          if (!film.first[p].mesh || film.first[p].mesh->role != Role::product) continue;
          mean += static_cast<double>(luminance(picture.pixels[p]));
          ++on;
        }
      if (on < block * block) continue;
      mean /= on;
      sum += mean, ++seen;
      worst = std::max(worst, std::abs(mean - 1.0));
    }
  ASSERT_GT(seen, 4);
  // Tilted normals are no true relief: a little is lost in what they hide.
  const bool dressed = GetParam().material.contains("cover") || GetParam().material.contains("relief");
  EXPECT_NEAR(sum / seen, 1.0, dressed ? 0.008 : 0.003);
  EXPECT_LT(worst, 0.03);
}
INSTANTIATE_TEST_SUITE_P(
    Materials, WhiteFurnace,
    testing::Values(
        Named{"Matte", white("matte")}, Named{"Paper", white("paper")}, Named{"Cloth", white("cloth")},
        Named{"ClothWithSheen", white("cloth", {{"sheen", 0.8}, {"roughness", 0.35}})},
        Named{"Gloss", white("gloss")}, Named{"SatinFine", white("satin", {{"roughness", 0.2}})},
        Named{"SatinRough", white("satin", {{"roughness", 0.8}})},
        Named{"SatinDense", white("satin", {{"roughness", 0.6}, {"ior", 2.2}})},
        Named{"MetalFine", white("metal", {{"roughness", 0.15}})},
        Named{"MetalRough", white("metal", {{"roughness", 0.9}})},
        Named{"BrushedRound", white("metal", {{"roughness", 0.5}, {"brushing", 0.9}})},
        Named{"BrushedAlong", white("metal", {{"roughness", 0.5}, {"brushing", -0.9}})},
        Named{"BrushedSatin", white("satin", {{"roughness", 0.5}, {"brushing", 0.7}})},
        Named{"Mirror", white("mirror")}, Named{"Glass", white("glass")},
        Named{"FrostedFine", white("frosted", {{"roughness", 0.3}})},
        Named{"FrostedRough", white("frosted", {{"roughness", 0.8}})}, Named{"Liquid", white("liquid")},
        Named{"Wax", white("translucent", {{"scattering", {500, 500, 500}}, {"ior", 1.45}})},
        Named{"RoughWax",
              white("translucent", {{"scattering", {400, 800, 1200}}, {"ior", 1.4}, {"roughness", 0.5}})},
        Named{"GlassWithPrints",
              white("glass", {{"cover", {{"kind", "fingerprints"}, {"share", 0.6}, {"size", 0.015}}}})},
        Named{"MetalWithDrops",
              white("metal",
                    {{"roughness", 0.3}, {"cover", {{"kind", "droplets"}, {"share", 0.4}, {"size", 0.004}}}})},
        Named{"WetGloss", white("gloss", {{"cover", {{"kind", "droplets"}, {"share", 0.4}, {"size", 0.004}}}})},
        Named{"Skin", white("satin", {{"roughness", 0.4}, {"relief", {{"size", 0.003}, {"depth", 0.0003}}}})}),
    name_of);

/// Any surface's value is the same both ways, and its samples are spread as its density says.
class BothWays : public testing::TestWithParam<Named> {};

Scattering surface_of(const Json& material) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, material);
  Scattering s = scattering_of(worlds::read(doc).products[0]->parts[0].material);
  s.drawn = {1, 0, 0};
  return s;
}

// Source: Helmholtz reciprocity (Born & Wolf).
TEST_P(BothWays, AreAlike) {
  const Scattering s = surface_of(GetParam().material);
  const Vec3f up{0, 0, 1};
  for (int k = 1; k < 60; ++k) {
    const auto at = [&](float a, float b) {
      const float c = 0.05f + 0.9f * (a - std::floor(a)), r = std::sqrt(1 - c * c), turn = 2 * pif * b;
      return Vec3f{r * std::cos(turn), r * std::sin(turn), c};
    };
    const auto f = static_cast<float>(k);
    const Vec3f out = at(0.618f * f, 0.377f * f), in = at(0.755f * f, 0.569f * f);
    const double there = luminance(s.value(out, in, up)) / in.z, back = luminance(s.value(in, out, up)) / out.z;
    EXPECT_NEAR(there, back, 1e-3 * (there + back)) << k;
  }
}

// Own behaviour: samples against their density.
TEST_P(BothWays, AreSampledAsTheyAreSpread) {
  const Scattering s = surface_of(GetParam().material);
  const Vec3f up{0, 0, 1}, out = unit(Vec3f{0.5f, 0.3f, 0.6f});
  const auto o = s.outward(out, up);
  double value = 0.0, density = 0.0;
  constexpr int rings = 600, turns = 600;
  for (int i = 0; i < rings; ++i)
    for (int j = 0; j < turns; ++j) {
      const float c = (static_cast<float>(i) + 0.5f) / rings, r = std::sqrt(1 - c * c),
                  turn = 2 * pif * (static_cast<float>(j) + 0.5f) / turns;
      const auto both = s.both(o, {r * std::cos(turn), r * std::sin(turn), c});
      value += static_cast<double>(luminance(both.value)) * 2 * pi / (rings * turns);
      density += static_cast<double>(both.density) * 2 * pi / (rings * turns);
    }
  double sampled = 0.0, kept = 0.0;
  constexpr int n = 40000;
  for (std::uint32_t k = 0; k < n; ++k) {
    Sampler sampler(k, 3);
    const auto [u, v] = sampler.pair();
    const auto sample = s.sample(out, up, sampler.one(), u, v);
    if (sample.density > 0.0f) sampled += static_cast<double>(luminance(sample.weight)) / n, kept += 1.0 / n;
  }
  EXPECT_NEAR(sampled, value, 0.01);
  EXPECT_NEAR(kept, density, 0.01);
}
INSTANTIATE_TEST_SUITE_P(
    Materials, BothWays,
    testing::Values(
        Named{"Sheen", {{"kind", "cloth"}, {"colour", {0.3, 0.1, 0.1}}, {"sheen", 0.7}}},
        Named{"Satin", {{"kind", "satin"}, {"colour", {0.6, 0.5, 0.2}}, {"roughness", 0.6}}},
        Named{"Metal", {{"kind", "metal"}, {"colour", {0.9, 0.6, 0.3}}, {"roughness", 0.8}}},
        Named{"Brushed", {{"kind", "metal"}, {"colour", {0.9, 0.6, 0.3}}, {"roughness", 0.6}, {"brushing", 0.8}}},
        Named{"BrushedSatin",
              {{"kind", "satin"}, {"colour", {0.5, 0.5, 0.5}}, {"roughness", 0.6}, {"brushing", -0.6}}}),
    name_of);

// Source: conservation of energy; Helmholtz reciprocity.
TEST(RoughFaces, LoseNothingAndAnswerForthAndBack) {
  // Through a rough face: shares by solid angle, n2^2 apart (Walter et al. 2007, *Microfacet Models for Refraction
  // through Rough Surfaces*). Light from everywhere on both sides leaves as much as comes.
  constexpr float alpha = 0.4f, ior = 1.5f;
  constexpr int n = 200000;
  // Flux that goes from a range of directions outside to one inside, and the same back.
  const auto crossing = [&](bool inward, float from_low, float from_high, float to_low, float to_high) {
    double flux = 0.0;
    for (std::uint32_t k = 0; k < n; ++k) {
      Sampler sampler(k, 9);
      const auto [u, v] = sampler.pair();
      const float c = from_low + (from_high - from_low) * u, r = std::sqrt(1 - c * c);
      const auto way = over_facets({r * std::cos(2 * pif * v), r * std::sin(2 * pif * v), c}, alpha,
                                   inward ? 1 / ior : ior, sampler);
      const float cosine = std::abs(way.direction.z);
      if (way.crosses && cosine >= to_low && cosine < to_high)
        flux += static_cast<double>(2 * pif * (from_high - from_low) * c) / n;
    }
    return flux * (inward ? 1.0 : ior * ior);
  };
  for (const auto& [a, b] : {std::pair{0.2f, 0.6f}, std::pair{0.6f, 0.9f}, std::pair{0.9f, 1.0f}})
    for (const auto& [c, d] : {std::pair{0.3f, 0.75f}, std::pair{0.75f, 0.9f}, std::pair{0.9f, 1.0f}}) {
      const double in = crossing(true, a, b, c, d), out = crossing(false, c, d, a, b);
      EXPECT_NEAR(in, out, 0.02 * (in + out) / 2 + 0.004) << a << " " << c;
    }
}

// Source: Fresnel's formulas (Born & Wolf).
TEST(RoughFaces, FarFromRoughFollowFresnel) {
  const Vec3f out = unit(Vec3f{0.7f, 0.0f, 0.7f});
  int crossed = 0;
  constexpr int n = 40000;
  for (std::uint32_t k = 0; k < n; ++k) {
    Sampler sampler(k, 1);
    crossed += over_facets(out, 0.003f, 1 / 1.5f, sampler).crosses ? 1 : 0;
  }
  EXPECT_NEAR(1.0 - crossed / static_cast<double>(n),
              fresnel({.n1 = 1.0, .n2 = 1.5, .angle_deg = 45})->reflectance, 0.003);
}

// Source: the definition of solid angle, summed here.
TEST(CardAims, CoverTheCardsSolidAngleAsDenselyAsTheySay) {
  Json doc = worlds::bare();
  doc["setups"][0]["cards"].push_back(
      worlds::card("lit", {0, 0, 1}, {0, 0, 0}, 0.8, 0.6, worlds::matte(0.9, 0.9, 0.9)));
  doc["setups"][0]["cards"].push_back(worlds::card("flag", {0.3, 0, 0.5}, {0, 0, 0}, 0.4, 0.4));
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.5, 0.5, 0}, {0, 0, 1}, 0.2, 0.2, 1000));
  const auto world = staged(doc);
  const CardAims aims(*world, Tracer(world).lights());
  ASSERT_TRUE(aims.any());
  double covered = 0.0;
  constexpr int side = 200;
  for (int i = 0; i < side; ++i)
    for (int j = 0; j < side; ++j) {
      const Vec3f way = aims.toward({0, 0, 0}, 0.5f, (static_cast<float>(i) + 0.5f) / side,
                                    (static_cast<float>(j) + 0.5f) / side);
      covered += 1.0 / static_cast<double>(aims.density({0, 0, 0}, way)) / (side * side);
    }
  // A rectangle on its axis: 4 asin(a b / sqrt((a2 + d2)(b2 + d2))), half sides a and b; black cards are no aims.
  EXPECT_NEAR(covered, 4 * std::asin(0.4 * 0.3 / std::sqrt((0.16 + 1) * (0.09 + 1))), 1e-3);
  EXPECT_EQ(aims.density({0, 0, 0}, {0, 0, -1}), 0.0f);
}

// Source: Delesse 1847: shares of a cut are shares of the room.
TEST(Covers, LieOnTheShareTheyAreSaidTo) {  // Delesse 1847: shares of a cut are shares of the room
  for (const double part : {0.05, 0.3, 0.7, 0.8})
    for (const Vec3f& normal : {Vec3f{0, 0, 1}, unit(Vec3f{1, 2, -0.5f})}) {
      const Balls balls(part, 0.002, 5);
      Vec3f x, y;
      frame_about(normal, x, y);
      int on = 0;
      double largest_disc = 0.0;
      constexpr int side = 500;
      for (int i = 0; i < side; ++i)
        for (int j = 0; j < side; ++j) {
          const Vec3f at = x * (static_cast<float>(i) * 4e-4f) + y * (static_cast<float>(j) * 4.1e-4f);
          if (const auto cut = balls.at(at, normal)) {
            ++on;
            largest_disc = std::max(largest_disc, static_cast<double>(cut->radius));
            EXPECT_LE(length(cut->from_middle), cut->radius * 1.001f);
            EXPECT_NEAR(dot(cut->from_middle, normal), 0.0f, 1e-6f);
          }
        }
      EXPECT_NEAR(on / static_cast<double>(side * side), part, 0.015);
      EXPECT_LE(largest_disc, 0.00101);
      EXPECT_GT(largest_disc, 0.0008);
    }
}

// Own behaviour.
TEST(Covers, StayWhereTheyAreOnAThingThatTurns) {
  const auto seen = [](double degrees_turned) {
    Json doc = worlds::bare();
    worlds::add_cylinder(doc, {{"kind", "gloss"},
                               {"colour", {0.5, 0.5, 0.5}},
                               {"cover", {{"kind", "droplets"}, {"share", 0.4}, {"size", 0.004}}}});
    doc["shots"][0]["products"][0]["turn_deg"] = degrees_turned;
    doc["shots"][0]["products"][0]["place"] = {0.3, 0, 0.1};
    const auto world = staged(doc);
    const Geometry geometry(*world);
    const Dressing dressing(world->meshes.back());
    std::vector<bool> on;
    for (int k = 0; k < 400; ++k) {
      // The same place of the thing, wherever it stands: along the line to its axis.
      const double bearing = radians(k * 0.77 + degrees_turned), height = 0.01 + 0.0002 * k;
      const Vec3 outward{std::sin(bearing), 0, std::cos(bearing)}, axis{0.3, height, 0.1};
      Hit hit = geometry.meet({(axis + outward * 0.1).as<float>(), (-outward).as<float>()});
      EXPECT_TRUE(hit.mesh);
      dressing.put_on(hit);
      on.push_back(hit.covered);
    }
    return on;
  };
  const auto a = seen(0), b = seen(77);
  int same = 0, covered = 0;
  for (std::size_t k = 0; k < a.size(); ++k) same += a[k] == b[k] ? 1 : 0, covered += a[k] ? 1 : 0;
  EXPECT_GT(covered, 80);
  EXPECT_GT(same, 385) << "of 400: rounding at the drops' edges alone";
}

/// Mean luminance of the middle of a tall block of wax lit evenly from everywhere, by what it absorbs: its
/// diffuse albedo.
double albedo_of_wax(double scattering, double absorption, double ior) {
  const Json wax = white("translucent", {{"scattering", {scattering, scattering, scattering}},
                                         {"absorption", {absorption, absorption, absorption}},
                                         {"ior", ior}});
  const Glowing seen(wax, {0, 0.05, 0.35}, 0.31, 16, 9, 900);
  double mean = 0.0;
  for (int x = 7; x < 9; ++x) mean += static_cast<double>(luminance(seen.picture.pixels[seen.film.at(x, 4)])) / 2;
  return mean;
}

// Source: Hapke 1981, albedo of a half-space that scatters.
TEST(Wax, HasTheAlbedoOfManyScatterings) {
  // A half-space that scatters alike in all directions, index matched, lit evenly: Hapke's H functions, exact to
  // 1 % (Hapke 1981, *Bidirectional reflectance spectroscopy* I, eq. 12, spherical reflectance: (1 - g) / (1 + g)
  // x (1 - g / (3 (1 + g))), g = sqrt(1 - single-scattering albedo)). Its face spreads what passes: with index 1
  // that is all it does, and what is let in is even already.
  for (const double absorption : {20.0, 200.0, 2000.0}) {
    const double g = std::sqrt(absorption / (2000.0 + absorption));
    const double hapke = (1 - g) / (1 + g) * (1 - g / (3 * (1 + g)));
    EXPECT_NEAR(albedo_of_wax(2000.0, absorption, 1.0), hapke, 0.02 * hapke + 0.002) << absorption;
  }
}

// Own behaviour.
TEST(Wax, LetsLightThroughAndRoundCorners) {
  // Lit from behind alone, a body that scatters shows light in front; a matte one shows none.
  const auto front = [](const Json& material) {
    Json doc = worlds::bare();
    worlds::add_cylinder(doc, material);
    doc["setups"][0]["lights"].push_back(worlds::rectangle("back", {0, 0.05, -0.4}, {0, 0.05, 0}, 0.1, 0.1, 1000));
    const auto world = staged(doc);
    const Tracer tracer(world);
    const Film film = worlds::rendered(tracer, 48, 27, 64);
    const Picture picture = mixed(film, neutral_weights(*world));
    return static_cast<double>(luminance(picture.pixels[film.at(24, 13)]));
  };
  EXPECT_EQ(front(white("matte")), 0.0);
  const double thin = front(white("translucent", {{"scattering", {100, 100, 100}}})),
               dense = front(white("translucent", {{"scattering", {1000, 1000, 1000}}}));
  EXPECT_GT(dense, 0.0);
  EXPECT_GT(thin, 4 * dense);
}

// Source: Lambert's cosine law, worked by hand.
TEST(Screens, ShowTheirLuminanceAndLightWhatIsBeforeThem) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "gloss"}, {"colour", {0.5, 1, 0.25}}, {"screen", 400}});
  const auto world = staged(doc);
  ASSERT_TRUE(world->screens);
  const Tracer tracer(world);
  const Film film = worlds::rendered(tracer, 48, 27, 4);
  const Rgb shown = mixed(film, neutral_weights(*world)).pixels[film.at(24, 13)];
  EXPECT_NEAR(shown.x, 200, 1);
  EXPECT_NEAR(shown.y, 400, 1);
  EXPECT_NEAR(shown.z, 100, 1);
  EXPECT_EQ(mixed(film, layer_weights(*world, "ambient")).pixels[film.at(24, 13)].y, 0.0f);
  // An upright patch close before a long cylinder sees it as a strip: more light than none, less than pi L.
  const Reading reading = illuminance(tracer, {0, 0.05, 0.06}, {0, 0, -1}, {.paths = 4000});
  EXPECT_GT(reading.ambient, 0.3 * pi * 400 * 0.7);
  EXPECT_LT(reading.ambient, pi * 400);
}

// Own behaviour.
TEST(Foil, IsMetalWhereItIsStamped) {
  Label label;
  label.part = "body", label.arc_deg = 90, label.low = 0.02, label.high = 0.08;
  label.material = {MaterialKind::paper, {0.5, 0.5, 0.5}};
  Picture stamp{2, 1, {{0, 0, 0}, {1, 1, 1}}};
  label.stamp = std::make_shared<const Picture>(stamp);
  label.foil_material = {MaterialKind::metal, {0.9, 0.7, 0.3}, 0.0};
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, white("matte"));
  doc["setups"][0]["lights"].push_back(worlds::rectangle("front", {0, 0.05, 1.4}, {0, 0.05, 0}, 0.9, 0.9, 1000));
  doc["shots"][0]["camera"].update({{"place", {0, 0.05, 0.3}}, {"focus", 0.26}});
  const Project project = worlds::read(doc);
  StagedWorld world = stage(project, *project.shots[0], 0.0);
  Product product = *project.products[0];
  product.label = label;
  std::vector<Medium> media;
  Mesh mesh = product_meshes(product, media, 96).back();
  world.meshes.push_back(mesh);
  const Tracer tracer(std::make_shared<const StagedWorld>(std::move(world)));
  const Film film = worlds::rendered(tracer, 96, 54, 64);
  const Picture picture = mixed(film, neutral_weights(tracer.world()));
  // Left of the middle paper: colourless. Right of it foil: gold, and it mirrors the light's face whole.
  const Rgb paper = picture.pixels[film.at(45, 27)], gold = picture.pixels[film.at(50, 27)];
  EXPECT_NEAR(paper.z / paper.x, 1.0, 0.02);
  EXPECT_NEAR(gold.z / gold.x, 0.3 / 0.9, 0.03);
}

}  // namespace
}  // namespace cinnabar
