// The filter of few passes where print, foil and a coat lie over one another, and along outlines.
#include "cinnabar/render/filter.h"

#include <random>

#include "staging.h"

namespace cinnabar {
using worlds::staged;
namespace {

// Own behaviour: light that falls on print goes with it, what a coat mirrors and what foil gives do not; all three
// are known here, with noise of a tenth on what falls on it.
TEST(Filter, TellsWhatGoesWithPrintFromWhatLiesOverIt) {
  constexpr int w = 60, h = 40;
  Mesh label;
  label.picture = std::make_shared<const Picture>();
  const Rgb falls{2.0f, 2.0f, 2.0f}, mirrored{0.08f, 0.08f, 0.08f}, off_foil{3.0f, 2.6f, 1.5f};
  Film guide(w, h, 0);
  Picture noisy{w, h, {}}, clean{w, h, {}};
  std::mt19937 random(3);
  std::normal_distribution<float> noise(0.0f, 0.1f);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      // Orange ground, pale bars two pixels wide, and a line that is half foil.
      const Rgb print = x % 6 < 2 ? Rgb{0.8f, 0.75f, 0.65f} : Rgb{0.75f, 0.3f, 0.01f};
      const float foil = y % 8 == 3 ? 0.5f : 0.0f;
      guide.first[guide.at(x, y)] = {&label, {0, 0, 1}, print, print, 1, foil};
      const float more = 1.0f + noise(random);
      clean.pixels.push_back(falls * print * (1.0f - foil) + mirrored + off_foil * foil);
      noisy.pixels.push_back(falls * print * (more * (1.0f - foil)) + mirrored + off_foil * foil);
    }
  guide.passes = 16;
  const Picture smooth = filtered(noisy, guide, 3);
  double before = 0, after = 0, blue = 0, orange = 0;
  for (std::size_t p = 0; p < guide.pixels(); ++p) {
    const auto off = [&](const Picture& of) { return std::pow(of.pixels[p].x - clean.pixels[p].x, 2); };
    before += off(noisy), after += off(smooth);
    if (guide.first[p].albedo.z < 0.02f && guide.first[p].foil == 0.0f)
      blue += smooth.pixels[p].z - clean.pixels[p].z, ++orange;
  }
  EXPECT_LT(after, 0.25 * before);
  EXPECT_NEAR(blue / orange, 0.0, 0.02) << "of the 0.1 that is there, though pale bars beside it give 1.4";
}

// Source: coverage worked by hand: the sharp edge of a card across a picture leaves the middle column three tenths
// of it; out of 16 even looks the share is known to a sixteenth.
TEST(Outlines, AreSharedAsTheyCoverTheirPixels) {
  Json doc = worlds::bare();
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 1000}};
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 2}, {"width", 9},
      {"height", 9},    {"low", -4},     {"material", {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}}}};
  Json& camera = doc["shots"][0]["camera"];
  camera["place"] = {0, 0, 1}, camera["aim"] = {0, 0, 0}, camera["f_number"] = 64;
  camera["shutter_time"] = 0.001;
  const Project project = worlds::read(doc);
  const StagedCamera& lens = stage(project, *project.shots[0], 0.0).camera;
  const CameraPose pose = lens.middle_pose();
  constexpr int w = 31, h = 17;
  const double pixel =
      lens.optics.sensor_width / w / pose.image_distance();  // metres on the card's plane, 1 m off
  const double edge = (-0.5 + 0.3) * pixel;
  doc["setups"][0]["cards"].push_back(worlds::card("c", {edge - 1.0, 0, 0}, {edge - 1.0, 0, 1}, 2.0, 3.0,
                                                   {{"kind", "matte"}, {"colour", {0.9, 0.9, 0.9}}}));
  const auto world = staged(doc);
  const Tracer tracer(world);
  const Film film = worlds::rendered(tracer, w, h, 1, Caustics::by_photons);
  ASSERT_EQ(film.mixtures.size(), static_cast<std::size_t>(h)) << "one column, from top to bottom";
  for (const Mixture& m : film.mixtures) {
    EXPECT_EQ(m.pixel % w, w / 2);
    EXPECT_EQ(m.of[0]->role, Role::backdrop);
    EXPECT_EQ(m.of[1]->role, Role::card);
    EXPECT_NEAR(m.share[1], 0.3, 1.0 / 16);
    EXPECT_NEAR(m.share[0] + m.share[1], 1.0, 1e-6);
    EXPECT_EQ(m.share[2], 0.0f);
  }
  EXPECT_TRUE(worlds::rendered(tracer, w, h, 1).mixtures.empty()) << "levels ask for no outlines";
}

// Own behaviour: of one pass an outline is put together from what lies about it, of many its own samples are kept.
TEST(Outlines, AreBelievedTheMoreTheMorePassesThereAre) {
  constexpr int w = 9, h = 9;
  Mesh left, right;
  Film guide(w, h, 0);
  Picture picture{w, h, {}};
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      guide.first[guide.at(x, y)] = {x < 4 ? &left : &right, {0, 0, 1}, {0.5f, 0.5f, 0.5f}, {}, 1};
      picture.pixels.push_back(Rgb{1, 1, 1} * (x < 4 ? 1.0f : 5.0f));
    }
  const std::size_t middle = guide.at(4, 4);
  for (int y = 0; y < h; ++y)
    guide.mixtures.push_back(
        {static_cast<std::uint32_t>(guide.at(4, y)), {&right, &left, nullptr}, {0.75f, 0.25f, 0}});
  const auto shown = [&](int passes) {
    guide.passes = passes;
    return filtered(picture, guide, 3).pixels[middle].x;
  };
  constexpr double shared = 0.75 * 5 + 0.25 * 1, own = 5;
  EXPECT_LT(shown(1), own - 0.7 * (own - shared));
  EXPECT_GT(shown(64), own - 0.1 * (own - shared));
  const Mesh unseen;
  guide.mixtures[4].of[1] = &unseen;  // nothing about it shows that alone
  EXPECT_EQ(shown(1), 5.0f);
}

}  // namespace
}  // namespace cinnabar
