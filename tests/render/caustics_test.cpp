// Light thrown by mirrors, coats and clear bodies: against closed forms, and photons against the paths that find
// the same light by chance.
#include <cmath>
#include <random>

#include "cinnabar/color/white.h"
#include "cinnabar/optics/fresnel.h"
#include "cinnabar/render/meter.h"
#include "cinnabar/render/tracer.h"
#include "staging.h"

namespace cinnabar {
using worlds::staged;
namespace {

Json lamp(const Json& place, double radius, double lumens) {
  return {{"id", "lamp"},    {"place", place},   {"aim", {0, 0, 0}},
          {"shape", "bare"}, {"radius", radius}, {"lumens", lumens}};
}

Film traced(const Tracer& tracer, int width, int passes, Caustics caustics, bool one_core = false) {
  const auto& optics = tracer.world().camera.optics;
  return worlds::rendered(tracer, width,
                          static_cast<int>(std::lround(width * optics.sensor_height / optics.sensor_width)),
                          passes, caustics, one_core);
}

/// Two passes in which every place looks one way for what others give it, as levels do.
Film one_way(const Tracer& tracer, int width, Caustics caustics) {
  Film film = tracer.film(width, 18, caustics);
  film.ways = 1;
  for (int pass = 0; pass < 2; ++pass) EXPECT_TRUE(tracer.add_pass(film));
  return film;
}

/// Columns and rows of a picture.
struct Region {
  int left = 0, right = 1 << 20, top = 0, bottom = 1 << 20;
};
/// Mean luminance of the pixels that see a role, in candela per square metre.
double mean_of(const Tracer& tracer, const Film& film, Role role, const Region& in = {}) {
  const Picture picture = mixed(film, neutral_weights(tracer.world()));
  double sum = 0, n = 0;
  for (int y = in.top; y < std::min(film.height, in.bottom); ++y)
    for (int x = in.left; x < std::min(film.width, in.right); ++x)
      if (const FirstHit& first = film.first[film.at(x, y)]; first.mesh && first.mesh->role == role)
        sum += luminance(picture.pixels[film.at(x, y)]), ++n;
  return n > 0 ? sum / n : 0;
}

/// What a patch half a metre over a mirroring surface and a metre aside, facing down, gets from a lamp of 100 cd a
/// metre over the surface: by the lamp's image, R I 1.5 / 3.25^1.5.
double over_a_surface(const Json& material) {
  Json doc = worlds::bare();
  doc["setups"][0]["surface"] = {{"width", 6}, {"depth", 6}, {"material", material}};
  doc["setups"][0]["lights"].push_back(lamp({0, 1, 0}, 0.01, 400 * pi));
  doc["setups"][0]["cards"].push_back(
      worlds::card("patch", {1, 0.5, 0}, {1, 0, 0.0001}, 0.002, 0.002, worlds::matte(0.5, 0.5, 0.5)));
  const auto world = staged(doc);
  const Tracer tracer(world);
  Rgb sum{};
  constexpr int rays = 4000;
  for (int i = 0; i < rays; ++i) {
    std::vector<Rgb> layers(2);
    Sampler sampler(7, static_cast<std::uint32_t>(i));
    (void)tracer.follow({{1, 0.2f, 0}, {0, 1, 0}}, {1, 1, 1}, sampler, layers.data(), {});
    sum += layers[0];
  }
  return luminance(sum) / rays * world->lights[0].luminance * pi / 0.5;
}

// Source: Halliday & Resnick, images in plane mirrors; Born & Wolf for glass.
TEST(ThrownByAPlane, IsTheLampsImage) {  // Halliday & Resnick: images in plane mirrors; Born & Wolf for glass
  EXPECT_NEAR(over_a_surface({{"kind", "mirror"}, {"colour", {0.9, 0.9, 0.9}}}), 23.0414, 0.005 * 23.0414);
  EXPECT_NEAR(over_a_surface({{"kind", "gloss"}, {"colour", {0, 0, 0}}, {"ior", 1.5}}), 1.08978, 0.01 * 1.08978);
}

/// A lamp of 100 cd over a slab of glass in the air, a dark floor under it; the camera looks at the floor from
/// aside.
Json slab_over_a_floor() {
  Json doc = worlds::bare();
  doc["setups"][0]["surface"] = {
      {"width", 0.5}, {"depth", 0.3}, {"material", {{"kind", "matte"}, {"colour", {0.02, 0.02, 0.02}}}}};
  worlds::add_cylinder(doc, {{"kind", "glass"}, {"ior", 1.5}});
  doc["products"][0]["parts"][0]["profile"] = {{0.0, 0.0}, {0.15, 0.0}, {0.15, 0.02}, {0.0, 0.02}};
  doc["shots"][0]["products"][0]["place"] = {0, 0.3, 0};
  doc["setups"][0]["lights"].push_back(lamp({0, 1, 0}, 0.01, 400 * pi));
  auto& camera = doc["shots"][0]["camera"];
  camera["place"] = {0, 0.1, 0.3};
  camera["aim"] = {0, 0, 0};
  camera["focus"] = 0.32;
  return doc;
}

// Source: Born & Wolf, Fresnel's formulas and Snell's image.
TEST(ThrownThroughASlab, IsWhatFresnelLetsOfTheNearerImage) {
  // Born & Wolf: a slab of thickness t brings the lamp nearer by t (1 - 1/n) and lets (1 - R) / (1 + R) through.
  const Tracer tracer(staged(slab_over_a_floor()));
  const double r = std::pow(0.5 / 2.5, 2), lets = (1 - r) / (1 + r), d = 1 - 0.02 * (1 - 1 / 1.5);
  const double expected = 0.02 / pi * 100 * lets / (d * d);
  const Film film = traced(tracer, 64, 400, Caustics::by_photons);
  // The middle of the picture: within four centimetres of the axis, where the cosines are one to a few
  // thousandths.
  EXPECT_NEAR(mean_of(tracer, film, Role::surface, {22, 42, 15, 21}), expected, 0.03 * expected);
}

/// A glass cylinder and a metal one on a floor, a softbox behind: light through and off them lies before them.
Json thrown_about(const Json& first, bool motion) {
  Json doc = worlds::bare();
  doc["setups"][0]["surface"] = {
      {"width", 0.8}, {"depth", 0.8}, {"material", {{"kind", "matte"}, {"colour", {0.6, 0.5, 0.4}}}}};
  worlds::add_cylinder(doc, first);
  doc["shots"][0]["products"][0]["place"] = {0.05, 0, -0.1};
  doc["setups"][0]["lights"].push_back(worlds::rectangle("back", {0.1, 0.4, -0.5}, {0, 0.05, 0}, 0.4, 0.4, 3000));
  doc["shots"][0]["camera"]["place"] = {0, 0.6, 0.5};
  doc["shots"][0]["camera"]["aim"] = {0, 0, 0};
  doc["shots"][0]["camera"]["focus"] = 0.78;
  if (motion)
    doc["shots"][0]["tracks"] = {{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, 0}, {2, 60}}}}};
  return doc;
}

