// The meter against closed forms (Howell, A Catalog of Radiation Heat Transfer Configuration Factors) over many
// places, sizes, grids and screens.
#include <random>

#include "cinnabar/photometry/sources.h"
#include "cinnabar/render/meter.h"
#include "staging.h"

namespace cinnabar {
using worlds::staged;
namespace {

Reading read_at(const Json& doc, const Vec3& point, const Vec3& normal) {
  return illuminance(Tracer(staged(doc)), point, normal);
}

// Source: Howell, A Catalog of Radiation Heat Transfer Configuration Factors.
TEST(Meter, ReadsARectangleOnItsNormalAsTheClosedForm) {
  for (const double d : {0.1, 0.35, 1.0, 3.0}) {
    Json doc = worlds::bare();
    doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0, d, 0}, {0, 0, 0}, 0.9, 0.6, 4000));
    const double luminance = softbox({.lumens = 4000, .transmittance = 1, .width = 0.9, .height = 0.6})->luminance;
    const double expected =
        rect_illuminance({.luminance = luminance, .width = 0.9, .height = 0.6, .distance = d})->illuminance_lx;
    EXPECT_NEAR(read_at(doc, {0, 0, 0}, {0, 1, 0}).total(), expected, 1e-4 * expected) << d;
  }
}

// Own behaviour: paths that go on from a half are those that all would be.
TEST(Meter, GoesOnFromWhatWasFollowed) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.3, 0.8, 0.4}, {0, 0, 0}, 0.5, 0.6, 4000));
  doc["setups"][0]["surface"] = {{"width", 2}, {"depth", 2}};
  const Tracer tracer(staged(doc));
  const Vec3 point{0, 0.1, 0}, normal{0, 0, 1};
  const Reading half = illuminance(tracer, point, normal, {.paths = 512, .batches = 8});
  const Reading on = illuminance(tracer, point, normal, {.paths = 2048, .batches = 8, .begun = &half});
  const Reading whole = illuminance(tracer, point, normal, {.paths = 2048, .batches = 8});
  EXPECT_NE(half.per_luminance, whole.per_luminance);
  EXPECT_EQ(on.per_luminance, whole.per_luminance);
  EXPECT_EQ(on.followed.batches, whole.followed.batches);
  EXPECT_EQ(on.ambient, whole.ambient);
}

// Source: Howell, A Catalog of Radiation Heat Transfer Configuration Factors.
TEST(Meter, ReadsADiscOnItsNormalAsTheClosedForm) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"].push_back({{"id", "d"},
                                        {"place", {0, 0.8, 0}},
                                        {"aim", {0, 0, 0}},
                                        {"shape", "disc"},
                                        {"radius", 0.3},
                                        {"lumens", 3000}});
  const double luminance = 3000 / (pi * pi * 0.09);
  const double expected =
      disc_illuminance({.luminance = luminance, .radius = 0.3, .distance = 0.8})->illuminance_lx;
  EXPECT_NEAR(read_at(doc, {0, 0, 0}, {0, 1, 0}).total(), expected, 1e-3 * expected);
}

// Source: inverse-square law (CIE S 017).
TEST(Meter, ReadsABareLampByTheInverseSquareLaw) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"].push_back({{"id", "b"},
                                        {"place", {0, 1, 0}},
                                        {"aim", {0, 0, 0}},
                                        {"shape", "bare"},
                                        {"radius", 0.03},
                                        {"lumens", 800}});
  // A Lambertian sphere of Phi lumens gives Phi / (4 pi d^2) square on.
  EXPECT_NEAR(read_at(doc, {0, 0, 0}, {0, 1, 0}).total(), 800 / (4 * pi), 0.1);
  const double tilted = read_at(doc, {0.5, 0, 0}, {0, 1, 0}).total();
  EXPECT_NEAR(tilted, 800 / (4 * pi * 1.25) / std::sqrt(1.25), 0.1);
  EXPECT_EQ(read_at(doc, {0, 0, 0}, {0, -1, 0}).total(), 0.0);
}

