// What is drawn over the picture, against the closed forms it stands for.
#include "cinnabar/render/overlays.h"

#include <cmath>

#include "cinnabar/optics/lens.h"
#include "cinnabar/render/tracer.h"
#include "worlds.h"

namespace cinnabar {
namespace {

struct Seen {
  Project project;
  std::shared_ptr<const StagedWorld> world;
  std::unique_ptr<Tracer> tracer;
  Film film;
  explicit Seen(const Json& doc, double t = 0.0) : project(worlds::read(doc)) {
    world = std::make_shared<const StagedWorld>(stage(project, *project.shots[0], t));
    tracer = std::make_unique<Tracer>(world);
    film = tracer->film(160, 90);
    for (int k = 0; k < 8; ++k) (void)tracer->add_pass(film);
  }
  [[nodiscard]] const Shot& shot() const { return *project.shots[0]; }
};

/// A wall 2 m from the lens under an even ambient, focus 1 m.
Json wall() {
  Json doc = worlds::bare();
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 1.0}, {"width", 20.0},
      {"height", 20.0}, {"low", -10.0},    {"material", {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}}}};
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 1000.0}};
  return doc;
}

// Source: thin lens, blur disc (Ray 2002).
TEST(FocusDiscs, AreTheBlurDiscOfTheWall) {
  const Seen seen(wall());
  const double expected =
      blur_disc({.focal = 0.05, .f_number = 5.6, .focus = 1.0, .distance = 2.0})->diameter / 0.036;
  const auto discs = focus_discs(seen.film, seen.world->camera, 12);
  EXPECT_EQ(discs.size(), 12u * 6u);
  for (const FocusDisc& d : discs) EXPECT_NEAR(d.diameter, expected, 0.02 * expected);
}

// Own behaviour.
TEST(Probes, ReadLuminanceStopsDistanceAndBlur) {
  const Seen seen(wall());
  const Probe read = probe(seen.film, *seen.world, layer_weights(*seen.world), seen.shot(), 0.5, 0.5);
  const double l = 0.5 * 1000 / pi;
  EXPECT_NEAR(read.luminance, l, 0.05 * l);
  EXPECT_NEAR(read.stops, std::log2(l / exposures_grey(seen.world->camera)), 0.08);
  EXPECT_NEAR(read.distance, 2.0, 0.01);
  ASSERT_EQ(read.shares.size(), 1u);
  EXPECT_NEAR(read.shares[0], 1.0, 1e-9) << "all of it is the room's";
  EXPECT_EQ(read.smear_px, 0.0);
  const double wanted = blur_disc({.focal = 0.05, .f_number = 5.6, .focus = 1.0, .distance = 2.0})->diameter;
  EXPECT_NEAR(read.blur_px, wanted / (0.036 / 1920), 0.02 * read.blur_px);
}

// Own behaviour.
TEST(Probes, TellTheLightsSharesApart) {
  Json doc = wall();
  doc["setups"][0]["ambient"]["illuminance_lx"] = 0.0;
  for (const auto& [id, lumens] : {std::pair{"a", 3000.0}, std::pair{"b", 1000.0}})
    doc["setups"][0]["lights"].push_back(worlds::rectangle(id, {0, 0.05, 1.2}, {0, 0.05, -1}, 0.3, 0.3, lumens));
  const Seen seen(doc);
  const Probe read = probe(seen.film, *seen.world, layer_weights(*seen.world), seen.shot(), 0.5, 0.5);
  EXPECT_NEAR(read.shares[0], 0.75, 0.02);
  EXPECT_NEAR(read.shares[1], 0.25, 0.02);
}

// Source: way = speed x time, worked by hand.
TEST(Strokes, AreAsLongAsTheTurnInOneExposure) {
  // 36 degrees a second, 1/50 s, radius 0.04 m at 0.96 m: the front's arc on the sensor.
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}}, true);
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 1000.0}};
  doc["shots"][0]["tracks"] =
      Json::array({{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, 0}, {2, 72}}}}});
  const Seen seen(doc, 0.5);
  const double v = 0.05 / 0.95, px = 0.04 * radians(36) * 0.02 * v / 0.96 / (0.036 / 3840);
  const Probe front = probe(seen.film, *seen.world, layer_weights(*seen.world), seen.shot(), 0.5, 0.5);
  EXPECT_NEAR(front.smear_px, px, 0.04 * px);
  double longest = 0.0;
  for (const SmearStroke& s : smear_strokes(seen.film, *seen.world, seen.shot(), 40)) {
    EXPECT_NEAR(std::hypot((s.x1 - s.x0) * 3840, (s.y1 - s.y0) * 2160), s.px, 1e-6);
    longest = std::max(longest, s.px);
  }
  EXPECT_NEAR(longest, px, 0.04 * px);
}

