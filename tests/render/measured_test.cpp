// Measured lights on the floor: what the meter reads is the file's candela over the distance squared
// (inverse-square law, CIE S 017), whatever the shape of the face, and the tracer sees the same.
#include "cinnabar/photometry/ies.h"
#include "cinnabar/render/meter.h"
#include "staging.h"

namespace cinnabar {
using worlds::staged;
namespace {

// Falls off differently to the right, up and to the left; 0 beyond 60 degrees.
const std::string file = R"(IESNA:LM-63-1995
TILT=INCLUDE
1
2
0 90
1 0.5
1 -1 1 4 5 1 2 0.1 0.1 0
1 1 100
0 20 40 60
0 90 180 270 360
900 800 500 0
900 600 200 0
900 400 100 0
900 600 200 0
900 800 500 0
)";

Json world(const Json& light, const std::string& text = file) {
  Json doc = worlds::bare();
  doc["blobs"]["lamp"] = {{"type", "application/x-ies"}, {"data", base64_encoded({text.begin(), text.end()})}};
  doc["kit"]["lights"].push_back({{"id", "measured"}, {"ies", "lamp"}});
  Json l{{"id", "b"}, {"kit", "measured"}, {"place", {0, 2, 0}}, {"aim", {0, 0, 0}}};
  l.update(light);
  doc["setups"][0]["lights"].push_back(l);
  return doc;
}
const Json bare{{"shape", "bare"}, {"radius", 0.004}}, disc{{"shape", "disc"}, {"radius", 0.01}},
    panel{{"shape", "rectangle"}, {"width", 0.02}, {"height", 0.02}};

/// Aimed straight down, a face's right is world +X and its up world -Z.
double expected(const LightDistribution& d, const Vec3& point) {
  const Vec3 to = point - Vec3{0, 2, 0};
  const double far = length(to), vertical = degrees(std::acos(2 / far)),
               horizontal = degrees(std::atan2(-point.z, point.x));
  return d.candela_at(vertical, horizontal) / (far * far) * (2 / far);
}

// Source: inverse-square law (CIE S 017).
TEST(MeasuredLight, IsReadAsItsFileSaysAcrossTheFloor) {
  const LightDistribution d = *read_ies(file, "lamp");
  for (const Json& shape : {bare, disc, panel}) {
    const Tracer tracer(staged(world(shape)));
    for (const Vec3& point : {Vec3{0, 0, 0}, {0.9, 0, 0}, {0, 0, -1.2}, {-1.5, 0, 0}, {0.7, 0, 1.1}}) {
      const double lux = expected(d, point);
      EXPECT_NEAR(illuminance(tracer, point, {0, 1, 0}).total(), lux, 0.01 * lux) << shape << " " << point.x;
    }
    EXPECT_EQ(illuminance(tracer, {4.5, 0, 0}, {0, 1, 0}).total(), 0.0) << shape;  // beyond 60 degrees
  }
}

// Source: ANSI/IES LM-63-2002.
TEST(MeasuredLight, LumensAreTheFilesUnlessTheLightNamesItsOwn) {
  const double own = read_ies(file, "lamp")->lumens();
  const Project project = worlds::read(world(bare));
  EXPECT_NEAR(project.setups[0]->lights[0].lumens, own, 1e-9);
  EXPECT_EQ(project.light_kits.back()->output->derivation, "added up over the measured distribution");
  Json named = bare;
  named["lumens"] = 2 * own;
  EXPECT_NEAR(illuminance(Tracer(staged(world(named))), {0, 0, 0}, {0, 1, 0}).total(), 2 * 900 / 4.0, 2.0);
}

// Source: ANSI/IES LM-63-2002 (tilt).
TEST(MeasuredLight, ALampThatTiltsLosesWhatItsFileSays) {
  Json level = bare;
  level["place"] = {0, 1, 2}, level["aim"] = {0, 1, 0};
  EXPECT_NEAR(illuminance(Tracer(staged(world(level))), {0, 1, 0}, {0, 0, 1}).total(), 0.5 * 900 / 4.0, 1.0);
}

// Own behaviour.
TEST(MeasuredLight, ADiffuserEvensItOut) {
  Json soft = disc;
  soft["transmittance"] = 0.5;
  const Project project = worlds::read(world(soft));
  EXPECT_EQ(project.setups[0]->lights[0].distribution, nullptr);
  const double lux = illuminance(Tracer(staged(world(soft))), {0, 0, 0}, {0, 1, 0}).total();
  EXPECT_NEAR(lux, 0.5 * read_ies(file, "lamp")->lumens() / pi / 4.0, 0.01 * lux);  // Lambert's on its axis
}

// Source: inverse-square law (CIE S 017).
TEST(MeasuredLight, TheTracedFloorIsAsBrightAsTheMeterSays) {
  Json doc = world(bare);
  doc["setups"][0]["surface"] = {
      {"width", 4.0}, {"depth", 4.0}, {"material", {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}}}};
  const Tracer tracer(staged(doc));
  const LightDistribution d = *read_ies(file, "lamp");
  for (const Vec3& point : {Vec3{0.6, 0, 0.2}, {-0.8, 0, -0.5}}) {
    Rgb layers[2]{}, sum{};
    constexpr int paths = 3000;
    for (int i = 0; i < paths; ++i) {
      Sampler sampler(11, static_cast<std::uint32_t>(i));
      layers[0] = layers[1] = {};
      tracer.follow({Vec3{point.x, 0.5, point.z}.as<float>(), Vec3f{0, -1, 0}, 0.0f, 1e30f, 0.5f}, {1, 1, 1},
                    sampler, layers, {});
      sum += layers[0] * (1.0f / paths);
    }
    const double luminance = static_cast<double>(sum.y) * tracer.world().lights[0].luminance;
    EXPECT_NEAR(luminance, 0.5 / pi * expected(d, point), 0.02 * luminance);
  }
}

// Source: inverse-square law (CIE S 017).
TEST(DerivedLight, LuxAtADistanceIsWhatTheMeterReadsThere) {
  for (const Json& kit :
       {Json{{"id", "k"}, {"lux", {{"illuminance_lx", 4000}, {"distance", 1.5}}}, {"beam_deg", 50}},
        Json{{"id", "k"}, {"lux", {{"illuminance_lx", 4000}, {"distance", 1.5}}}},
        Json{{"id", "k"}, {"candela", 9000}, {"beam_deg", 25}}}) {
    Json doc = worlds::bare();
    doc["kit"]["lights"].push_back(kit);
    doc["setups"][0]["lights"].push_back({{"id", "b"},
                                          {"kit", "k"},
                                          {"place", {0, 1.5, 0}},
                                          {"aim", {0, 0, 0}},
                                          {"shape", "disc"},
                                          {"radius", 0.01}});
    EXPECT_NEAR(illuminance(Tracer(staged(doc)), {0, 0, 0}, {0, 1, 0}).total(), 4000, 20) << kit;
  }
}

}  // namespace
}  // namespace cinnabar