/// Brute midpoint rule over a tube's side in double precision, apart from the program's own way.
double tube_by_midpoints(double luminance, double radius, double half, const Vec3& p, const Vec3& n) {
  double sum = 0.0;
  const int rows = 2000, columns = 720;
  for (int i = 0; i < rows; ++i)
    for (int j = 0; j < columns; ++j) {
      const double y = -half + 2 * half * (i + 0.5) / rows, a = 2 * pi * (j + 0.5) / columns;
      const Vec3 out{std::cos(a), 0, std::sin(a)}, q = Vec3{0, 0.5, 0} + out * radius + Vec3{0, y, 0} - p;
      const double r2 = dot(q, q), c = dot(q, n), s = -dot(q, out);
      if (c > 0 && s > 0) sum += luminance * c * s / (r2 * r2) * radius * (2 * pi / columns) * (2 * half / rows);
    }
  return sum;
}

// Source: the definition, integral of L cos cos / r^2, summed here.
TEST(Meter, ReadsATubeAsABruteSumOverItsSide) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"].push_back({{"id", "t"},
                                        {"place", {0, 0.5, 0}},
                                        {"aim", {0, 0.5, 1}},
                                        {"shape", "tube"},
                                        {"radius", 0.02},
                                        {"length", 1.2},
                                        {"lumens", 2000}});
  const double luminance = 2000 / (pi * 2 * pi * 0.02 * 1.2);
  for (const Vec3& p : {Vec3{0.1, 0.5, 0}, Vec3{0.5, 0.1, 0.2}, Vec3{1.5, 1.4, -0.3}}) {
    const Vec3 n = unit(Vec3{0, 0.6, 0} - p);
    const double expected = tube_by_midpoints(luminance, 0.02, 0.6, p, n);
    EXPECT_NEAR(read_at(doc, p, n).total(), expected, 3e-3 * expected);
  }
}

/// Brute midpoint rule over a rectangle of Lambertian luminance, by the definition of illuminance: L cos cos / r^2
/// (CIE S 017, International Lighting Vocabulary).
double face_by_midpoints(double luminance, const Vec3& middle, const Vec3& half_right, const Vec3& half_up,
                         const Vec3& p, const Vec3& n) {
  const int count = 600;
  const Vec3 across = cross(half_right, half_up);
  const double patch = 4 * length(across) / (count * count);
  const Vec3 ahead = unit(across) * -1.0;  // a face shines along up x right
  double sum = 0.0;
  for (int i = 0; i < count; ++i)
    for (int j = 0; j < count; ++j) {
      const Vec3 q = middle + half_right * (2 * (i + 0.5) / count - 1) + half_up * (2 * (j + 0.5) / count - 1) - p;
      const double r2 = dot(q, q), c = dot(q, n), s = -dot(q, ahead);
      if (c > 0 && s > 0) sum += luminance * c * s / (r2 * r2) * patch;
    }
  return sum;
}

// Source: the definition, integral of L cos cos / r^2, summed here.
TEST(Meter, AgreesWithABruteSumAnywhereAroundATiltedPanel) {
  std::mt19937 random(7);
  std::uniform_real_distribution<double> at(-1.0, 1.0);
  for (int i = 0; i < 40; ++i) {
    Json doc = worlds::bare();
    const Vec3 place{at(random), 1.0 + 0.5 * at(random), at(random)}, aim{at(random), 0, at(random)};
    Json light = worlds::rectangle("key", {place.x, place.y, place.z}, {aim.x, aim.y, aim.z}, 0.6, 0.9, 5000);
    light["roll_deg"] = 90 * at(random);
    doc["setups"][0]["lights"].push_back(light);
    const Facing f = facing(place, aim, light["roll_deg"]);
    const Vec3 p{0.5 * at(random), 0, 0.5 * at(random)}, n = unit(Vec3{at(random), 1, at(random)});
    ASSERT_GT(dot(cross(f.up, f.right), f.ahead), 0.99) << "the sum shines the way the panel does";
    const double expected = face_by_midpoints(5000 / (pi * 0.54), place, f.right * 0.3, f.up * 0.45, p, n);
    EXPECT_NEAR(read_at(doc, p, n).total(), expected, 1e-3 * expected + 1e-6);
  }
}

// Source: the definition, integral of L cos cos / r^2, summed here.
TEST(Meter, LosesJustWhatACardHides) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 0.8, 0.8, 4000));
  // A black card halfway up that hides the half of the panel to the right (x > 0).
  doc["setups"][0]["cards"].push_back(worlds::card("flag", {0.5, 0.5, 0}, {0.5, 0, 0}, 1.0, 2.0));
  const double expected =
      face_by_midpoints(4000 / (pi * 0.64), {-0.2, 1, 0}, {0.2, 0, 0}, {0, 0, -0.4}, {0, 0, 0}, {0, 1, 0});
  EXPECT_NEAR(read_at(doc, {0, 0, 0}, {0, 1, 0}).total(), expected, 0.01 * expected);
}