struct ThrowerRow {
  const char* name;
  Json material;
  bool motion;
};
void PrintTo(const ThrowerRow& row, std::ostream* out) { *out << row.name; }
class Throwers : public testing::TestWithParam<ThrowerRow> {};
// Own behaviour: two methods of this program, whose formulas share no step.
TEST_P(Throwers, GiveTheSameByPhotonsAsByPaths) {
  const Tracer tracer(staged(thrown_about(GetParam().material, GetParam().motion)));
  const Film photons = traced(tracer, 64, 96, Caustics::by_photons),
             paths = traced(tracer, 64, 384, Caustics::by_paths);
  double most = 0;
  for (int x = 0; x < 64; x += 16) {
    const double a = mean_of(tracer, photons, Role::surface, {x, x + 16}),
                 b = mean_of(tracer, paths, Role::surface, {x, x + 16});
    EXPECT_GT(b, 0);
    EXPECT_NEAR(a, b, 0.02 * b) << "columns from " << x;
    most = std::max(most, b);
  }
  EXPECT_NEAR(mean_of(tracer, photons, Role::surface), mean_of(tracer, paths, Role::surface), 0.01 * most);
}
INSTANTIATE_TEST_SUITE_P(
    Bodies, Throwers,
    testing::Values(ThrowerRow{"Glass", {{"kind", "glass"}, {"ior", 1.5}}, false},
                    ThrowerRow{"Amber", {{"kind", "liquid"}, {"ior", 1.4}, {"absorption", {3, 20, 110}}}, true},
                    ThrowerRow{"Mirror", {{"kind", "mirror"}, {"colour", {0.9, 0.9, 0.9}}}, false},
                    ThrowerRow{
                        "Metal", {{"kind", "metal"}, {"colour", {0.9, 0.6, 0.3}}, {"roughness", 0.3}}, false},
                    ThrowerRow{"Frosted", {{"kind", "frosted"}, {"ior", 1.5}, {"roughness", 0.4}}, true}),
    [](const auto& row) { return std::string(row.param.name); });

