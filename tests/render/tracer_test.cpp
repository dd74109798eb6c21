// The tracer against what is known in closed form.
#include <cmath>
#include <set>

#include "cinnabar/color/white.h"
#include "cinnabar/optics/fresnel.h"
#include "cinnabar/photometry/sources.h"
#include "cinnabar/render/meter.h"
#include "staging.h"

namespace cinnabar {
using worlds::rendered;
using worlds::staged;
namespace {

double mean_over_product(const Tracer& tracer, const Film& film) {
  const Picture picture = mixed(film, neutral_weights(tracer.world()));
  double sum = 0.0;
  int n = 0;
  const auto inside = [&](std::size_t p) {
    return film.first[p].mesh && film.first[p].mesh->role == Role::product && film.first[p].normal.z > 0.3f;
  };
  const auto w = static_cast<std::size_t>(film.width);
  for (std::size_t p = 2 * w; p + 2 * w < film.pixels(); ++p)  // off the outline, where the world behind shows too
    if (inside(p) && inside(p - 1) && inside(p + 1) && inside(p - 2 * w) && inside(p + 2 * w))
      sum += luminance(picture.pixels[p]), ++n;
  EXPECT_GT(n, 50);
  return sum / n;
}

/// White furnace: a world of radiance 1 all round (ambient of pi lux), in which nothing may gain or lose.
double furnace(const Json& material) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, material);
  doc["setups"][0]["ambient"] = {{"illuminance_lx", pi}};
  doc["shots"][0]["camera"]["f_number"] = 22;
  const Tracer tracer(staged(doc));
  return mean_over_product(tracer, rendered(tracer, 96, 54, 24));
}

// Source: conservation of energy (white furnace).
TEST(Furnace, AConvexMatteBodyShowsItsAlbedo) {
  EXPECT_NEAR(furnace({{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}}), 0.5,
              5e-4);  // smooth normals on a polygon
  EXPECT_NEAR(furnace({{"kind", "cloth"}, {"colour", {0.02, 0.02, 0.02}}}), 0.02, 1e-5);
}
// Source: conservation of energy (white furnace).
TEST(Furnace, LosslessGlassAndMirrorsVanish) {
  EXPECT_NEAR(furnace({{"kind", "glass"}, {"ior", 1.5}}), 1.0, 0.01);
  EXPECT_NEAR(furnace({{"kind", "mirror"}, {"colour", {1, 1, 1}}}), 1.0, 1e-4);
  EXPECT_NEAR(furnace({{"kind", "metal"}, {"colour", {1, 1, 1}}, {"roughness", 0.0}}), 1.0, 1e-4);
}
// Source: conservation of energy (white furnace).
TEST(Furnace, AWhiteBaseUnderACoatLosesNothing) {
  EXPECT_NEAR(furnace({{"kind", "gloss"}, {"colour", {1, 1, 1}}, {"ior", 1.5}}), 1.0, 0.01);
}
// Source: conservation of energy (white furnace).
TEST(Furnace, RoughLobesNeverGain) {
  // Single scattering loses what would bounce between facets, and may not gain (Heitz 2014, JCGT 3:2).
  for (const double roughness : {0.2, 0.5, 0.9}) {
    const double metal = furnace({{"kind", "metal"}, {"colour", {1, 1, 1}}, {"roughness", roughness}});
    EXPECT_LE(metal, 1.002);
    EXPECT_GE(metal, roughness < 0.6 ? 0.85 : 0.4);
    EXPECT_LE(furnace({{"kind", "satin"}, {"colour", {1, 1, 1}}, {"roughness", roughness}}), 1.01);
    EXPECT_LE(furnace({{"kind", "frosted"}, {"ior", 1.5}, {"roughness", roughness}}), 1.01);
  }
}