// Common practice, no source: a grid's cut-off falls to nothing in a straight line
TEST(Meter, PassesAGridAsItIsWritten) {
  Json doc = worlds::bare();
  Json light = worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 0.02, 0.02, 4000);
  light["grid_deg"] = 40;
  doc["setups"][0]["lights"].push_back(light);
  const double candela = 4000 / pi;
  EXPECT_NEAR(read_at(doc, {0, 0, 0}, {0, 1, 0}).total(), candela, 0.02 * candela);
  // Half the transmission at half the grid's angle: cos^4 falls with the angle too.
  const double x = std::tan(radians(20)), fall = std::pow(std::cos(radians(20)), 4);
  EXPECT_NEAR(read_at(doc, {x, 0, 0}, {0, 1, 0}).total(), 0.5 * fall * candela, 0.01 * candela);
  EXPECT_EQ(read_at(doc, {2.0, 0, 0}, {0, 1, 0}).total(), 0.0);
}

// Source: Lambert's cosine law, E = pi L.
TEST(Meter, ReadsTheAmbientAsAnUpwardPatchSeesIt) {
  Json doc = worlds::bare();
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 250.0}, {"kelvin", 4000}};
  EXPECT_NEAR(read_at(doc, {0, 0.3, 0}, {0, 1, 0}).ambient, 250.0, 0.01);
}

// Source: the law of reflection, images in plane mirrors.
TEST(Meter, AddsWhatAMirrorThrowsBack) {
  // The image of a panel in a mirror is the panel turned over, seen 0.9 times as bright (Lambert 1760).
  Json doc = worlds::bare();
  doc["setups"][0]["surface"] = {
      {"width", 10}, {"depth", 10}, {"material", {{"kind", "mirror"}, {"colour", {0.9, 0.9, 0.9}}}}};
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 0.8, 0.8, 4000));
  const std::vector<Vec3> image{{-0.4, -1, -0.4}, {0.4, -1, -0.4}, {0.4, -1, 0.4}, {-0.4, -1, 0.4}};
  const double expected = 0.9 * polygon_illuminance(4000 / (pi * 0.64), image, {1, 0.5, 0}, {0, -1, 0});
  EXPECT_NEAR(read_at(doc, {1, 0.5, 0}, {0, -1, 0}).total(), expected, 0.02 * expected);
}

// Own behaviour.
TEST(Meter, DoesNotCountALightThatIsOff) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 0.8, 0.8, 4000));
  const double full = read_at(doc, {0, 0, 0}, {0, 1, 0}).total();
  doc["setups"][0]["lights"][0]["dimmer"] = 0.25;
  EXPECT_NEAR(read_at(doc, {0, 0, 0}, {0, 1, 0}).total(), full / 4, 1e-9 * full);
  doc["setups"][0]["lights"][0]["on"] = false;
  EXPECT_EQ(read_at(doc, {0, 0, 0}, {0, 1, 0}).total(), 0.0);
}

/// Lambert, Photometria, 1760; values worked apart, the first two also by the sum above.
// Source: Lambert 1760, Photometria; values worked apart.
TEST(Polygon, MeetsTheWorkedValues) {
  const std::vector<Vec3> corners{{0.1, -0.05, 1}, {1.1, -0.05, 1}, {1.1, 0.45, 1}, {0.1, 0.45, 1}};
  EXPECT_NEAR(polygon_illuminance(1000, corners, {}, {0, 0, 1}), 258.874, 1e-3);
  EXPECT_NEAR(polygon_illuminance(1000, corners, {}, {0.6, 0, 0.8}), 281.509, 1e-3);
  EXPECT_NEAR(polygon_illuminance(1000, corners, {}, {-0.8, 0, 0.6}), 62.1618, 1e-3);
}

