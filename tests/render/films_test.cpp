// Before lamps and lenses: diffusion sheets as bodies, domes, polarising films; and patterns on what is flat.
#include <array>
#include <cmath>

#include "cinnabar/color/texture.h"
#include "cinnabar/optics/fresnel.h"
#include "cinnabar/photometry/modifiers.h"
#include "cinnabar/photometry/sources.h"
#include "cinnabar/render/meter.h"
#include "cinnabar/render/overlays.h"
#include "staging.h"

namespace cinnabar {
using worlds::staged;
namespace {

/// What the middle of the picture shows of all lights, cd/m2.
double shown(const Json& doc, int passes = 96) {
  const Tracer tracer(staged(doc));
  const Film film = worlds::rendered(tracer, 9, 5, passes);
  return static_cast<double>(luminance(mixed(film, neutral_weights(tracer.world())).pixels[film.at(4, 2)]));
}

/// A camera at `from` that looks at a point.
Json looking(const Json& from, const Json& at) {
  Json doc = worlds::bare();
  doc["shots"][0]["camera"].update({{"place", from}, {"aim", at}});
  return doc;
}

// Source: Lafortune & Willems 1994, as `diffusion-sheet` works it out: a sheet before a lamp, seen from far on the
// axis at its middle and at its edge.
TEST(Sheets, BeforeALampShineAsTheirFormulaSays) {
  constexpr double gap = 0.4, lumens = 1000, half = 0.4;
  for (const auto& [forward, lobe_deg] : {std::pair{0.0, 20.0}, {0.5, 15.0}, {0.9, 8.0}}) {
    for (const double aside : {0.0, half - 0.05}) {
      SCOPED_TRACE(forward);
      Json doc = worlds::bare();
      doc["setups"][0]["lights"] = Json::array({Json{{"id", "lamp"},
                                                     {"place", {0, 0, -gap}},
                                                     {"aim", {0, 0, 1}},
                                                     {"shape", "disc"},
                                                     {"radius", 0.004},
                                                     {"lumens", lumens}}});
      doc["setups"][0]["cards"] = Json::array({worlds::card("sheet", {0, 0, 0}, {0, 0, 1}, 1.6, 1.6,
                                                            {{"kind", "translucent"},
                                                             {"colour", {0.9, 0.9, 0.9}},
                                                             {"transmittance", 0.6},
                                                             {"forward", forward},
                                                             {"lobe_deg", lobe_deg}})});
      const auto told = diffusion_sheet({.candela = lumens / pi,
                                         .exponent = 1,
                                         .gap = gap,
                                         .half_size = std::max(aside, 0.01),
                                         .transmittance = 0.9 * 0.6,
                                         .forward = forward,
                                         .lobe = std::log(0.5) / std::log(std::cos(radians(lobe_deg)))});
      ASSERT_TRUE(told);
      const double wanted = aside > 0 ? told->luminance_edge : told->luminance_centre;
      const Tracer tracer(staged(doc));
      double is = 0;
      constexpr std::uint32_t looks = 4096;
      for (std::uint32_t k = 0; k < looks; ++k) {
        std::array<Rgb, 3> layers{};
        Sampler sampler(k, 1);
        const Ray ray{Vec3{aside, 0, 9}.as<float>(), Vec3{0, 0, -1}.as<float>(), 0.0f, 1e30f, 0.5f};
        tracer.follow(ray, {1, 1, 1}, sampler, layers.data(), {});
        is += static_cast<double>(luminance(layers[0])) / looks;
      }
      is *= tracer.world().lights[0].luminance;
      EXPECT_NEAR(is, wanted, 0.02 * wanted) << aside;
    }
  }
}

// Source: by hand: half a ball shows all of its disc from ahead as a ball does, half of it from aside, and nothing
// from behind.
TEST(Domes, ShineAsMuchAsIsSeenOfThem) {
  constexpr double radius = 0.2, lumens = 3000, far = 8.0;
  const auto lux = [&](const Vec3& at) {
    Json doc = worlds::bare();
    doc["setups"][0]["lights"] = Json::array({Json{{"id", "dome"},
                                                   {"place", {0, 1, 0}},
                                                   {"aim", {0, 1, 1}},
                                                   {"shape", "dome"},
                                                   {"radius", radius},
                                                   {"lumens", lumens}}});
    return illuminance(Tracer(staged(doc)), at, unit(Vec3{0, 1, 0} - at), {.paths = 0}).total();
  };
  const double luminance = lumens / (pi * 2 * pi * radius * radius);
  const double ahead = sphere_illuminance(luminance, {0, 1, 0}, radius, {0, 1, far}, {0, 0, -1});
  EXPECT_NEAR(lux({0, 1, far}), ahead, 0.01 * ahead);
  EXPECT_NEAR(lux({far, 1, 0}), 0.5 * ahead, 0.015 * ahead);
  EXPECT_NEAR(lux({0, 1, -far}), 0.0, 1e-9);
  const double slant = (1 + std::cos(radians(60))) / 2;  // a half disc and half an ellipse
  EXPECT_NEAR(lux({far * std::sin(radians(60)), 1, far * std::cos(radians(60))}), slant * ahead, 0.02 * ahead);
}

Json film_lamp(const Json& place, const Json& aim, double film_deg) {
  Json lamp = worlds::rectangle("lamp", place, aim, 0.6, 0.6, 1000);
  lamp["film"] = {{"angle_deg", film_deg}, {"stops", 1}};
  return lamp;
}

// Source: Malus, as Born & Wolf have it; a hundredth of crossed films' light leaks (common practice, no source).
TEST(Films, BeforeLampAndLensFollowMalus) {
  Json doc = looking({0, 0, 2}, {0, 0, 0});
  doc["setups"][0]["lights"] = Json::array({film_lamp({0, 0, 0}, {0, 0, 2}, 0)});
  const double plain = shown(doc, 8);
  for (const double turned : {0.0, 30.0, 60.0, 90.0}) {
    // The lamp faces the camera: the camera's left is the lamp's right.
    doc["shots"][0]["camera"]["polariser"] = {{"angle_deg", turned}, {"stops", 1}};
    const double c2 = std::pow(std::cos(radians(turned)), 2.0);
    EXPECT_NEAR(shown(doc, 8) / plain, 2 * (0.995 * c2 + 0.005 * (1 - c2)), 1e-3) << turned;
  }
  // The film takes a stop of the lamp's own light.
  Json without = doc;
  without["setups"][0]["lights"][0].erase("film");
  without["shots"][0]["camera"].erase("polariser");
  EXPECT_NEAR(plain, 0.5 * shown(without, 8), 1e-3 * plain);
}

// Source: by an independent construction: a metal mirror shows the lamp's image, its film mirrored with it.
TEST(Films, AreMirroredByMetal) {
  const Vec3 eye{0, 0.8, 1.0}, lamp{0.5, 0.9, -1.0};
  const Vec3 seen = eye + (Vec3{lamp.x, -lamp.y, lamp.z} - eye) * (eye.y / (eye.y + lamp.y));  // on the floor
  for (const double film : {0.0, 35.0, 120.0})
    for (const double lens : {0.0, 50.0, 100.0}) {
      Json doc = looking({eye.x, eye.y, eye.z}, {seen.x, seen.y, seen.z});
      doc["setups"][0]["surface"] = {
          {"width", 9}, {"depth", 9}, {"material", {{"kind", "mirror"}, {"colour", {0.9, 0.9, 0.9}}}}};
      doc["setups"][0]["lights"] = Json::array({film_lamp({lamp.x, lamp.y, lamp.z}, {seen.x, 0, seen.z}, film)});
      const double plain = shown(doc, 8);
      doc["shots"][0]["camera"]["polariser"] = {{"angle_deg", lens}, {"stops", 1}};
      const auto axis = [](const Vec3& place, const Vec3& aim, double deg) {
        const Facing f = facing(place, aim, 0);
        return f.up * std::cos(radians(deg)) - f.right * std::sin(radians(deg));
      };
      const Vec3 way = unit(seen - eye), own = axis(lamp, seen, film);
      const auto square = [&](const Vec3& v) { return unit(v - way * dot(v, way)); };
      const double c2 = std::pow(dot(square(Vec3{own.x, -own.y, own.z}), square(axis(eye, seen, lens))), 2.0);
      EXPECT_NEAR(shown(doc, 8) / plain, 2 * (0.995 * c2 + 0.005 * (1 - c2)), 0.01) << film << " " << lens;
    }
}

// Source: Born & Wolf: at Brewster's angle a dielectric mirrors of light that swings in the plane of incidence
// nothing, and of what swings square to it Rs: twice what it does of plain light, and twice again through a lens's
// film that stands with it.
TEST(Films, KnowBrewstersAngle) {
  const double angle = std::atan(1.5);
  const auto glare = [&](double film, std::optional<double> lens) {
    Json doc = looking({0, std::cos(angle), std::sin(angle)}, {0, 0, 0});
    doc["setups"][0]["surface"] = {
        {"width", 9}, {"depth", 9}, {"material", {{"kind", "gloss"}, {"colour", {0, 0, 0}}, {"ior", 1.5}}}};
    doc["setups"][0]["lights"] = Json::array({film_lamp({0, std::cos(angle), -std::sin(angle)}, {0, 0, 0}, film)});
    if (lens) doc["shots"][0]["camera"]["polariser"] = {{"angle_deg", *lens}, {"stops", 1}};
    return shown(doc, 64);
  };
  const double plain = glare(90, {});
  EXPECT_NEAR(glare(90, 90.0) / plain, 4 * 0.995, 0.08);
  EXPECT_NEAR(glare(0, 90.0) / plain, 4 * 0.005, 0.01);
  EXPECT_LT(glare(0, 0.0) / plain, 0.02);
  EXPECT_LT(glare(90, 0.0) / plain, 0.02);
}

// Source: Malus: two lens films that are square to one another pass together twice what none does, here also of
// a rough lobe; crossed with the lamp's, what is left is what is scattered from within.
TEST(Films, TakeTheGlareOfRoughThings) {
  const auto lit = [](const Json& material, std::optional<double> lens) {
    Json doc = looking({0, 0, 2}, {0, 0, 0});
    doc["setups"][0]["cards"] = Json::array({worlds::card("board", {0, 0, 0}, {0, 0, 2}, 1, 1, material)});
    Json lamp = worlds::rectangle("lamp", {0.1, 0, 2.4}, {0, 0, 0}, 0.1, 0.1, 1000);
    lamp["film"] = {{"angle_deg", 0}, {"stops", 1}};
    doc["setups"][0]["lights"] = Json::array({lamp});
    if (lens) doc["shots"][0]["camera"]["polariser"] = {{"angle_deg", *lens}, {"stops", 1}};
    return shown(doc, 256);
  };
  const Json steel{{"kind", "metal"}, {"colour", {0.6, 0.6, 0.6}}, {"roughness", 0.4}};
  const double bare = lit(steel, {}), with = lit(steel, 0.0), crossed = lit(steel, 90.0);
  EXPECT_NEAR((with + crossed) / 2, bare, 0.02 * bare);
  EXPECT_LT(crossed, 0.02 * with);
  const Json satin{{"kind", "satin"}, {"colour", {0.3, 0.3, 0.3}}, {"roughness", 0.3}, {"ior", 1.5}};
  Json black = satin;
  black["colour"] = {0, 0, 0};
  const double whole = lit(satin, {}), facets = lit(black, {});
  EXPECT_NEAR((lit(satin, 0.0) + lit(satin, 90.0)) / 2, whole, 0.02 * whole);
  EXPECT_NEAR(lit(satin, 90.0), whole - 0.99 * facets, 0.03 * whole);
  EXPECT_GT(facets, 0.2 * whole) << "there is glare to be taken";
  // Matt things show as much through any film.
  const Json matte = worlds::matte(0.5, 0.5, 0.5);
  EXPECT_NEAR(lit(matte, 90.0), lit(matte, {}), 0.01 * lit(matte, {}));
}

// Source: by hand: a place of a table lies so far to the right and toward the camera in its pattern; turned by a
// right angle it lies as far down and to the left.
TEST(Textures, LieTrueToScale) {
  const Vec3 ground{0.6, 0.5, 0.4}, veins{0.1, 0.1, 0.2};
  for (const double turned : {0.0, 90.0})
    for (const char* kind : {"marble", "wood"}) {
      Json doc = looking({0.2, 1.5, 0.1}, {0.2, 0, 0.1});
      doc["setups"][0]["surface"] = {
          {"width", 2},
          {"depth", 2},
          {"material",
           {{"kind", "matte"},
            {"colour", {ground.x, ground.y, ground.z}},
            {"texture",
             {{"kind", kind}, {"size", 40.0}, {"turn_deg", turned}, {"colour", {veins.x, veins.y, veins.z}}}}}}};
      const auto world = staged(doc);
      const Mesh& table = world->meshes[0];
      EXPECT_TRUE(table.material.textured);
      const auto corner = [&](std::size_t k) { return table.positions[0][k].as<double>(); };
      for (std::size_t k = 0; k < 4; ++k) {
        const double right = corner(k).x / 40.0, down = corner(k).z / 40.0;
        EXPECT_NEAR(table.uvs[k].first, turned == 0.0 ? right : down, 1e-6);
        EXPECT_NEAR(table.uvs[k].second, turned == 0.0 ? down : -right, 1e-6);
      }
      const Pattern pattern = std::string(kind) == "wood" ? Pattern::wood : Pattern::marble;
      const Tile tile = tile_of(pattern, ground, veins);
      const Tracer tracer(world);
      Film film = tracer.film(33, 19);
      tracer.look(film);
      double spread = 0;
      for (int y = 2; y < 19; y += 4)
        for (int x = 2; x < 33; x += 4) {
          const auto met = place_met(film, world->camera, (x + 0.5) / 33, (y + 0.5) / 19);
          ASSERT_TRUE(met);
          const double right = met->at.x / 40.0, down = met->at.z / 40.0, u = turned == 0.0 ? right : down,
                       v = turned == 0.0 ? down : -right;
          const double is = film.first[film.at(x, y)].albedo.as<double>().y;
          const Rgb there = tile.against_mean->repeated(static_cast<float>(u), static_cast<float>(v));
          EXPECT_NEAR(is, tile.mean.y * static_cast<double>(there.y), 0.03) << x << " " << y;
          spread = std::max(spread, std::abs(is - table.material.colour.y));
        }
      EXPECT_GT(spread, 0.02) << "the pattern is seen";
      // Its colour is the mean over the tile.
      double mean = 0;
      for (int y = 0; y < 64; ++y)
        for (int x = 0; x < 64; ++x) mean += drawn_at(pattern, (x + 0.5) / 64, (y + 0.5) / 64) / 4096;
      EXPECT_NEAR(table.material.colour.y, ground.y + (veins.y - ground.y) * mean, 0.01);
    }
}

}  // namespace
}  // namespace cinnabar
