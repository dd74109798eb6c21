// Modes against what the shots want, worked by hand, and the best of them against trying all.
#include "cinnabar/planning/modes.h"

#include <cmath>
#include <limits>
#include <random>

#include "worlds.h"

namespace cinnabar {
namespace {

Json mode(const char* id, int width, int height, const char* rate, double megabits = 0, bool autofocus = true) {
  return {{"id", id},
          {"width", width},
          {"height", height},
          {"rate", rate},
          {"crop", 1.5},
          {"megabits_per_s", megabits},
          {"autofocus", autofocus}};
}
Json spot(const std::vector<double>& slow) {
  Json d = worlds::bare();
  const Json shot = d["shots"][0];
  d["shots"] = Json::array();
  for (std::size_t k = 0; k < slow.size(); ++k) {
    Json one = shot;
    one["id"] = "s" + std::to_string(k);
    if (slow[k] > 1) one["needs"]["slow"] = slow[k];
    d["shots"].push_back(one);
  }
  d["kit"]["cameras"][0]["modes"] = {mode("m25", 3840, 2160, "25", 100), mode("m100", 1920, 1080, "100", 200),
                                     mode("small", 1280, 720, "200", 100)};
  return d;
}

// Own behaviour, worked by hand: at 25 a second, slowed four times is 100; 1920 x 1080 is delivered.
TEST(Modes, SayWhatEachShotLacksAndWhatSlowingCosts) {
  const Project p = worlds::read(spot(std::vector<double>{1, 4}));
  const ModeTable table = mode_table(p);
  ASSERT_EQ(table.rows.size(), 3u);
  EXPECT_TRUE(table.rows[0].fits[0].lacks.empty());
  ASSERT_EQ(table.rows[0].fits[1].lacks.size(), 1u);
  EXPECT_EQ(table.rows[0].fits[1].lacks[0], "25 frames a second, 100 needed");
  EXPECT_TRUE(table.rows[1].fits[1].lacks.empty());
  ASSERT_EQ(table.rows[2].fits[0].lacks.size(), 1u) << "too few pixels";
  EXPECT_NEAR(table.rows[1].slowed, 0.25, 1e-12);
  Json conformed = spot(std::vector<double>{1, 4});
  conformed["project"]["timeline_rate"] = "24000/1001";
  EXPECT_NEAR(mode_table(worlds::read(conformed)).rows[1].slowed, 0.24, 1e-12)
      << "as 24 is in 100 (SMPTE ST 12-1)";
  EXPECT_NEAR(table.rows[1].light_stops, 2.0, 1e-12) << "log2(100 / 25) at the same angle";
  EXPECT_EQ(table.used[0], 0u);
  EXPECT_EQ(table.best[0], 0u);
  EXPECT_EQ(table.best[1], 1u);
  EXPECT_EQ(table.changes, 0);
  EXPECT_EQ(table.best_changes, 1);
}

// Own behaviour, worked by hand: half the sensor's width shows what twice the focal length would on the whole one.
TEST(Modes, SayWhatALensLooksLikeOnTheShotsOwnSensor) {
  Json d = spot(std::vector<double>{1});
  Json small = d["kit"]["cameras"][0];
  small["id"] = "small", small["sensor_width"] = 0.018;
  d["kit"]["cameras"].push_back(small);
  const Project p = worlds::read(d);
  const ModeTable table = mode_table(p);
  EXPECT_NEAR(*looks_like(p, *p.shots[0], table.rows[0]), 0.05 * 1.5, 1e-12) << "cropped";
  EXPECT_NEAR(*looks_like(p, *p.shots[0], table.rows[3]), 0.05 * 1.5 * 2, 1e-12) << "and on half the width";
  d["shots"][0].erase("camera");
  const Project none = worlds::read(d);
  EXPECT_FALSE(looks_like(none, *none.shots[0], table.rows[0]));
}

// Own behaviour, worked by hand: played at 30 % from a second on, 25 frames a second on screen want 83.3 recorded.
TEST(Modes, AskForAFrameWhereAShotPlaysSlowest) {
  Json d = spot(std::vector<double>{1});
  d["shots"][0]["play"] = {{0.0, 1.0}, {0.5, 1.0}, {1.0, 0.3}};
  const Project p = worlds::read(d);
  const ModeTable table = mode_table(p);
  ASSERT_EQ(table.rows[0].fits[0].lacks.size(), 1u);
  EXPECT_EQ(table.rows[0].fits[0].lacks[0], "83.3333 frames a second where it plays slowest, it gives 25");
  EXPECT_TRUE(table.rows[1].fits[0].lacks.empty());
  EXPECT_EQ(table.best[0], 1u);
  EXPECT_TRUE(mode_fit(p, *p.shots[0], *table.rows[0].mode).lacks.empty())
      << "the level camera.mode asks as it did";
}

// Own behaviour: autofocus is asked for by its house rule alone; a borrowed camera that is not used is no row.
TEST(Modes, AskForAutofocusOnlyWhereTheRuleDoesAndShowWhatIsOwned) {
  Json d = spot(std::vector<double>{1});
  d["kit"]["cameras"][0]["modes"] = Json::array({mode("m25", 1920, 1080, "25", 100, false)});
  Json other = d["kit"]["cameras"][0];
  other["id"] = "lent", other["owned"] = false;
  d["kit"]["cameras"].push_back(other);
  d["house_rules"]["focus"] = "autofocus-locked";
  ModeTable table = mode_table(worlds::read(d));
  ASSERT_EQ(table.rows.size(), 1u);
  ASSERT_EQ(table.rows[0].fits[0].lacks.size(), 1u);
  EXPECT_EQ(table.rows[0].fits[0].lacks[0], "autofocus");
  d["house_rules"]["focus"] = "marks";
  const Project manual = worlds::read(d);
  EXPECT_TRUE(mode_table(manual).rows[0].fits[0].lacks.empty());
  d["shots"][0]["camera"]["camera"] = "lent";
  const Project lent = worlds::read(d);
  EXPECT_EQ(mode_table(lent).rows.size(), 2u) << "but one that is used is";
  d["shots"][0].erase("camera");
  d["kit"]["cameras"] = Json::array();
  const Project none = worlds::read(d);
  EXPECT_TRUE(mode_table(none).rows.empty());
  EXPECT_FALSE(mode_table(none).best[0]);
}

// Own behaviour, against trying every choice: lacks first, then light, a change for a third of a stop.
TEST(Modes, TheBestCostNoMoreThanAnyOtherChoice) {
  std::mt19937 random(7);
  for (int trial = 0; trial < 200; ++trial) {
    std::vector<double> slow;
    for (int k = 0; k < 5; ++k) slow.push_back(std::array{1.0, 2.0, 4.0, 1.2}[random() % 4]);
    Json d = spot(slow);
    const char* rates[] = {"25", "30", "50", "60", "100"};
    d["kit"]["cameras"][0]["modes"] = Json::array();
    for (int m = 0; m < 4; ++m)
      d["kit"]["cameras"][0]["modes"].push_back(mode(("m" + std::to_string(m)).c_str(), random() % 4 ? 3840 : 1280,
                                                     random() % 4 ? 2160 : 720, rates[random() % 5]));
    for (Json& shot : d["shots"]) shot["camera"]["mode"] = "m0";
    const Project p = worlds::read(d);
    const ModeTable table = mode_table(p);
    const auto cost = [&](const std::array<std::size_t, 5>& rows) {
      double sum = 0;
      for (std::size_t s = 0; s < 5; ++s) {
        sum += 100.0 * static_cast<double>(table.rows[rows[s]].fits[s].lacks.size()) +
               table.rows[rows[s]].light_stops;
        if (s > 0 && rows[s] != rows[s - 1]) sum += 1.0 / 3.0;
      }
      return sum;
    };
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t code = 0; code < 1024; ++code)
      least = std::min(least, cost({code % 4, code / 4 % 4, code / 16 % 4, code / 64 % 4, code / 256}));
    std::array<std::size_t, 5> best{};
    for (std::size_t s = 0; s < 5; ++s) best[s] = *table.best[s];
    EXPECT_NEAR(cost(best), least, 1e-9) << trial;
  }
}

}  // namespace
}  // namespace cinnabar