// Own behaviour.
TEST(Strokes, OfAPanCrossTheWholePicture) {
  Json doc = wall();
  doc["shots"][0]["tracks"] =
      Json::array({{{"target", "camera.pan"}, {"profile", "linear"}, {"keys", {{0, 0}, {2, 20}}}}});
  const Seen seen(doc, 0.5);
  // 10 degrees a second for 1/50 s: 0.2 degrees, seen by the lens from its image distance.
  const double px = std::tan(radians(0.2)) * (0.05 / 0.95) / (0.036 / 3840);
  const auto strokes = smear_strokes(seen.film, *seen.world, seen.shot(), 10);
  EXPECT_EQ(strokes.size(), 10u * 5u);
  for (const SmearStroke& s : strokes) {
    EXPECT_NEAR(s.px, px, 0.16 * px);
    EXPECT_LT(s.x1, s.x0) << "panned to the right, things go to the left";
  }
}

// Source: image height over image distance is height over depth (thin lens), worked by hand.
TEST(PlacesMet, AreWhereTheProductIsAndHowFarAcrossIt) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}}, true);
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 1000.0}};
  const Seen seen(doc);
  const auto middle = place_met(seen.film, seen.world->camera, 0.5, 0.5);
  ASSERT_TRUE(middle);
  EXPECT_EQ(middle->role, Role::product);
  EXPECT_NEAR(middle->across, 0.0, 0.12) << "half of one of its ten pixels";
  EXPECT_NEAR(std::hypot(middle->at.x, middle->at.z), 0.04, 0.001) << "on its side";
  // Across the picture: from its left edge to its right.
  double last = -2.0;
  int met = 0;
  for (int x = 0; x < seen.film.width; ++x) {
    const auto one = place_met(seen.film, seen.world->camera, (x + 0.5) / seen.film.width, 0.5);
    if (!one || one->role != Role::product) continue;
    EXPECT_GT(one->across, last);
    last = one->across, ++met;
    EXPECT_NEAR(one->at.x, 0.04 * one->across, 0.006);
  }
  EXPECT_GE(met, 10);
  EXPECT_NEAR(last, 1.0 - 1.0 / met, 1e-9);
  EXPECT_FALSE(place_met(seen.film, seen.world->camera, 0.01, 0.01)) << "nothing is there";
}

// Own behaviour, by the closed form: 100 pulses a second over a readout of 30 ms are three bands; a light's layer
// swings by its share, the rest stays.
TEST(Bands, StandWhereTheReadoutMeetsThePulses) {
  Film film(4, 600, 2);
  film.passes = 1;
  for (std::size_t p = 0; p < film.pixels(); ++p) film.sums[3 * p] = {2, 2, 2}, film.sums[3 * p + 1] = {1, 1, 1};
  const LayerWeights weights{{1, 1, 1}, {1, 1, 1}, {1, 1, 1}};
  const Picture whole = mixed(film, weights);
  const Picture seen = banded(whole, film, weights, {{0, 0.25, 100.0}}, 0.03, 0.002);
  int crossings = 0;
  for (int y = 0; y < 600; ++y) {
    const double t = 0.002 + 0.03 * (y + 0.5) / 600;
    EXPECT_NEAR(seen.pixels[film.at(2, y)].y, 3 + 2 * 0.25 * std::cos(2 * pi * 100 * t), 1e-5) << y;
    if (y > 0) crossings += (seen.pixels[film.at(2, y)].y > 3) != (seen.pixels[film.at(2, y - 1)].y > 3);
  }
  EXPECT_EQ(crossings, 6) << "three bands, each with two edges";
  EXPECT_EQ(banded(whole, film, weights, {{7, 0.5, 100.0}}, 0.03, 0).pixels[5].x, whole.pixels[5].x);
  // Never darker than dark.
  EXPECT_EQ(banded(whole, film, weights, {{0, 5.0, 100.0}}, 0.03, 0.005).pixels[0].x, 0.0f);
}