// Source: Howell, configuration factor of a parallel rectangle.
TEST(MattePatch, UnderARectangleHasTheClosedFormLuminance) {
  // First rect-illuminance check of Howell's factor: L 1000, 1 x 0.6 m at 1 m gives 491.157 lx; albedo 0.5.
  Json doc = worlds::bare();
  doc["setups"][0]["surface"] = {
      {"width", 0.02}, {"depth", 0.02}, {"material", {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}}}};
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 1.0, 0.6, 1000 * pi * 0.6));
  doc["shots"][0]["camera"]["place"] = {0, 0.2, 0.1};
  doc["shots"][0]["camera"]["aim"] = {0, 0, 0};
  doc["shots"][0]["camera"]["focus"] = 0.22;
  doc["shots"][0]["camera"]["f_number"] = 22;
  const Tracer tracer(staged(doc));
  const Film film = rendered(tracer, 64, 36, 64);
  const Picture picture = mixed(film, neutral_weights(tracer.world()));
  double sum = 0.0;
  for (int y = 16; y < 20; ++y)
    for (int x = 28; x < 36; ++x) sum += luminance(picture.pixels[static_cast<std::size_t>(y * 64 + x)]);
  EXPECT_NEAR(sum / 32, 78.17, 0.8);
}

/// What a camera sees in the middle of a clear sheet on cloth of that albedo, in a world of radiance 1 all round.
double sheet_seen(double albedo, double angle_deg) {
  Json doc = worlds::bare();
  doc["setups"][0]["surface"] = {
      {"width", 0.4},
      {"depth", 0.4},
      {"material", {{"kind", "cloth"}, {"colour", {albedo, albedo, albedo}}}},
      {"sheet", {{"thickness", 0.006}, {"material", {{"kind", "glass"}, {"ior", 1.5}}}}}};
  doc["setups"][0]["ambient"] = {{"illuminance_lx", pi}};
  auto& camera = doc["shots"][0]["camera"];
  camera["place"] = {0, std::cos(radians(angle_deg)), std::sin(radians(angle_deg))};
  camera["aim"] = {0, 0, 0};
  camera["f_number"] = 22;
  const Tracer tracer(staged(doc));
  const Picture picture = mixed(rendered(tracer, 64, 36, 64), neutral_weights(tracer.world()));
  double sum = 0.0;
  for (int y = 16; y < 20; ++y)
    for (int x = 28; x < 36; ++x) sum += luminance(picture.pixels[static_cast<std::size_t>(y * 64 + x)]);
  return sum / 32;
}

// Source: Born & Wolf, 2R / (1 + R) of a slab.
TEST(GlassSheet, OnBlackClothMirrorsWhatASlabDoes) {
  // What a lossless slab of n 1.5 does not pass it mirrors: 1 - 0.923077 at 0 degrees, 1 - 0.848128 at 60
  // (mean of both polarisations; here each boundary takes the mean, which at 60 degrees gives 0.1638).
  EXPECT_NEAR(sheet_seen(0.0, 0.5), 1 - 0.923077, 0.004);
  EXPECT_NEAR(sheet_seen(0.0, 60), 2 * 0.0891867 / (1 + 0.0891867), 0.006);
}

// Source: Born & Wolf, 2R / (1 + R) of a slab.
TEST(GlassSheet, OnWhiteClothLosesNothing) { EXPECT_NEAR(sheet_seen(1.0, 40), 1.0, 0.03); }

// Source: Born & Wolf, (1 - R) / (1 + R).
TEST(Slab, PassesWhatFresnelLets) {
  // A lossless plane slab of n 1.5 passes (1 - R) / (1 + R), the mean of both polarisations at 0 degrees:
  // 0.923077.
  Json doc = worlds::bare();
  doc["products"] = Json::array({{{"id", "pane"},
                                  {"parts",
                                   {{{"id", "p"},
                                     {"profile", {{0.0, 0.0}, {0.3, 0.0}, {0.3, 0.005}, {0.0, 0.005}}},
                                     {"material", {{"kind", "glass"}, {"ior", 1.5}}}}}}}});
  doc["shots"][0]["products"] = Json::array({{{"product", "pane"}, {"place", {0, 0.5, 0}}}});
  doc["setups"][0]["lights"].push_back(worlds::rectangle("sky", {0, 0, 0}, {0, 1, 0}, 4, 4, 1000 * pi * 16));
  doc["shots"][0]["camera"]["place"] = {0, 1.5, 0};
  doc["shots"][0]["camera"]["aim"] = {0, 0, 0};
  doc["shots"][0]["camera"]["f_number"] = 22;
  const Tracer tracer(staged(doc));
  const Film film = rendered(tracer, 32, 18, 256);
  const Picture picture = mixed(film, neutral_weights(tracer.world()));
  double sum = 0.0;
  for (int y = 8; y < 10; ++y)
    for (int x = 14; x < 18; ++x) sum += luminance(picture.pixels[static_cast<std::size_t>(y * 32 + x)]);
  EXPECT_NEAR(sum / 8 / 1000, 0.923077, 0.012);
}