// Own behaviour: the meter against the picture.
TEST(APatchBeforeGlassOnAMirror, IsAsBrightAsAMeterThereReads) {
  // The meter follows its paths from the place itself and asks neither planes nor photons.
  Json doc = thrown_about({{"kind", "glass"}, {"ior", 1.5}}, false);
  doc["setups"][0]["surface"]["material"] = {{"kind", "mirror"}, {"colour", {0.9, 0.9, 0.9}}};
  doc["setups"][0]["cards"].push_back(
      worlds::card("patch", {0.02, 0.05, 0.02}, {0.05, 0.05, -0.1}, 0.02, 0.02, worlds::matte(0.5, 0.5, 0.5)));
  StagedWorld seen = *staged(doc);
  const Vec3 normal = unit(Vec3{0.03, 0, -0.12}), place = Vec3{0.02, 0.05, 0.02} + normal * 1e-4;
  const double lux =
      illuminance(Tracer(std::make_shared<const StagedWorld>(seen)), place, normal, {.paths = 200000}).total();
  CameraPose& pose = seen.camera.poses[0];
  pose.place = place + normal * 0.02 + Vec3{0, 0.03, 0};
  pose.frame = facing(pose.place, place, 0);
  pose.focal = 0.01, pose.focus = length(place - pose.place);
  seen.camera.optics.sensor_width = seen.camera.optics.sensor_height = 2e-5;
  seen.camera.f_number = 1000;
  const Tracer looks(std::make_shared<const StagedWorld>(seen));
  const Film film = worlds::rendered(looks, 1, 1, 60000);
  ASSERT_EQ(film.first[0].mesh->role, Role::card);
  EXPECT_NEAR(luminance(mixed(film, neutral_weights(seen)).pixels[0]) * pi / 0.5, lux, 0.03 * lux);
}

/// The mean over all of a role by photons, and by twice as many passes of paths alone.
void expect_the_same(const Json& doc, Role role, int width, int passes, double allowed) {
  const Tracer tracer(staged(doc));
  const double a = mean_of(tracer, traced(tracer, width, passes, Caustics::by_photons), role),
               b = mean_of(tracer, traced(tracer, width, 2 * passes, Caustics::by_paths), role);
  EXPECT_GT(b, 0);
  EXPECT_NEAR(a, b, allowed * b) << "role " << static_cast<int>(role);
}

// Own behaviour: two methods of this program.
TEST(ACardBeforeGlassOnAMirror, IsTheSameByPhotonsAsByPaths) {
  Json doc = thrown_about({{"kind", "glass"}, {"ior", 1.5}}, false);
  doc["setups"][0]["surface"]["material"] = {{"kind", "mirror"}, {"colour", {0.9, 0.9, 0.9}}};
  doc["setups"][0]["cards"].push_back(
      worlds::card("card", {0, 0.1, -0.25}, {0, 0.1, 1}, 0.3, 0.2, worlds::matte(0.5, 0.5, 0.5)));
  doc["shots"][0]["camera"]["aim"] = {0, 0.1, -0.2};
  doc["setups"][0]["lights"][0] = worlds::rectangle("front", {0.5, 0.5, 0.4}, {0, 0.05, 0}, 0.4, 0.4, 3000);
  expect_the_same(doc, Role::card, 64, 200, 0.015);
}

