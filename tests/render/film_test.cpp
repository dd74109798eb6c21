// Film, signal and filter; and bodies that a ray passes through, against what is known in closed form.
#include "cinnabar/render/film.h"
#include "cinnabar/render/filter.h"
#include "cinnabar/render/first_look.h"

#include <cmath>
#include <random>

#include "cinnabar/color/white.h"
#include "cinnabar/optics/fresnel.h"
#include "cinnabar/optics/lens.h"
#include "cinnabar/photometry/exposure.h"
#include "staging.h"

namespace cinnabar {
using worlds::staged;
namespace {

Picture traced(const std::shared_ptr<const StagedWorld>& world, int w, int h, int passes) {
  return mixed(worlds::rendered(Tracer(world), w, h, passes), neutral_weights(*world));
}

double mean_of(const Picture& picture, int x0, int x1, int y0, int y1) {
  double sum = 0;
  for (int y = y0; y < y1; ++y) {
    for (int x = x0; x < x1; ++x)
      sum += luminance(picture.pixels[static_cast<std::size_t>(y * picture.width + x)]);
  }
  return sum / ((x1 - x0) * (y1 - y0));
}

/// A lens looking straight down through a thing on a large shining floor of 1000 cd/m2.
Json over_a_light_table() {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"].push_back(worlds::rectangle("floor", {0, 0, 0}, {0, 1, 0}, 4, 4, 1000 * pi * 16));
  doc["shots"][0]["camera"]["place"] = {0, 1.5, 0};
  doc["shots"][0]["camera"]["aim"] = {0, 0, 0};
  doc["shots"][0]["camera"]["f_number"] = 22;
  return doc;
}

// Own behaviour: as fine as asked where there is time, a sixteenth of the pixels where there is none.
TEST(FirstLook, IsAsFineAsItsTimeLets) {
  const auto world = staged(over_a_light_table());
  const Tracer tracer(world);
  const auto whole = first_look(tracer, 64, 36, 1e6), hurried = first_look(tracer, 64, 36, 0.0);
  ASSERT_TRUE(whole && hurried);
  EXPECT_EQ(std::pair(whole->width, whole->height), std::pair(64, 36));
  EXPECT_EQ(std::pair(hurried->width, hurried->height), std::pair(16, 9));
  for (const auto& film : {*whole, *hurried}) {
    EXPECT_EQ(film.passes, 1);
    EXPECT_NEAR(mean_of(mixed(film, layer_weights(*world)), 0, film.width, 0, film.height), 1000, 1)
        << "the table fills the frame";
  }
  const auto least = first_look(tracer, 3, 1, 0.0);
  EXPECT_EQ(least->pixels(), 1u);
  const std::atomic<bool> cancelled{true};
  EXPECT_FALSE(first_look(tracer, 64, 36, 1e6, &cancelled));
}

// Source: Beer-Lambert (Born & Wolf).
TEST(Liquid, AbsorbsByBeerAndLambert) {
  Json doc = over_a_light_table();
  const double depth = 0.05;
  doc["products"] =
      Json::array({{{"id", "vat"},
                    {"parts",
                     {{{"id", "p"},
                       {"profile", {{0.0, 0.0}, {0.4, 0.0}, {0.4, depth}, {0.0, depth}}},
                       {"material", {{"kind", "liquid"}, {"ior", 1.0}, {"absorption", {12, 12, 12}}}}}}}}});
  doc["shots"][0]["products"] = Json::array({{{"product", "vat"}, {"place", {0, 0.5, 0}}}});
  const double expected = 1000 * absorb({.coefficient = 12, .path = depth})->transmittance;
  EXPECT_NEAR(mean_of(traced(staged(doc), 32, 18, 64), 14, 18, 8, 10), expected, 0.01 * expected);
}

// Source: Fresnel's formulas (Born & Wolf).
TEST(NestedBodies, WaterInGlassReflectsWhereTheIndicesStep) {
  // Down through a glass lid, a gap of air, water, the glass floor: each boundary's normal-incidence reflectance,
  // multiple reflections left out.
  Json doc = over_a_light_table();
  doc["products"] = Json::array({{{"id", "cell"},
                                  {"parts",
                                   {{{"id", "glass"},
                                     {"profile", {{0.0, 0.0}, {0.4, 0.0}, {0.4, 0.1}, {0.0, 0.1}}},
                                     {"wall", 0.01},
                                     {"material", {{"kind", "glass"}, {"ior", 1.5}}}},
                                    {{"id", "water"},
                                     {"profile", {{0.0, 0.01}, {0.39, 0.01}, {0.39, 0.05}, {0.0, 0.05}}},
                                     {"material", {{"kind", "liquid"}, {"ior", 1.33}}}}}}}});
  doc["shots"][0]["products"] = Json::array({{{"product", "cell"}, {"place", {0, 0.4, 0}}}});
  const double outer = fresnel({1, 1.5, 0})->reflectance, inner = fresnel({1.5, 1.33, 0})->reflectance;
  const double water = fresnel({1, 1.33, 0})->reflectance;
  const double single = std::pow(1 - outer, 3) * (1 - water) * (1 - inner);
  const double measured = mean_of(traced(staged(doc), 32, 18, 400), 13, 19, 7, 11) / 1000;
  EXPECT_GT(measured, single - 0.01);
  EXPECT_LT(measured, single + 0.03);  // what is thrown back and forth adds a little
}

// Source: Lambert's cosine law; the shares are the material's own.
TEST(Translucent, PassesAndReturnsWhatItsNumbersSay) {
  // A sheet of reflectance 0.8 with three quarters going through, lit from below by a floor that fills its view.
  Json doc = over_a_light_table();
  doc["setups"][0]["cards"].push_back(
      {{"id", "sheet"},
       {"place", {0, 0.02, 0}},
       {"aim", {0, 1, 0}},
       {"width", 0.3},
       {"height", 0.3},
       {"material", {{"kind", "translucent"}, {"colour", {0.8, 0.8, 0.8}}, {"transmittance", 0.75}}}});
  const double measured = mean_of(traced(staged(doc), 64, 36, 64), 31, 33, 17, 19);
  EXPECT_NEAR(measured, 1000 * 0.8 * 0.75, 12);
}

// Source: thin lens, blur disc (Ray 2002).
TEST(Focus, SpreadsAPointOverItsBlurDisc) {
  // A small bare lamp 2 m away, the lens focused at 1 m: the disc on the sensor has the blur disc's diameter.
  Json doc = worlds::bare();
  doc["setups"][0]["lights"].push_back({{"id", "b"},
                                        {"place", {0, 0.05, -1}},
                                        {"aim", {0, 0, 0}},
                                        {"shape", "bare"},
                                        {"radius", 0.002},
                                        {"lumens", 100}});
  doc["shots"][0]["camera"]["f_number"] = 2.0;
  const auto world = staged(doc);
  const int w = 480;
  const Picture picture = traced(world, w, 270, 64);
  const double disc = blur_disc({.focal = 0.05, .f_number = 2.0, .focus = 1.0, .distance = 2.0})->diameter;
  const double pixels = disc / (0.036 / w);
  int lit = 0;
  for (const Rgb& c : picture.pixels) lit += luminance(c) > 0 ? 1 : 0;
  // Area of the disc, grown by the lamp's own image and the pixels it touches.
  const double own = 0.004 * (0.05 / 0.95) / 2 / (0.036 / w);
  EXPECT_GT(lit, pi / 4 * pixels * pixels * 0.9);
  EXPECT_LT(lit, pi / 4 * std::pow(pixels + own + 2, 2));
}

// Source: ISO 12232.
TEST(Signal, ClipsWhereIso12232Says) {
  const auto world = staged(worlds::bare());
  const StagedCamera& camera = world->camera;
  for (const double l : {1.0, 50.0, 3000.0}) {
    const auto exposure =
        sensor_exposure({.luminance = l, .f_number = camera.f_number_effective, .time = 0.02, .iso = 400});
    EXPECT_NEAR(l * signal_per_luminance(camera), exposure->exposure_lxs / exposure->saturation_lxs, 1e-12);
    EXPECT_NEAR(stops_under_clip(camera, l), exposure->stops_under_clip, 1e-9);
  }
  StagedCamera filtered_camera = camera;
  filtered_camera.nd_stops = 3;
  EXPECT_NEAR(signal_per_luminance(filtered_camera), signal_per_luminance(camera) / 8, 1e-12);
  // Its own grey: 18 % of E / pi at the illuminance it needs.
  const auto needed =
      incident_exposure({.illuminance_lx = 1, .f_number = camera.f_number_effective, .time = 0.02, .iso = 400});
  EXPECT_NEAR(exposures_grey(camera), 0.18 * needed->illuminance_needed_lx / pi, 1e-9);
}

// Source: light adds up (CIE S 017).
TEST(Layers, OfOneLightAloneAddUpToThePicture) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "gloss"}, {"colour", {0.6, 0.3, 0.1}}});
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.6, 0.6, 0.5}, {0, 0.05, 0}, 0.4, 0.6, 4000));
  doc["setups"][0]["lights"].push_back(worlds::rectangle("rim", {-0.6, 0.4, -0.3}, {0, 0.05, 0}, 0.1, 0.8, 2000));
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 20}, {"kelvin", 4000}};
  const auto world = staged(doc);
  const Tracer tracer(world);
  Film film = tracer.film(48, 27);
  for (int p = 0; p < 4; ++p) ASSERT_TRUE(tracer.add_pass(film));
  const Picture all = mixed(film, layer_weights(*world));
  const Picture key = mixed(film, layer_weights(*world, "key")), rim = mixed(film, layer_weights(*world, "rim")),
                ambient = mixed(film, layer_weights(*world, "ambient"));
  for (std::size_t p = 0; p < all.pixels.size(); ++p) {
    const Rgb sum = key.pixels[p] + rim.pixels[p] + ambient.pixels[p];
    EXPECT_NEAR(sum.x, all.pixels[p].x, 1e-4f * (1 + all.pixels[p].x));
    EXPECT_NEAR(sum.z, all.pixels[p].z, 1e-4f * (1 + all.pixels[p].z));
  }
}