// Source: light adds up (CIE S 017).
TEST(Layers, RemixedEqualLayersTracedAnew) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "satin"}, {"colour", {0.6, 0.3, 0.1}}}, true);
  doc["setups"][0]["surface"] = {
      {"width", 1}, {"depth", 1}, {"material", {{"kind", "gloss"}, {"colour", {0.2, 0.2, 0.2}}}}};
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.6, 0.6, 0.5}, {0, 0.05, 0}, 0.4, 0.6, 4000));
  doc["setups"][0]["lights"].push_back(worlds::rectangle("rim", {-0.6, 0.4, -0.3}, {0, 0.05, 0}, 0.1, 0.8, 2000));
  const Tracer before(staged(doc));
  const Film film = rendered(before, 64, 36, 4);
  doc["setups"][0]["lights"][0]["dimmer"] = 0.3;
  doc["setups"][0]["lights"][0]["kelvin"] = 3200;
  doc["setups"][0]["lights"][1]["on"] = false;
  doc["shots"][0]["camera"]["balance_k"] = 4500;
  const Tracer after(staged(doc));
  const Film anew = rendered(after, 64, 36, 4);
  const Picture a = mixed(film, layer_weights(after.world())), b = mixed(anew, layer_weights(after.world()));
  double difference = 0.0, sum = 0.0;
  for (std::size_t p = 0; p < a.pixels.size(); ++p)
    difference += std::abs(luminance(a.pixels[p] - b.pixels[p])), sum += luminance(b.pixels[p]);
  EXPECT_GT(sum, 1.0);
  EXPECT_LT(difference, 0.02 * sum);  // only the choice of lights at later bounces differs
}

// Own behaviour.
TEST(Pictures, AreTheSameWhateverTheCores) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "gloss"}, {"colour", {0.6, 0.3, 0.1}}});
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.6, 0.6, 0.5}, {0, 0.05, 0}, 0.4, 0.6, 4000));
  const Tracer tracer(staged(doc));
  Film many = rendered(tracer, 40, 22, 3), one = tracer.film(40, 22);
  std::vector<RayRecord> record;
  for (int p = 0; p < 3; ++p) ASSERT_TRUE(tracer.add_pass(one, nullptr, &record));
  EXPECT_EQ(many.sums, one.sums);
  EXPECT_GT(record.size(), 40u * 22u * 3u);
}

// Own behaviour.
TEST(Cancel, LeavesThePassAtOnce) {
  Json doc = worlds::bare();
  const Tracer tracer(staged(doc));
  Film film = tracer.film(40, 22);
  const std::atomic<bool> cancel{true};
  EXPECT_FALSE(tracer.add_pass(film, &cancel));
  EXPECT_EQ(film.passes, 0);
}

// Source: similar triangles, worked by hand.
TEST(Shadow, EdgeIsAsWideAsThePenumbra) {
  // A 0.2 m panel 1 m above a card's edge that stands 0.2 m over the surface: 0.2 x 0.2 / 0.8 = 50 mm.
  Json doc = worlds::bare();
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 0.2, 0.2, 4000));
  doc["setups"][0]["cards"].push_back(worlds::card("flag", {0.5, 0.2, 0}, {0.5, 0, 0}, 1.0, 1.0));
  const Tracer tracer(staged(doc));
  const double open = illuminance(tracer, {-0.2, 0, 0}, {0, 1, 0}).total();
  const double width = penumbra({.source_size = 0.2, .source_distance = 0.8, .gap = 0.2})->width;
  EXPECT_NEAR(width, 0.05, 1e-12);
  EXPECT_EQ(illuminance(tracer, {width / 2 + 0.004, 0, 0}, {0, 1, 0}).total(), 0.0);
  EXPECT_GT(illuminance(tracer, {width / 2 - 0.004, 0, 0}, {0, 1, 0}).total(), 0.0);
  EXPECT_LT(illuminance(tracer, {-width / 2 + 0.004, 0, 0}, {0, 1, 0}).total(), open);
  const double unhidden =
      rect_illuminance({.luminance = 4000 / (pi * 0.04), .width = 0.2, .height = 0.2, .distance = 1})
          ->illuminance_lx;
  EXPECT_NEAR(illuminance(tracer, {0, 0, 0}, {0, 1, 0}).total() / unhidden, 0.5, 0.01);
}