// Own behaviour: two methods of this program.
TEST(Photons, AreDimmedByWhatHangsInTheAir) {
  StagedWorld world = *staged(thrown_about({{"kind", "mirror"}, {"colour", {0.9, 0.9, 0.9}}}, false));
  const auto surface = [&](Caustics how, int passes) {
    const Tracer tracer(std::make_shared<const StagedWorld>(world));
    return mean_of(tracer, traced(tracer, 48, passes, how), Role::surface);
  };
  const double clear = surface(Caustics::by_photons, 64);
  Cloud haze;
  // About the thrower alone and scattering to all sides alike: near a lamp, and onward, single paths weigh too
  // much.
  haze.form = CloudForm::box, haze.place = {0, -0.01, 0}, haze.half = {0.2, 0.2, 0.2}, haze.extinction = {4.0};
  haze.asymmetry = 0.0;
  world.clouds = {haze};
  const double a = surface(Caustics::by_photons, 200), b = surface(Caustics::by_paths, 400);
  EXPECT_LT(b, 0.8 * clear);
  EXPECT_NEAR(a, b, 0.005 * b);
}

// Own behaviour.
TEST(Photons, CalmTheFloorBesideGlass) {
  Json small = thrown_about({{"kind", "glass"}, {"ior", 1.5}}, false);
  small["setups"][0]["lights"][0] = lamp({0.1, 0.4, -0.5}, 0.02, 3000);
  const Tracer hard(staged(small));
  const auto spots = [&](Caustics caustics) {  // pixels far over what lies about them
    const Film film = traced(hard, 96, 32, caustics);
    const Picture picture = mixed(film, neutral_weights(hard.world()));
    int n = 0;
    for (int y = 2; y + 2 < film.height; ++y)
      for (int x = 2; x + 2 < film.width; ++x) {
        if (!film.first[film.at(x, y)].mesh || film.first[film.at(x, y)].mesh->role != Role::surface) continue;
        std::vector<float> around;
        for (int j = -2; j <= 2; ++j)
          for (int i = -2; i <= 2; ++i) around.push_back(luminance(picture.pixels[film.at(x + i, y + j)]));
        std::nth_element(around.begin(), around.begin() + 12, around.end());
        n += luminance(picture.pixels[film.at(x, y)]) > 20 * around[12];
      }
    return n;
  };
  const int by_paths = spots(Caustics::by_paths);
  EXPECT_GT(by_paths, 50);
  EXPECT_LT(10 * spots(Caustics::by_photons), by_paths);
}

/// A camera on its side that looks down, the product away from the origin, nothing behind it, twenty lights; every
/// other one off, which layers ignore.
Json tall_under_twenty(const Json& material, bool motion) {
  Json doc = thrown_about(material, motion);
  doc["shots"][0]["products"][0]["place"] = {-0.4, 0, 0.3};
  doc["setups"][0]["surface"]["width"] = 2, doc["setups"][0]["surface"]["depth"] = 2;
  auto& camera = doc["shots"][0]["camera"];
  camera["place"] = {-0.4, 0.6, 0.9}, camera["aim"] = {-0.4, 0, 0.3}, camera["roll_deg"] = 90,
  camera["focus"] = 0.85;
  doc["setups"][0]["lights"] = Json::array();
  for (int i = 0; i < 20; ++i) {
    const double a = 2 * pi * i / 20;
    doc["setups"][0]["lights"].push_back(worlds::rectangle("l" + std::to_string(i),
                                                           {-0.4 + std::cos(a), 0.4, 0.3 + std::sin(a)},
                                                           {-0.4, 0.05, 0.3}, 0.2, 0.3, 500 + 50 * i));
    doc["setups"][0]["lights"].back()["on"] = i % 2 == 0;
  }
  return doc;
}

// Own behaviour: two methods of this program.
TEST(Photons, AgreeWithPathsUnderTwentyLightsInATallFrame) {
  expect_the_same(tall_under_twenty({{"kind", "glass"}, {"ior", 1.5}}, false), Role::surface, 48, 64, 0.015);
}

Json covered(const char* kind, const char* cover, double size, Json more = Json::object()) {
  more["kind"] = kind;
  more["cover"] = {{"kind", cover}, {"share", 0.5}, {"size", size}};
  return more;
}

