// Energy: what a light gives out arrives, all of it and no more; readings add up, scale and mirror as they must.
#include <cmath>
#include <random>

#include "cinnabar/optics/fresnel.h"
#include "cinnabar/photometry/sources.h"
#include "cinnabar/render/meter.h"
#include "staging.h"

namespace cinnabar {
using worlds::staged;
namespace {

Json with_light(const Json& light) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"].push_back(light);
  return doc;
}

/// Points spread evenly over the unit sphere (Fibonacci lattice).
std::vector<Vec3> sphere_points(int n) {
  std::vector<Vec3> points;
  const double golden = pi * (3 - std::sqrt(5.0));
  for (int i = 0; i < n; ++i) {
    const double y = 1 - 2 * (i + 0.5) / n, r = std::sqrt(1 - y * y);
    points.push_back({r * std::cos(golden * i), y, r * std::sin(golden * i)});
  }
  return points;
}

struct LightRow {
  const char* name;
  Json light;
};
class Flux : public testing::TestWithParam<LightRow> {};
// Source: conservation of energy; lumens by CIE S 017.
TEST_P(Flux, ThroughASphereAroundTheLightIsItsLumens) {
  const Tracer tracer(staged(with_light(GetParam().light)));
  const double radius = 2.0;
  double flux = 0;
  const auto points = sphere_points(1500);
  for (const Vec3& out : points) {
    const Vec3 at = Vec3{0, 0.5, 0} + out * radius;
    flux += illuminance(tracer, at, -out, {.paths = 0, .glances = 8}).total();
  }
  flux *= 4 * pi * radius * radius / static_cast<double>(points.size());
  EXPECT_NEAR(flux, 1000, 12) << GetParam().name;
}
INSTANTIATE_TEST_SUITE_P(Shapes, Flux,
                         testing::Values(LightRow{"rectangle", worlds::rectangle("l", {0, 0.5, 0}, {0, 0.5, 1},
                                                                                 0.6, 0.4, 1000)},
                                         LightRow{"disc", Json{{"id", "l"},
                                                               {"place", {0, 0.5, 0}},
                                                               {"aim", {1, 0.2, 0}},
                                                               {"shape", "disc"},
                                                               {"radius", 0.3},
                                                               {"lumens", 1000}}},
                                         LightRow{"tube", Json{{"id", "l"},
                                                               {"place", {0, 0.5, 0}},
                                                               {"aim", {0, 0.5, 1}},
                                                               {"shape", "tube"},
                                                               {"radius", 0.03},
                                                               {"length", 0.8},
                                                               {"lumens", 1000}}},
                                         LightRow{"dome", Json{{"id", "l"},
                                                               {"place", {0, 0.5, 0}},
                                                               {"aim", {1, 0.8, 0.3}},
                                                               {"shape", "dome"},
                                                               {"radius", 0.25},
                                                               {"lumens", 1000}}},
                                         LightRow{"bare", Json{{"id", "l"},
                                                               {"place", {0, 0.5, 0}},
                                                               {"aim", {0, 0, 0}},
                                                               {"shape", "bare"},
                                                               {"radius", 0.05},
                                                               {"lumens", 1000}}}));

// Source: conservation of energy.
TEST(Flux, IsLostInAGridAndInATransmittance) {
  Json light = worlds::rectangle("l", {0, 0.5, 0}, {0, 0.5, 1}, 0.6, 0.4, 1000);
  const double open = illuminance(Tracer(staged(with_light(light))), {0, 0.5, 2}, {0, 0, -1}).total();
  light["transmittance"] = 0.4;
  EXPECT_NEAR(illuminance(Tracer(staged(with_light(light))), {0, 0.5, 2}, {0, 0, -1}).total(), 0.4 * open,
              1e-9 * open);
  light["transmittance"] = 1.0;
  double last = 0;
  for (const double grid : {20.0, 40.0, 60.0, 90.0}) {
    light["grid_deg"] = grid;
    const double lux = illuminance(Tracer(staged(with_light(light))), {0, 0.5, 2}, {0, 0, -1}).total();
    EXPECT_GT(lux, last);
    EXPECT_LT(lux, open);
    last = lux;
  }
}

// Source: Feingold & Gupta 1970, J. Heat Transfer 92.
TEST(Sphere, UnderACoaxialDiscHasTheMeanOfFeingoldAndGupta) {
  // Feingold & Gupta 1970: mean E = (pi L / 2)(1 - h / sqrt(a2 + h2)), whatever the sphere's radius up to h.
  const double a = 0.3, h = 0.5, luminance = 1000;
  const Json light{{"id", "d"},       {"place", {0, h, 0}}, {"aim", {0, 0, 0}},
                   {"shape", "disc"}, {"radius", a},        {"lumens", luminance * pi * pi * a * a}};
  const Tracer tracer(staged(with_light(light)));
  for (const double r : {0.05, 0.2, 0.4}) {
    double sum = 0;
    const auto points = sphere_points(1200);
    for (const Vec3& out : points) sum += illuminance(tracer, out * r, out, {.paths = 0, .glances = 8}).total();
    EXPECT_NEAR(sum / static_cast<double>(points.size()), 223.85, 2.5) << r;
  }
}

// Source: light adds up (CIE S 017).
TEST(Readings, AddUpOverLights) {
  Json both = with_light(worlds::rectangle("a", {0.5, 0.8, 0.2}, {0, 0, 0}, 0.4, 0.4, 3000));
  both["setups"][0]["lights"].push_back(worlds::rectangle("b", {-0.7, 0.5, 0.4}, {0, 0, 0}, 0.2, 0.8, 2000));
  Json only_a = both, only_b = both;
  only_a["setups"][0]["lights"].erase(1);
  only_b["setups"][0]["lights"].erase(0);
  for (const Vec3& n : {Vec3{0, 1, 0}, Vec3{1, 0, 0}, Vec3{-1, 1, 1}}) {
    const double sum =
        illuminance(Tracer(staged(only_a)), {}, n).total() + illuminance(Tracer(staged(only_b)), {}, n).total();
    EXPECT_NEAR(illuminance(Tracer(staged(both)), {}, n).total(), sum, 1e-6 * sum + 1e-9);
  }
}

// Own behaviour: scaling and turning.
TEST(Readings, FollowTheWorldWhenItIsTurnedAndScaled) {
  std::mt19937 random(12);
  std::uniform_real_distribution<double> angle(-180, 180), scale(0.5, 3);
  const Vec3 place{0.5, 0.8, 0.2}, normal = unit(Vec3{0.3, 1, 0.2});
  const double base = illuminance(Tracer(staged(with_light(worlds::rectangle("a", {place.x, place.y, place.z},
                                                                             {0, 0, 0}, 0.4, 0.6, 3000)))),
                                  {}, normal)
                          .total();
  for (int i = 0; i < 20; ++i) {
    const double turn = angle(random), k = scale(random);
    const Vec3 p = turned(place, turn) * k;
    // The same luminance at k times the size: k squared the lumens, and the same illuminance.
    const Json light = worlds::rectangle("a", {p.x, p.y, p.z}, {0, 0, 0}, 0.4 * k, 0.6 * k, 3000 * k * k);
    EXPECT_NEAR(illuminance(Tracer(staged(with_light(light))), {}, turned(normal, turn)).total(), base,
                1e-4 * base);
  }
}

// Source: Helmholtz reciprocity (Born & Wolf).
TEST(Reciprocity, TwoPatchesTradeTheirPlaces) {
  // Lambert: a face A of luminance L gives at patch B as much for each of its areas as B would give at A.
  const double small = 0.01, lumens = 1000 * pi * small * small;
  const Vec3 a{0.4, 0.7, 0.1}, b{-0.3, 0.2, 0.5}, na = unit(Vec3{-1, -0.5, 0.3}), nb = unit(Vec3{1, 0.6, -0.4});
  const auto at = [&](const Vec3& from, const Vec3& n, const Vec3& to, const Vec3& nt) {
    const Vec3 aim = from + n;
    const Json light =
        worlds::rectangle("l", {from.x, from.y, from.z}, {aim.x, aim.y, aim.z}, small, small, lumens);
    return illuminance(Tracer(staged(with_light(light))), to, nt).total();
  };
  const double forth = at(a, na, b, nb), back = at(b, nb, a, na);
  EXPECT_GT(forth, 0);
  EXPECT_NEAR(forth, back, 1e-3 * forth);
}

// Source: the law of reflection.
TEST(Mirrors, ShowACardOfTheFamilyOfAngles) {
  // A plane mirror w wide seen from e reflects a parallel card of w (e + d) / e at distance d: 0.3, 1.2, 0.8 ->
  // 0.5.
  const double w = 0.3, e = 1.2, d = 0.8, needed = w * (e + d) / e;
  EXPECT_NEAR(needed, 0.5, 1e-12);
  for (const double share_of_it : {0.96, 1.04}) {
    // The mirror in the x-y plane at the origin; lens and shining card on the same side, the card with a hole's
    // room.
    Json doc = worlds::bare();
    doc["setups"][0]["cards"].push_back(
        worlds::card("mirror", {0, 0.5, 0}, {0, 0.5, 1}, w, 0.02, {{"kind", "mirror"}, {"colour", {1, 1, 1}}}));
    doc["setups"][0]["lights"].push_back(
        worlds::rectangle("card", {0, 0.53, d}, {0, 0.5, 0}, needed * share_of_it, 0.04, 100));
    doc["shots"][0]["camera"]["place"] = {0, 0.455, e};
    doc["shots"][0]["camera"]["aim"] = {0, 0.5, 0};
    doc["shots"][0]["camera"]["focus"] = e;
    doc["shots"][0]["camera"]["f_number"] = 22;
    const auto world = staged(doc);
    const Tracer tracer(world);
    // Rays from the lens to the mirror's two ends, mirrored: do they meet the card?
    int met = 0;
    for (const double x : {-w / 2 + 1e-4, w / 2 - 1e-4}) {
      const Vec3 eye{0, 0.455, e}, on{x, 0.5, 0};
      std::vector<Rgb> layers(2);
      Sampler sampler(1, 0);
      (void)tracer.follow({eye.as<float>(), unit(on - eye).as<float>()}, {1, 1, 1}, sampler, layers.data(), {});
      met += layers[0].x > 0.5f ? 1 : 0;
    }
    EXPECT_EQ(met, share_of_it > 1 ? 2 : 0) << share_of_it;
  }
}

// Source: conservation of energy.
TEST(Furnaces, NeverGiveMoreThanTheyGet) {
  std::mt19937 random(6);
  std::uniform_real_distribution<double> any(0, 1);
  const char* kinds[] = {"matte",   "satin",  "gloss", "metal",       "mirror", "glass",
                         "frosted", "liquid", "paper", "translucent", "cloth"};
  for (const char* kind : kinds) {
    for (int i = 0; i < 5; ++i) {
      Json doc = worlds::bare();
      Json material{
          {"kind", kind}, {"colour", {any(random), any(random), any(random)}}, {"roughness", any(random)}};
      if (i >= 3) {  // and with all that may be said of it, to its limits
        const char* covers[] = {"droplets", "dust", "fingerprints"};
        const auto far = [&](double low, double high) { return low * std::pow(high / low, any(random)); };
        material.update({{"brushing", i == 3 ? 2 * any(random) - 1 : (any(random) < 0.5 ? -1.0 : 1.0)},
                         {"sheen", any(random)},
                         {"ior", 1 + 3 * any(random)},
                         {"absorption", {far(1e-3, 1e6), 0.0, far(1e-3, 1e6)}},
                         {"scattering", {far(1e-3, 1e6), far(1e-3, 1e6), i == 3 ? 0.0 : 1e6}},
                         {"relief", {{"size", far(1e-6, 0.1)}, {"depth", far(1e-6, 0.1)}}},
                         {"cover",
                          {{"kind", covers[static_cast<std::size_t>(3 * any(random)) % 3]},
                           {"share", i == 3 ? any(random) * 0.8 : 0.8},
                           {"size", far(1e-6, 0.1)}}}});
      }
      worlds::add_cylinder(doc, material);
      doc["setups"][0]["ambient"] = {{"illuminance_lx", pi}};
      const auto world = staged(doc);
      const Tracer tracer(world);
      Film film = tracer.film(48, 27);
      for (int p = 0; p < 32; ++p) ASSERT_TRUE(tracer.add_pass(film));
      double sum = 0;
      const Picture picture = mixed(film, neutral_weights(*world));
      for (const Rgb& c : picture.pixels) {
        EXPECT_TRUE(std::isfinite(c.x) && std::isfinite(c.y) && std::isfinite(c.z)) << kind;
        EXPECT_GE(std::min({c.x, c.y, c.z}), 0.0f) << kind;
        sum += (c.x + c.y + c.z) / 3;
      }
      EXPECT_LE(sum / static_cast<double>(picture.pixels.size()), 1.003) << kind;
    }
  }
}

}  // namespace
}  // namespace cinnabar