// Own behaviour.
TEST(Filter, KeepsPrintAndALineOfShadowThatIsNoNoise) {
  // Stripes of print, a shadow's edge across them, and noise of 30 % a pass over four passes.
  Mesh label;
  Film film(64, 36, 0, Caustics::by_photons);
  film.layers = 1;
  film.sums.assign(film.pixels(), {});
  std::mt19937 random(3);
  std::normal_distribution<float> noise(1, 0.3f);
  Picture truth{64, 36, std::vector<Rgb>(film.pixels())};
  for (int y = 0; y < 36; ++y)
    for (int x = 0; x < 64; ++x) {
      const std::size_t at = film.at(x, y);
      const float print = x % 4 < 2 ? 0.8f : 0.1f, light = y < 18 ? 10.0f : 2.0f;
      film.first[at] = {&label, {0, 0, 1}, Rgb{1, 1, 1} * print, {}, 1};
      truth.pixels[at] = Rgb{1, 1, 1} * (print * light);
      for (int pass = 0; pass < 4; ++pass) {
        const float shown = print * light * std::max(0.0f, noise(random));
        film.sums[at] += Rgb{1, 1, 1} * shown;
        film.totals[at] += shown, film.squares[at] += shown * shown;
      }
    }
  film.passes = 4;
  const Picture noisy = mixed(film, {{1, 1, 1}}), smooth = filtered(noisy, film, 3);
  const auto off = [&](const Picture& picture, int low, int high) {
    double sum = 0;
    for (int y = low; y < high; ++y)
      for (int x = 4; x < 60; ++x) {
        const std::size_t at = film.at(x, y);
        sum += std::pow(luminance(picture.pixels[at]) / luminance(truth.pixels[at]) - 1, 2);
      }
    return std::sqrt(sum / (56 * (high - low)));
  };
  EXPECT_NEAR(off(noisy, 0, 36), 0.15, 0.01);
  EXPECT_LT(off(smooth, 4, 14), 0.5 * off(noisy, 4, 14));
  EXPECT_LT(off(smooth, 22, 32), 0.5 * off(noisy, 22, 32));
  EXPECT_LT(off(smooth, 16, 20), off(noisy, 16, 20));
}

