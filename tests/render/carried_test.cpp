// What is carried on from frame to frame of a film: calmer than a frame alone, and no ghosts of what has moved.
#include "cinnabar/render/carried.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/color/white.h"
#include "cinnabar/render/filter.h"
#include "staging.h"

namespace cinnabar {
namespace {

constexpr int frame_wide = 160, frame_high = 90;

Json lit_can() {
  Json doc = worlds::with_tracks({});
  worlds::add_cylinder(doc, worlds::matte(0.5, 0.4, 0.3));
  doc["setups"][0]["surface"] = {{"width", 2}, {"depth", 2}, {"material", worlds::matte(0.4, 0.4, 0.4)}};
  doc["setups"][0]["lights"] = {worlds::rectangle("key", {0.6, 0.7, 0.6}, {0, 0.05, 0}, 0.6, 0.6, 4000),
                                worlds::rectangle("side", {-0.8, 0.3, 0.2}, {0, 0.05, 0}, 0.3, 0.6, 2000)};
  return doc;
}

/// One frame of a pass at a set time, its samples going on from `carried`.
struct Alone {
  std::shared_ptr<const StagedWorld> world;
  std::unique_ptr<Tracer> tracer;
  Film film;
  Picture picture;
  std::vector<char> traced;  ///< where some are left to the frames before
};
Alone frame_at(const Json& doc, double t, int begins, int passes = 1, CarriedLight* by = nullptr) {
  Alone out;
  out.world = worlds::staged(doc, t);
  out.tracer = std::make_unique<Tracer>(out.world);
  out.film = out.tracer->film(frame_wide, frame_high, Caustics::by_photons);
  out.film.begins = begins;
  if (by) {
    out.tracer->look(out.film);
    out.traced = by->to_trace(out.film, *out.world);
  }
  for (int k = 0; k < passes; ++k)
    EXPECT_TRUE(out.tracer->add_pass(out.film, nullptr, nullptr, by ? &out.traced : nullptr));
  out.picture = mixed(out.film, layer_weights(*out.world));
  return out;
}

/// Root mean square of the differences of luminances, over the mean of the second; within bodies, since a pass
/// sees one side of an outline or the other.
double off(const Picture& a, const Picture& b, const Film& film) {
  double sum = 0, all = 0, n = 0;
  for (int y = 1; y + 1 < film.height; ++y)
    for (int x = 1; x + 1 < film.width; ++x) {
      const std::size_t at = film.at(x, y);
      bool inside = true;
      for (int j = -1; j <= 1; ++j)
        for (int i = -1; i <= 1; ++i)
          inside = inside && film.first[film.at(x + i, y + j)].mesh == film.first[at].mesh;
      if (!inside) continue;
      const double d = luminance(a.pixels[at]) - luminance(b.pixels[at]);
      sum += d * d, all += luminance(b.pixels[at]), n += 1;
    }
  return std::sqrt(sum / n) / (all / n);
}
double mean(const Picture& a) {
  double all = 0;
  for (const Rgb& c : a.pixels) all += luminance(c);
  return all / static_cast<double>(a.pixels.size());
}

/// So many frames, a 24th of a second apart from `from` on: the last alone, as carried, and closely; and as
/// carried where some pixels are not traced, and which share of them.
struct Last {
  double alone, carried, brightness, by_turns, left_out, brightness_by_turns;
};
Last after(const Json& doc, int frames, double from = 0.0, double apart = 1.0 / 24) {
  CarriedLight carried, turns;
  Picture calm, less;
  Alone last, some;
  for (int k = 0; k < frames; ++k) {
    last = frame_at(doc, from + k * apart, carried.passes());
    calm = carried.with(last.picture, last.film, *last.world);
    some = frame_at(doc, from + k * apart, turns.passes(), 1, &turns);
    less = turns.with(some.picture, some.film, *some.world, &some.traced);
  }
  const Alone close = frame_at(doc, from + (frames - 1) * apart, 1000, 128);
  const auto left_out = static_cast<double>(std::ranges::count(some.traced, 0));
  return {off(last.picture, close.picture, close.film),
          off(calm, close.picture, close.film),
          mean(calm) / mean(close.picture),
          off(less, close.picture, close.film),
          left_out / static_cast<double>(close.film.pixels()),
          mean(less) / mean(close.picture)};
}

// Own behaviour, against 128 passes: what stands still comes to less than half of a frame's own noise, in its mean
// within 1 %; a first frame is as it was.
TEST(CarriedLight, CalmsWhatStands) {
  const Last still = after(lit_can(), 12);
  EXPECT_LT(still.carried, 0.5 * still.alone);
  EXPECT_NEAR(still.brightness, 1.0, 0.01);
  EXPECT_NEAR(still.brightness_by_turns, 1.0, 0.01);
  CarriedLight carried;
  const Alone first = frame_at(lit_can(), 0, 0);
  EXPECT_NEAR(off(carried.with(first.picture, first.film, *first.world), first.picture, first.film), 0.0, 0.05)
      << "but for single bright dots";
  EXPECT_EQ(carried.passes(), 1);
}

// Own behaviour, against 128 passes: along outlines, where a pass sees one side or the other, frames that go on
// from one another come to less than two thirds of a frame's own error.
TEST(CarriedLight, SmoothsOutlines) {
  CarriedLight carried;
  Picture out;
  Alone last;
  for (int k = 0; k < 16; ++k) {
    last = frame_at(lit_can(), 0, carried.passes());
    const Picture calm = carried.with(last.picture, last.film, *last.world);
    out = carried.outlined(filtered(calm, last.film, 3, &carried.noise_left()), last.film);
  }
  const Alone close = frame_at(lit_can(), 0, 1000, 128);
  const Picture plain = filtered(last.picture, last.film, 3);
  double own = 0, smooth = 0;
  for (int y = 1; y + 1 < frame_high; ++y)
    for (int x = 1; x + 1 < frame_wide; ++x) {
      const std::size_t at = close.film.at(x, y);
      if (close.film.first[at].mesh == close.film.first[at + 1].mesh) continue;
      const double is = luminance(close.picture.pixels[at]);
      own += std::pow(luminance(plain.pixels[at]) - is, 2), smooth += std::pow(luminance(out.pixels[at]) - is, 2);
    }
  EXPECT_LT(std::sqrt(smooth), 0.667 * std::sqrt(own));
}

struct MovedCase {
  const char* name;
  const char* target;
  Json keys;
  void (*change)(Json& doc) = [](Json&) {};
};
class CarriedAlong : public testing::TestWithParam<MovedCase> {};
// Own behaviour, against 128 passes: whatever moves, a frame comes to two thirds of its own error, and is as
// bright as it should be or was two frames before (a lamp that dims in two seconds loses 2.5 % a frame).
TEST_P(CarriedAlong, IsCalmerAndKeepsItsBrightness) {
  Json doc = lit_can();
  doc["shots"][0]["tracks"] = Json::array({worlds::moving(GetParam().target, "linear", GetParam().keys)});
  GetParam().change(doc);
  const Last moved = after(doc, 12, 0.5);
  EXPECT_LT(moved.carried, 0.667 * moved.alone);
  EXPECT_NEAR(moved.brightness, 1.0, 0.05);
  // Every other pixel of what stands in the room left to the frame before: seldom seen.
  EXPECT_GT(moved.left_out, 0.1);
  EXPECT_LT(moved.by_turns, 1.2 * moved.carried);
  EXPECT_NEAR(moved.brightness_by_turns, 1.0, 0.05);
}
INSTANTIATE_TEST_SUITE_P(
    Moves, CarriedAlong,
    testing::Values(MovedCase{"slide", "camera.slide", {{0, 0.0}, {2, 0.2}}},
                    MovedCase{"looks_down", "camera.place", {{0, {0.1, 0.9, 0.1}}, {2, {0, 0.7, 0.1}}}},
                    MovedCase{"rolled", "camera.roll", {{0, 0.0}, {2, 90.0}}},
                    MovedCase{"turntable", "turntable", {{0, 0.0}, {2, 180.0}}},
                    MovedCase{"carried", "product.can.place", {{0, {-0.1, 0, 0}}, {2, {0.2, 0, 0}}}},
                    MovedCase{"dimmed", "light.key.dimmer", {{0, 1.0}, {2, 0.1}}},
                    MovedCase{"swung", "light.key.place", {{0, {0.9, 0.7, 0.6}}, {2, {-0.9, 0.7, 0.6}}}},
                    MovedCase{"away_in_a_tall_frame",
                              "camera.slide",
                              {{0, 0.0}, {2, 0.2}},
                              [](Json& doc) {
                                doc["shots"][0]["products"][0]["place"] = {0.3, 0, -0.2};
                                doc["shots"][0]["camera"]["place"] = {0.3, 0.3, 0.8};
                                doc["shots"][0]["camera"]["aim"] = {0.3, 0.05, -0.2};
                                doc["shots"][0]["camera"]["roll_deg"] = 90;
                              }},
                    MovedCase{"twenty_lights",
                              "turntable",
                              {{0, 0.0}, {2, 90.0}},
                              [](Json& doc) {
                                for (int i = 0; i < 18; ++i)
                                  doc["setups"][0]["lights"].push_back(worlds::rectangle(
                                      "l" + std::to_string(i), {0.9 * std::cos(i), 0.5, 0.9 * std::sin(i)},
                                      {0, 0.05, 0}, 0.1, 0.1, 60));
                              }},
                    MovedCase{"by_the_room_alone",
                              "camera.slide",
                              {{0, 0.0}, {2, 0.2}},
                              [](Json& doc) {
                                doc["setups"][0]["lights"] = Json::array();
                                doc["setups"][0]["ambient"] = {{"illuminance_lx", 200}, {"kelvin", 4000}};
                              }}),
    [](const auto& p) { return std::string(p.param.name); });

// Own behaviour: a lamp that goes out at once is gone a few frames later, and another picture's size goes on too.
TEST(CarriedLight, LetsGoOfWhatIsOver) {
  Json doc = lit_can(), dark = doc;
  dark["setups"][0]["lights"][0]["on"] = false;
  CarriedLight carried;
  for (int k = 0; k < 8; ++k) {
    const Alone frame = frame_at(doc, 0, carried.passes());
    (void)carried.with(frame.picture, frame.film, *frame.world);
  }
  Picture calm;
  for (int k = 0; k < 4; ++k) {
    const Alone frame = frame_at(dark, 0, carried.passes());
    calm = carried.with(frame.picture, frame.film, *frame.world);
  }
  EXPECT_NEAR(mean(calm) / mean(frame_at(dark, 0, 1000, 64).picture), 1.0, 0.1);
  Tracer tracer(worlds::staged(dark));
  Film small = tracer.film(80, 45, Caustics::by_photons);
  ASSERT_TRUE(tracer.add_pass(small));
  (void)carried.with(mixed(small, layer_weights(tracer.world())), small, tracer.world());
  EXPECT_LT(*std::min_element(carried.noise_left().begin(), carried.noise_left().end()), 0.5f);
  carried.forget();
  (void)carried.with(mixed(small, layer_weights(tracer.world())), small, tracer.world());
  EXPECT_EQ(*std::min_element(carried.noise_left().begin(), carried.noise_left().end()), 1.0f);
}

}  // namespace
}  // namespace cinnabar