class Further : public testing::TestWithParam<ThrowerRow> {};
// Own behaviour: two methods of this program.
TEST_P(Further, GivesTheSameByPhotonsAsByPathsUnderTwentyLightsAndTurning) {
  const Json doc = tall_under_twenty(GetParam().material, GetParam().motion);
  for (const Role role : {Role::surface, Role::product}) expect_the_same(doc, role, 128, 32, 0.02);
}
INSTANTIATE_TEST_SUITE_P(
    Materials, Further,
    testing::Values(
        ThrowerRow{"BrushedMetal",
                   {{"kind", "metal"}, {"colour", {0.9, 0.6, 0.3}}, {"roughness", 0.4}, {"brushing", 0.8}},
                   true},
        ThrowerRow{"Wax",
                   {{"kind", "translucent"}, {"ior", 1.44}, {"roughness", 0.4}, {"scattering", {400, 400, 400}}},
                   false},
        ThrowerRow{"GlossyWax", {{"kind", "translucent"}, {"ior", 1.44}, {"scattering", {400, 400, 400}}}, true},
        ThrowerRow{"WetGlass", covered("glass", "droplets", 0.006), true},
        ThrowerRow{"DustyGlass", covered("glass", "dust", 0.002), false},
        ThrowerRow{"PrintedGlass", covered("glass", "fingerprints", 0.02), false},
        ThrowerRow{"PrintedMirror", covered("mirror", "fingerprints", 0.02), true},
        ThrowerRow{"BlackSatin", {{"kind", "satin"}, {"colour", {0, 0, 0}}, {"roughness", 0.4}}, false},
        ThrowerRow{"Velvet", {{"kind", "cloth"}, {"colour", {0.3, 0.05, 0.1}}, {"sheen", 0.6}}, true}),
    [](const auto& row) { return std::string(row.param.name); });

// Own behaviour: two methods of this program.
TEST(ALitCard, IsSoughtByPicturesAndFoundByPathsAlike) {
  // A card away from a dark floor, another turned from the only light, one behind the product; from above.
  Json doc = tall_under_twenty(worlds::matte(0.3, 0.3, 0.3), false);
  for (Json& light : doc["setups"][0]["lights"]) light["on"] = true;
  doc["setups"][0]["lights"].erase(doc["setups"][0]["lights"].begin() + 1, doc["setups"][0]["lights"].end());
  doc["setups"][0]["surface"]["material"] = worlds::matte(0.05, 0.05, 0.05);
  Json& cards = doc["setups"][0]["cards"];
  cards.push_back(
      worlds::card("near", {-0.7, 0.15, 0.3}, {-0.4, 0.1, 0.3}, 0.3, 0.3, worlds::matte(0.9, 0.9, 0.9)));
  cards.push_back(worlds::card("away", {-0.1, 0.15, 0.5}, {1, 0.1, 1}, 0.3, 0.3, worlds::matte(0.9, 0.9, 0.9)));
  cards.push_back(
      worlds::card("low", {-0.4, 0.02, -0.1}, {-0.4, 0.5, -0.1}, 0.4, 0.2, worlds::matte(0.8, 0.5, 0.2)));
  for (const Role role : {Role::surface, Role::product, Role::card}) expect_the_same(doc, role, 48, 128, 0.015);
}

// Own behaviour.
TEST(Photons, InTheDarkAddNothing) {
  Json doc = thrown_about({{"kind", "glass"}, {"ior", 1.5}}, false);
  doc["setups"][0]["lights"][0]["on"] = false;
  const Tracer off(staged(doc));
  EXPECT_EQ(mean_of(off, traced(off, 32, 2, Caustics::by_photons), Role::surface), 0);
  doc["setups"][0]["lights"] = Json::array();
  const Tracer none(staged(doc));
  EXPECT_EQ(one_way(none, 32, Caustics::by_photons).sums, one_way(none, 32, Caustics::by_paths).sums);
}

// Own behaviour.
TEST(Photons, AreTheSameWhateverTheCores) {
  const Tracer tracer(staged(thrown_about({{"kind", "glass"}, {"ior", 1.5}}, true)));
  EXPECT_EQ(traced(tracer, 40, 3, Caustics::by_photons).sums,
            traced(tracer, 40, 3, Caustics::by_photons, true).sums);
}