// Source: Howell, configuration factor of a sphere.
TEST(SphereOverAHorizon, IsContinuousAndHalvesAtTheRim) {
  // A sphere whose centre is on the horizon: Howell's differential element to a sphere, by a brute cone sum.
  for (const double tilt_deg : {60.0, 85.0, 90.0, 95.0, 100.0}) {
    const double h = 2.5, cap = std::asin(1 / h), tilt = radians(tilt_deg);
    double sum = 0.0;
    const int n = 1500;
    for (int i = 0; i < n; ++i)
      for (int j = 0; j < n; ++j) {
        const double a = cap * (i + 0.5) / n, b = 2 * pi * (j + 0.5) / n;
        const double c = std::cos(a) * std::cos(tilt) + std::sin(a) * std::cos(b) * std::sin(tilt);
        if (c > 0) sum += c * std::sin(a) * (cap / n) * (2 * pi / n);
      }
    EXPECT_NEAR(sphere_illuminance(1.0, {h * std::sin(tilt), h * std::cos(tilt), 0}, 1.0, {}, {0, 1, 0}), sum,
                2e-4)
        << tilt_deg;
  }
}

// Source: the definition, integral of L cos cos / r^2, summed here.
TEST(Meter, LosesJustWhatADoorHides) {
  // The panel looks down; its right door hangs straight down from the edge at x = 0.4 to half a metre under it.
  Json doc = worlds::bare();
  Json light = worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 0.8, 0.8, 4000);
  light["doors"] = {{"length", 0.5}, {"right_deg", 0}};
  doc["setups"][0]["lights"].push_back(light);
  const double luminance = 4000 / (pi * 0.64);
  const auto seen = [&](double from, double to, const Vec3& at) {
    return face_by_midpoints(luminance, {(from + to) / 2, 1, 0}, {(to - from) / 2, 0, 0}, {0, 0, -0.4}, at,
                             {0, 1, 0});
  };
  // Under the panel nothing is hidden; the flat doors hide nothing anywhere.
  EXPECT_NEAR(read_at(doc, {0, 0, 0}, {0, 1, 0}).total(), seen(-0.4, 0.4, {0, 0, 0}), 1e-3 * luminance);
  // From x = 1.2 a ray to (u, 1) crosses x = 0.4 at the height 1 - (0.4 - u) / (1.2 - u): the door's tip hides
  // every u with (0.4 - u) / (1.2 - u) < 0.5, that is u > -0.4: all of it.
  EXPECT_LT(read_at(doc, {1.2, 0, 0}, {0, 1, 0}).total(), 1e-3) << "but for what its black paint throws";
  // From x = 0.8 it hides u > 0; from 0.8 the rays stay within the door's width, +-0.4 in depth.
  const Vec3 aside{0.8, 0, 0};
  EXPECT_NEAR(read_at(doc, aside, {0, 1, 0}).total(), seen(-0.4, 0.0, aside), 0.02 * seen(-0.4, 0.4, aside));
  // Folded flat it hides nothing.
  doc["setups"][0]["lights"][0]["doors"]["right_deg"] = 90;
  EXPECT_NEAR(read_at(doc, aside, {0, 1, 0}).total(), seen(-0.4, 0.4, aside), 0.01 * seen(-0.4, 0.4, aside));
}

// Own behaviour.
TEST(Doors, StandAtTheFacesEdgesAndTurnWithIt) {
  Light l;
  l.place = {1, 1, 0}, l.aim = {0, 1, 0}, l.shape = LightShape::rectangle, l.width = 0.4, l.height = 0.2;
  EXPECT_EQ(door_leaves(l)[0][0].x, 0.0) << "no doors, no leaves";
  l.doors = Doors{0.1, 90, 0, -30, 60};
  const auto leaves = door_leaves(l);
  // It looks along -x with the camera's side to its left: up is +y, right is -z.
  const auto middle = [](const DoorLeaf& leaf, bool tip) {
    return tip ? (leaf[2] + leaf[3]) * 0.5 : (leaf[0] + leaf[1]) * 0.5;
  };
  const auto expect_at = [](const Vec3& at, const Vec3& expected) { EXPECT_LT(length(at - expected), 1e-12); };
  expect_at(middle(leaves[0], false), {1, 1.1, 0});
  expect_at(middle(leaves[0], true), {1, 1.2, 0});    // flat beside the face
  expect_at(middle(leaves[1], true), {0.9, 0.9, 0});  // straight ahead
  const Vec3 right = facing(l.place, l.aim, 0).right;
  expect_at(middle(leaves[2], false), l.place - right * 0.2);
  expect_at(middle(leaves[2], true),
            l.place - right * (0.2 - 0.05) + Vec3{-0.1 * std::cos(radians(30)), 0, 0});  // closed across the beam
  expect_at(middle(leaves[3], true), l.place + right * (0.2 + 0.1 * std::sin(radians(60))) + Vec3{-0.05, 0, 0});
}

}  // namespace
}  // namespace cinnabar