// Source: way = speed x time, worked by hand.
TEST(MotionBlur, SmearsALabelEdgeByTheAnalyticLength) {
  // 1000 degrees a second, 1/50 s, radius 40 mm: the front of the label crosses r x omega x t on the floor, times
  // v / depth.
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "cloth"}, {"colour", {0, 0, 0}}}, true);
  doc["products"][0]["label"]["arc_deg"] = 180;
  doc["products"][0]["label"]["bearing_deg"] = -90;  // its right edge passes the front
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 1000}};
  doc["shots"][0]["camera"]["f_number"] = 22;
  const double turn_per_s = 1000.0;
  doc["shots"][0]["tracks"] = Json::array({{{"target", "turntable"},
                                            {"profile", "linear"},
                                            {"keys", {{0, -turn_per_s * 0.01}, {1, turn_per_s * 0.99}}}}});
  const auto world = staged(doc, 0.0);
  const Tracer tracer(world);
  const int w = 480;
  const Film film = rendered(tracer, w, 270, 64);
  const Picture picture = mixed(film, neutral_weights(*world));
  // Along the row through the label's middle: the width over which luminance falls from 90 % to 10 %.
  std::vector<double> row(static_cast<std::size_t>(w), 0.0);
  for (int y = 125; y < 146; ++y)
    for (int x = 0; x < w; ++x)
      row[static_cast<std::size_t>(x)] += luminance(picture.pixels[static_cast<std::size_t>(y * w + x)]) / 21;
  const double bright = row[static_cast<std::size_t>(w / 2 - 20)],
               dark = row[static_cast<std::size_t>(w / 2 + 20)];
  const auto crossing = [&](double level) {
    for (int x = w / 2 - 20; x < w / 2 + 20; ++x) {
      const double a = (row[static_cast<std::size_t>(x)] - dark) / (bright - dark),
                   b = (row[static_cast<std::size_t>(x + 1)] - dark) / (bright - dark);
      if (a >= level && b < level) return x + (a - level) / (a - b);
    }
    return -1.0;
  };
  const double measured = (crossing(0.1) - crossing(0.9)) / 0.8;  // a linear ramp spans its whole width
  const CameraPose& pose = world->camera.poses.front();
  const double on_floor = 0.04 * radians(turn_per_s) * 0.02;
  const double expected = on_floor * pose.image_distance() / (1.0 - 0.04) / (0.036 / w);
  EXPECT_GT(expected, 8.0);
  EXPECT_NEAR(measured, expected, 0.08 * expected + 0.5);
}

// Source: the definition of a density, summed here.
TEST(Sampling, DensitiesIntegrateToOne) {
  Scattering s;
  s.base = {0.4f, 0.4f, 0.4f};
  s.coat(1.5f);
  s.rough(0.2f, 0.2f);
  for (const float tilt : {0.1f, 0.8f, 1.3f}) {
    const Vec3f out{std::sin(tilt), 0, std::cos(tilt)}, n{0, 0, 1};
    double sum = 0.0;
    const int rows = 700, columns = 1400;
    for (int i = 0; i < rows; ++i)
      for (int j = 0; j < columns; ++j) {
        const float c = (static_cast<float>(i) + 0.5f) / rows, r = std::sqrt(1 - c * c),
                    a = static_cast<float>(2 * pi) * (static_cast<float>(j) + 0.5f) / columns;
        sum += s.density(out, {r * std::cos(a), r * std::sin(a), c}, n) * 2 * pi / rows / columns;
      }
    EXPECT_LE(sum, 1.005);  // directions under the surface are drawn too, and thrown away
    EXPECT_GE(sum, tilt < 1.0f ? 0.97 : 0.85);
  }
}