// Own behaviour.
TEST(FirstHits, KnowWhatStandsBehindGlass) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "glass"}, {"ior", 1.01}});
  doc["setups"][0]["backdrop"] = {{"kind", "flat"},
                                  {"distance", 0.4},
                                  {"width", 2},
                                  {"height", 2},
                                  {"low", -1},
                                  {"tilt_deg", 0},
                                  {"material", {{"kind", "matte"}, {"colour", {0.7, 0.2, 0.1}}}}};
  const Tracer tracer(staged(doc));
  const Film film = worlds::rendered(tracer, 48, 27, 4, Caustics::by_photons);
  int clear = 0, seen = 0;
  for (const FirstHit& first : film.first) {
    if (!first.mesh || first.mesh->medium < 0) continue;
    ++clear;
    EXPECT_EQ(first.albedo.y, 1);
    seen += std::abs(first.behind.x - 0.7f) < 0.01f && std::abs(first.behind.z - 0.1f) < 0.01f;
  }
  EXPECT_GT(clear, 10);
  EXPECT_GT(seen, 0.8 * clear);
}

// Own behaviour, against repeated pictures.
TEST(RelativeError, IsWhatRepeatedPicturesScatterBy) {
  Film film(200, 100, 0);
  Picture half;
  std::mt19937 random(4);
  std::normal_distribution<float> noise(10, 2);
  for (int pass = 0; pass < 16; ++pass) {
    if (pass == 6) half = mixed(film, {{1, 1, 1}});
    for (Rgb& sum : film.sums) sum += Rgb{1, 1, 1} * noise(random);
    ++film.passes;
  }
  const Picture all = mixed(film, {{1, 1, 1}});
  const auto error = relative_error(all, 16, half, 6);
  ASSERT_TRUE(error);
  EXPECT_NEAR(*error, 0.2 / 4, 0.03 * 0.05);  // 2 in 10, over the root of 16
  EXPECT_FALSE(relative_error(all, 16, half, 0));
  EXPECT_FALSE(relative_error(all, 16, all, 16));
  EXPECT_FALSE(relative_error(all, 16, {}, 6));
}