// Own behaviour.
TEST(Photons, OfNothingThatThrowsAreNotSent) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}});
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.4, 0.6, 0.4}, {0, 0, 0}, 0.3, 0.3, 1000));
  const auto world = staged(doc);
  EXPECT_TRUE(PhotonAims(*world).empty());
  const Tracer tracer(world);
  EXPECT_EQ(one_way(tracer, 40, Caustics::by_photons).sums, one_way(tracer, 40, Caustics::by_paths).sums);
}

// Source: solid angle of a sphere, 2 pi (1 - cos), in closed form.
TEST(Aims, CoverWhatTheyAimAt) {
  const PhotonAims aims(*staged(thrown_about({{"kind", "glass"}, {"ior", 1.5}}, false)));
  ASSERT_FALSE(aims.empty());
  const Vec3f from{0.1f, 0.5f, -0.6f};
  // One over the density, in the mean, is the solid angle of the ball about the cylinder: 0.08 x 0.1 x 0.08.
  const double radius = 0.5 * std::sqrt(0.08 * 0.08 * 2 + 0.1 * 0.1);
  const Vec3 to = Vec3{0.05, 0.05, -0.1} - from.as<double>();
  const double c = std::sqrt(1 - radius * radius / dot(to, to));
  double sum = 0;
  constexpr int n = 4096;
  for (int i = 0; i < n; ++i) {
    Sampler sampler(3, static_cast<std::uint32_t>(i));
    const auto [u, v] = sampler.pair();
    const PhotonAims::Aim aim = aims.from(from, sampler.one(), u, v);
    ASSERT_GT(aim.density, 0);
    EXPECT_NEAR(length(aim.direction), 1, 1e-4);
    EXPECT_GT(dot(aim.direction.as<double>(), unit(to)), c - 5e-3);
    sum += 1 / aim.density;
  }
  EXPECT_NEAR(sum / n, 2 * pi * (1 - c), 0.01 * 2 * pi * (1 - c));
  EXPECT_NEAR(aims.pull(from), 2 * pi * (1 - c), 0.01);
}

// Own behaviour, against a look through all.
TEST(PhotonMaps, FindWhatALookThroughAllFinds) {
  const auto world = staged(thrown_about({{"kind", "glass"}, {"ior", 1.5}}, false));
  const Mesh* floor = nullptr;
  for (const Mesh& mesh : world->meshes)
    if (mesh.role == Role::surface) floor = &mesh;
  ASSERT_TRUE(floor);
  std::mt19937 random(5);
  std::normal_distribution<float> dense(0, 0.005f), sparse(0, 0.1f);
  std::vector<Photon> photons;
  for (int i = 0; i < 3000; ++i) {
    auto& d = i % 4 ? dense : sparse;
    photons.push_back({{d(random), 0, d(random)}, {0, -1, 0}, {1, 1, 1}, floor, 0, 0});
  }
  const std::vector<float> widest = widest_discs(*world);
  const PhotonMap map(*world, photons, {0.0005f, 0.9f, widest});
  double spread = 0;
  for (int i = 0; i < 300; ++i) {
    auto& d = i % 2 ? dense : sparse;
    const Vec3f place{d(random), 0, d(random)};
    std::size_t found = 0, all = 0;
    map.near(place, [&](const Photon& p, float d2) {
      ++found;
      EXPECT_NEAR(std::sqrt(d2), length(p.place - place), 1e-6);
    });
    for (const Photon& p : map.photons()) all += length(p.place - place) < p.radius;
    EXPECT_EQ(found, all);
    spread += static_cast<double>(found);
  }
  EXPECT_GT(spread, 300);
  // Where they lie close the discs are narrow.
  double near_sum = 0, far_sum = 0, near_n = 0, far_n = 0;
  for (const Photon& p : map.photons()) {
    if (length(p.place) < 0.003f) near_sum += p.radius, ++near_n;
    if (length(p.place) > 0.15f) far_sum += p.radius, ++far_n;
  }
  EXPECT_GT(far_sum / far_n, 4 * near_sum / near_n);
  EXPECT_TRUE(PhotonMap(*world, {}, {0.001f, 1.0f, widest}).empty());
}

}  // namespace
}  // namespace cinnabar