// Source: Helmholtz reciprocity.
TEST(Sampling, ScatteringIsReciprocal) {
  Scattering s;
  s.base = {0.4f, 0.5f, 0.6f};
  s.coat(1.5f);
  s.rough(0.3f, 0.3f);
  const Vec3f n{0, 0, 1}, a = unit(Vec3f{0.3f, 0.2f, 0.8f}), b = unit(Vec3f{-0.7f, 0.1f, 0.4f});
  const Rgb ab = s.value(a, b, n) * (1.0f / b.z), ba = s.value(b, a, n) * (1.0f / a.z);
  EXPECT_NEAR(ab.x, ba.x, 1e-5);
  EXPECT_NEAR(ab.z, ba.z, 1e-5);
}

// Source: Sobol' 1967; (0,2)-sequences as Niederreiter 1992 defines them.
TEST(Sampler, IsAZeroTwoSequenceInEveryPairOfDimensions) {
  // Of 16 consecutive points every elementary interval of area 1/16 holds one (Sobol 1967).
  for (std::uint32_t pixel = 0; pixel < 20; ++pixel) {
    std::vector<std::pair<float, float>> points;
    for (std::uint32_t i = 0; i < 16; ++i) {
      Sampler s(pixel, i);
      (void)s.pair();
      points.push_back(s.pair());
    }
    for (int bits = 0; bits <= 4; ++bits) {
      std::set<std::pair<int, int>> cells;
      for (const auto& [x, y] : points)
        cells.emplace(static_cast<int>(x * static_cast<float>(1 << bits)),
                      static_cast<int>(y * static_cast<float>(16 >> bits)));
      EXPECT_EQ(cells.size(), 16u) << "pixel " << pixel << " split " << bits;
    }
  }
}

// Source: solid angle of a cone, 2 pi (1 - cos).
TEST(BareLamp, SamplesItsConeEvenly) {
  StagedLight lamp{"b", LightShape::bare, {0, 0, 0}, facing({0, 0, 0}, {0, 0, 1}), 0, 0, 0.2, 0, 1, 1, 5600, true,
                   0};
  const LightSampler sampler(lamp);
  const auto s = sampler.toward({0, 0, 1}, 0.3f, 0.7f);
  EXPECT_NEAR(s.density, sampler.density({0, 0, 1}, s.direction, s.distance, {}), 1e-3 * s.density);
  EXPECT_NEAR(s.density, 1 / (2 * pi * (1 - std::sqrt(1 - 0.04))), 1e-3 * s.density);
}

// Own behaviour.
TEST(FirstHits, KnowAPrintedPixelByItsMean) {
  // Print finer than a pixel, half black and half white: what a pixel reflects in the mean is half its paper,
  // within four standard deviations of 64 tosses (4 x 0.5 / 8); a single toss would be all or nothing.
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}}, true);
  StagedWorld world = *worlds::staged(doc);
  auto print = std::make_shared<Picture>(Picture{512, 512, {}});
  for (int y = 0; y < 512; ++y)
    for (int x = 0; x < 512; ++x) print->pixels.push_back((x + y) % 2 ? Rgb{1, 1, 1} : Rgb{0, 0, 0});
  for (Mesh& mesh : world.meshes)
    if (mesh.material.kind == MaterialKind::paper && !mesh.uvs.empty()) mesh.picture = print;
  const Tracer tracer(std::make_shared<const StagedWorld>(world));
  Film film = tracer.film(64, 36);
  for (int pass = 0; pass < 64; ++pass) ASSERT_TRUE(tracer.add_pass(film));
  int printed = 0;
  for (const FirstHit& first : film.first) {
    if (!first.mesh || !first.mesh->picture) continue;
    ++printed;
    EXPECT_NEAR(first.albedo.x / static_cast<float>(first.mesh->material.colour.x), 0.5, 0.26);
  }
  EXPECT_GT(printed, 10);
  // A picture to be looked at knows it sooner: sixteen looks in four passes, where paths have four.
  const auto scatter = [&](Caustics caustics) {
    Film four = tracer.film(64, 36, caustics);
    for (int pass = 0; pass < 4; ++pass) EXPECT_TRUE(tracer.add_pass(four));
    double squares = 0;
    for (const FirstHit& first : four.first)
      if (first.mesh && first.mesh->picture)
        squares += std::pow(first.albedo.x / static_cast<float>(first.mesh->material.colour.x) - 0.5, 2);
    return squares;
  };
  EXPECT_LT(scatter(Caustics::by_photons), 0.4 * scatter(Caustics::by_paths));
}

}  // namespace
}  // namespace cinnabar