// Source: an exposure of time t leaves |sinc(f t)| of a swing at f (Bracewell, The Fourier Transform, the box
// function).
TEST(Bands, AreLeftByWhatTheShutterDoesNotEvenOut) {
  Json doc = wall();
  doc["kit"]["lights"] = {{{"id", "pulsed"}, {"lumens", 1000}, {"ripple", 0.4}},
                          {{"id", "other"}, {"lumens", 1000}, {"ripple", 0.2}, {"ripple_hz", 330.0}},
                          {{"id", "untold"}, {"lumens", 1000}}};
  for (const char* kit : {"pulsed", "other", "untold", "pulsed"}) {
    Json light = worlds::rectangle("l" + std::to_string(doc["setups"][0]["lights"].size()), {0, 1, 1}, {0, 0, 0},
                                   0.2, 0.2, 1000);
    light["kit"] = kit;
    doc["setups"][0]["lights"].push_back(light);
  }
  doc["setups"][0]["lights"][3]["on"] = false;
  doc["shots"][0]["camera"]["shutter_time"] = 1.0 / 60;
  const Project p = worlds::read(doc);
  const auto list = row_ripples(p, *p.shots[0]);
  ASSERT_EQ(list.size(), 2u) << "one is not told, one is off";
  const auto left = [](double hz, double depth) {
    const double c = pi * hz / 60;
    return depth * std::abs(std::sin(c) / c);
  };
  EXPECT_EQ(list[0].layer, 0u);
  EXPECT_NEAR(list[0].left, left(100, 0.4), 1e-9);
  EXPECT_NEAR(list[1].left, left(330, 0.2), 1e-9);
  EXPECT_EQ(list[1].hz, 330.0);
}

// Source: similar triangles: a card of 0.1 x 0.1 m half-way to a plane 0.684 m wide at 1 m takes 0.01 m2 of 0.342
// x 0.192 m.
TEST(StrayThings, AreToldWithTheirShareOfTheFrame) {
  Json doc = wall();
  doc["setups"][0]["cards"].push_back(worlds::card("c", {0.05, 0.05, 0.5}, {0.05, 0.05, 1.5}, 0.1, 0.1));
  doc["setups"][0]["gear"] = {{{"id", "box"},
                               {"name", "Case"},
                               {"place", {-0.1, 0.0, 0.5}},
                               {"size", {0.02, 0.05, 0.02}},
                               {"dressed", true}}};
  const Seen seen(doc);
  const cinnabar::Setup& setup = *seen.project.setups[0];
  const auto list = stray_things(seen.film, setup);
  ASSERT_EQ(list.size(), 1u) << "what is dressed belongs there";
  EXPECT_EQ(list[0].role, Role::card);
  EXPECT_EQ(list[0].thing, 0);
  EXPECT_NEAR(list[0].share, 0.01 / (0.342 * 0.1924), 0.01);
  doc["setups"][0]["gear"][0]["dressed"] = false;
  const Seen stray(doc);
  EXPECT_EQ(stray_things(stray.film, *stray.project.setups[0]).size(), 2u);
}

// Source: shares of a wall's luminance are shares of its illuminance: two lamps at the same
// place, one of three times the light of the other.
TEST(LayerShares, AreThoseOfTheLightThere) {
  Json doc = wall();
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 0.0}};
  for (const double lumens : {1000.0, 3000.0})
    doc["setups"][0]["lights"].push_back(
        worlds::rectangle("l" + std::to_string(lumens), {0.0, 1.5, 1.5}, {0, 0.5, -1.0}, 0.3, 0.3, lumens));
  doc["setups"][0]["lights"][1]["place"] = {0.0, 1.5, 1.5001};
  const Seen seen(doc);
  const auto shares = layer_shares(seen.film, layer_weights(*seen.world), Role::backdrop);
  ASSERT_GE(shares.size(), 3u);
  EXPECT_NEAR(shares[0] / shares[1], 1.0 / 3.0, 0.02);
  EXPECT_NEAR(shares[0] + shares[1] + shares[2], 1.0, 1e-9);
  EXPECT_TRUE(layer_shares(seen.film, layer_weights(*seen.world), Role::product).empty());
}

}  // namespace
}  // namespace cinnabar