// Own behaviour.
TEST(Filter, EvensNoiseAndKeepsTheMeanAndTheEdges) {
  Mesh left, right;
  Film guide(64, 36, 0);
  Picture noisy{64, 36, {}};
  std::mt19937 random(1);
  std::uniform_real_distribution<float> noise(-0.3f, 0.3f);
  for (int y = 0; y < 36; ++y) {
    for (int x = 0; x < 64; ++x) {
      guide.first[static_cast<std::size_t>(y * 64 + x)] = {
          x < 32 ? &left : &right, {0, 0, 1}, {0.5f, 0.5f, 0.5f}, {}, 1};
      const float level = x < 32 ? 1.0f : 5.0f;
      noisy.pixels.push_back(Rgb{1, 1, 1} * (level * (1 + noise(random))));
    }
  }
  const Picture smooth = filtered(noisy, guide, 3);
  const auto spread = [](const Picture& p, int x0, int x1) {
    double sum = 0, squares = 0;
    int n = 0;
    for (int y = 0; y < 36; ++y) {
      for (int x = x0; x < x1; ++x, ++n) {
        const double v = luminance(p.pixels[static_cast<std::size_t>(y * 64 + x)]);
        sum += v, squares += v * v;
      }
    }
    return std::pair(sum / n, std::sqrt(squares / n - sum / n * sum / n));
  };
  EXPECT_NEAR(spread(smooth, 0, 32).first, 1.0, 0.05);
  EXPECT_NEAR(spread(smooth, 32, 64).first, 5.0, 0.25);
  EXPECT_LT(spread(smooth, 0, 32).second, 0.4 * spread(noisy, 0, 32).second);
}

// Source: way = speed x time, worked by hand.
TEST(RollingShutter, SkewsWhatSlidesPast) {
  // The camera slides; with a long readout the top and the bottom of an upright edge are seen at different times.
  Json doc = worlds::bare();
  doc["kit"]["cameras"][0]["modes"][0]["readout"] = 0.03;
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 1000}};
  doc["setups"][0]["cards"].push_back(worlds::card("c", {0.5, 0.05, 0}, {0.5, 0.05, 1}, 1.0, 2.0));
  doc["shots"][0]["camera"]["shutter_time"] = 0.0005;
  doc["shots"][0]["camera"]["f_number"] = 22;
  doc["shots"][0]["camera"]["slide_axis"] = {1, 0, 0};
  doc["shots"][0]["tracks"] = Json::array({{{"target", "camera.slide"}, {"keys", {{0, 0}, {1, 2.0}}}}});
  const Picture picture = traced(staged(doc), 240, 135, 16);
  const auto edge = [&](int y) {
    for (int x = 0; x < 240; ++x) {
      if (luminance(picture.pixels[static_cast<std::size_t>(y * 240 + x)]) < 160) return x;
    }
    return 240;
  };
  const double v = 0.05 / 0.95,
               expected = 2.0 * 0.03 * (120.0 / 135) * v / (0.036 / 240);  // slide x readout between the rows
  EXPECT_NEAR(edge(7) - edge(127), expected, 2.5);
}

}  // namespace
}  // namespace cinnabar
