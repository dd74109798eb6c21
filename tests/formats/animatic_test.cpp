// Films read back by the library that players use: pictures, rate, sound; and the spot as a film.
#include "cinnabar/formats/animatic.h"

#include <cmath>
#include <filesystem>
#include <fstream>
#include <functional>

#include "cinnabar/formats/video.h"
#include "film_reader.h"
#include "worlds.h"

namespace cinnabar {
namespace {

namespace fs = std::filesystem;

class FilmTest : public testing::Test {
 protected:
  void SetUp() override {
    std::string name = (fs::temp_directory_path() / "cinnabar-film-XXXXXX").string();
    folder_ = ::mkdtemp(name.data());
  }
  void TearDown() override { fs::remove_all(folder_); }
  [[nodiscard]] std::string at(const std::string& name) const { return (folder_ / name).string(); }
  fs::path folder_;
};

/// A ramp across, brighter from picture to picture.
std::vector<std::uint8_t> ramp(int width, int height, int k) {
  std::vector<std::uint8_t> rgb;
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      rgb.push_back(static_cast<std::uint8_t>(20 + 150 * x / width + 5 * k));
      rgb.push_back(static_cast<std::uint8_t>(40 + 120 * y / height + 5 * k));
      rgb.push_back(static_cast<std::uint8_t>(90));
    }
  return rgb;
}

struct FilmKind {
  const char* name;
  double rate;
  int num, den;
};
class FilmOf : public FilmTest, public testing::WithParamInterface<FilmKind> {};
// Own behaviour, read back with libav: every picture at its rate, within 3 of 255 in the mean; a second of a tone
// is a second long, and as strong within a tenth.
TEST_P(FilmOf, PicturesAndSoundComeBack) {
  const FilmKind& kind = GetParam();
  auto video = Video::begin(at(kind.name), {160, 90, kind.rate, 48000});
  ASSERT_TRUE(video) << video.error().text();
  const int count = 12;
  std::vector<float> tone(48000);
  for (std::size_t i = 0; i < tone.size(); ++i)
    tone[i] = 0.5f * static_cast<float>(std::sin(2 * pi * 1000.0 * static_cast<double>(i) / 48000));
  for (int k = 0; k < count; ++k) ASSERT_TRUE(video->add_picture(ramp(160, 90, k)));
  for (std::size_t i = 0; i < tone.size(); i += 1000)
    ASSERT_TRUE(video->add_sound(std::span(tone).subspan(i, 1000)));
  EXPECT_FALSE(fs::exists(at(kind.name))) << "put in its place when it is whole";
  const auto kept = video->keep();
  ASSERT_TRUE(kept) << kept.error().text();
  const auto film = film_reader::read(at(kind.name));
  EXPECT_EQ(film.width, 160);
  EXPECT_EQ(film.height, 90);
  EXPECT_NEAR(av_q2d(film.rate), static_cast<double>(kind.num) / kind.den, 0.01);
  ASSERT_EQ(film.pictures.size(), static_cast<std::size_t>(count));
  for (int k = 0; k < count; ++k)
    EXPECT_LT(film_reader::apart(film.pictures[static_cast<std::size_t>(k)], ramp(160, 90, k)), 3.0) << k;
  EXPECT_EQ(film.sound_rate, 48000);
  EXPECT_NEAR(static_cast<double>(film.sound.size()), 48000.0, 2100.0)
      << "whole frames of the encoder, and its delay";
  double square = 0;
  for (std::size_t i = 12000; i < 36000; ++i) square += film.sound[i] * film.sound[i];
  EXPECT_NEAR(std::sqrt(square / 24000), 0.5 / std::sqrt(2.0), 0.035);
}
INSTANTIATE_TEST_SUITE_P(Kinds, FilmOf,
                         testing::Values(FilmKind{"a.mp4", 24, 24, 1},
                                         FilmKind{"b.mp4", 24000.0 / 1001, 24000, 1001},
                                         FilmKind{"c.mp4", 60, 60, 1}, FilmKind{"d.webm", 25, 25, 1}));

// Own behaviour: what cannot be is said before anything is made.
TEST_F(FilmTest, RefusesNamesSizesAndFoldersThatWillNotDo) {
  EXPECT_NE(Video::begin(at("a.avi"), {}).error().text().find(".mp4 or .webm"), std::string::npos);
  EXPECT_NE(Video::begin(at("a.mp4"), {.width = 161, .height = 90}).error().text().find("even"),
            std::string::npos);
  EXPECT_FALSE(Video::begin(at("a.mp4"), {.width = 160, .height = 90, .rate = std::nan("")}));
  EXPECT_FALSE(Video::begin("/no/such/folder/a.mp4", {}));
  auto video = Video::begin(at("a.mp4"), {.width = 160, .height = 90});
  ASSERT_TRUE(video);
  EXPECT_FALSE(video->add_picture(std::vector<std::uint8_t>(12)));
  std::ofstream(at("b.mp4")) << "mine";
  { auto dropped = Video::begin(at("b.mp4"), {.width = 160, .height = 90}); }
  std::ifstream in(at("b.mp4"));
  EXPECT_EQ(std::string(std::istreambuf_iterator<char>(in), {}), "mine") << "left as it was";
}

/// A can under a lamp, for 0.4 s at 25: ten pictures, in which it turns.
Json turning_can() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, worlds::matte(0.5, 0.2, 0.1), true);
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.5, 0.6, 0.8}, {0, 0.05, 0}, 0.4, 0.4, 3000));
  doc["shots"][0]["screen_time"] = 0.4;
  doc["shots"][0]["tracks"] =
      Json::array({{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, -40}, {0.4, 40}}}}});
  return doc;
}

// By hand: 2 s at half speed, recorded at 100: the picture at k / 25 s shows the set at floor(100 k / 50) / 100 s.
TEST(AnimaticFrame, IsTheFrameThatTheCameraRecords) {
  Json doc = turning_can();
  doc["shots"][0]["screen_time"] = 2.0;
  doc["shots"][0]["play"] = {{0, 0.5}};
  doc["shots"][0]["camera"]["mode"] = "m100";
  Json second = doc["shots"][0];
  second["id"] = "s2", second["play"] = {{0, 1.0}}, second["camera"]["mode"] = "m25";
  doc["shots"].push_back(second);
  const Project project = worlds::read(doc);
  for (const long k : {0L, 1L, 7L, 49L}) {
    const auto frame = animatic_frame(project, {}, k);
    ASSERT_TRUE(frame) << k;
    EXPECT_EQ(frame->shot, 0u);
    EXPECT_NEAR(frame->set, 0.02 * static_cast<double>(k), 1e-9) << k;
  }
  const auto next = animatic_frame(project, {}, 53);
  ASSERT_TRUE(next);
  EXPECT_EQ(next->shot, 1u);
  EXPECT_NEAR(next->set, 0.12, 1e-9);
  EXPECT_FALSE(animatic_frame(project, {}, 100));
  EXPECT_FALSE(animatic_frame(project, {.shot = 1}, 50));
  EXPECT_FALSE(animatic_frame(project, {}, -1));
  // Shown at another rate, it is what is recorded nearest before.
  const auto thirty = animatic_frame(project, {.rate = 30.0, .shot = 1}, 1);
  ASSERT_TRUE(thirty);
  EXPECT_NEAR(thirty->set, 0.0, 1e-9) << "1/30 s falls into the first frame of 25";
}

// By hand: of 2 s recorded at 25, fifty frames, the last first: the picture at k / 25 s shows frame 49 - k.
TEST(AnimaticFrame, OfAShotThatPlaysBackwardComesFromItsEnd) {
  Json doc = turning_can();
  doc["shots"][0]["screen_time"] = 2.0;
  doc["shots"][0]["reversed"] = true;
  const Project project = worlds::read(doc);
  EXPECT_NEAR(project.shots[0]->set_time(), 2.0, 1e-12);
  for (const long k : {0L, 1L, 20L, 49L}) {
    const auto frame = animatic_frame(project, {}, k);
    ASSERT_TRUE(frame) << k;
    EXPECT_NEAR(frame->set, (49.0 - static_cast<double>(k)) / 25.0, 1e-9) << k;
  }
}

// Own behaviour.
TEST_F(FilmTest, TheSpotIsFilmedStoppedAndGoneOnWith) {
  const Project project = worlds::read(turning_can());
  std::atomic<bool> stop{false};
  AnimaticOptions options{.width = 64, .height = 36, .passes = 1, .of = "one"};
  options.cancel = &stop;
  options.progress = [&](long done, long) { stop = done == 4; };
  const auto stopped = write_animatic(project, at("spot.mp4"), options);
  ASSERT_FALSE(stopped);
  EXPECT_NE(stopped.error().text().find("goes on from there"), std::string::npos) << stopped.error().text();
  EXPECT_FALSE(fs::exists(at("spot.mp4")));
  EXPECT_TRUE(fs::exists(folder_ / "spot.mp4.frames" / "000003.png"));
  options.progress = {};
  stop = false;
  const auto made = write_animatic(project, at("spot.mp4"), options);
  ASSERT_TRUE(made) << made.error().text();
  EXPECT_EQ(made->frames, 10);
  EXPECT_EQ(made->traced, 6) << "four were kept";
  EXPECT_FALSE(fs::exists(at("spot.mp4.frames"))) << "tidied";
  const auto film = film_reader::read(at("spot.mp4"));
  ASSERT_EQ(film.pictures.size(), 10u);
  EXPECT_EQ(film.width, 64);
  EXPECT_GT(film_reader::apart(film.pictures.front(), film.pictures.back()), 0.5) << "its label comes round";
  double loudest = 0;
  for (const float sample : film.sound) loudest = std::max(loudest, std::abs(static_cast<double>(sample)));
  EXPECT_GT(loudest, 0.1) << "the cut is heard";
  // Of another project nothing is gone on from.
  stop = false;
  options.progress = [&](long done, long) { stop = done == 4; };
  ASSERT_FALSE(write_animatic(project, at("spot.mp4"), options));
  options.progress = {}, options.of = "another", stop = false;
  const auto other = write_animatic(project, at("spot.mp4"), options);
  ASSERT_TRUE(other);
  EXPECT_EQ(other->traced, 10);
}

// Own behaviour: a tall film shows the middle of what is recorded, a crop what is left of it: the can is larger.
TEST_F(FilmTest, ShapesAndCropsAreCutFromTheRecording) {
  Json doc = turning_can();
  const auto reddish = [&](const Json& of, int width, int height) {
    const Project project = worlds::read(of);
    EXPECT_TRUE(
        write_animatic(project, at("cut.mp4"), {.width = width, .height = height, .shot = 0, .passes = 1}));
    const auto film = film_reader::read(at("cut.mp4"));
    int count = 0;
    for (std::size_t i = 0; i + 2 < film.pictures[0].size(); i += 3)
      count += film.pictures[0][i] > film.pictures[0][i + 2] + 10 ? 1 : 0;
    return static_cast<double>(count) / (width * height);
  };
  const double wide = reddish(doc, 128, 72), tall = reddish(doc, 72, 128);
  EXPECT_GT(wide, 0.005);
  EXPECT_NEAR(tall / wide, (16.0 / 9) / (9.0 / 16), 0.4) << "full height, so much narrower";
  doc["shots"][0]["tracks"].push_back(
      {{"target", "crop"}, {"profile", "linear"}, {"keys", {{0, {0.25, 0.25, 0.5}}, {0.4, {0.25, 0.25, 0.5}}}}});
  EXPECT_NEAR(reddish(doc, 128, 72) / wide, 4.0, 0.5) << "half of it across and down";
}

/// Of what is reddish in a film's first picture: how wide and high it is, and how far down its middle lies, in
/// shares.
struct Reddish {
  double wide = 0, high = 0, down = 0;
};
Reddish reddish_of(const film_reader::Film& film) {
  int left = 1 << 20, right = -1, top = 1 << 20, bottom = -1;
  for (int y = 0; y < film.height; ++y)
    for (int x = 0; x < film.width; ++x) {
      const auto* pixel = &film.pictures.at(0)[3 * static_cast<std::size_t>(y * film.width + x)];
      if (pixel[0] <= pixel[2] + 14) continue;
      left = std::min(left, x), right = std::max(right, x), top = std::min(top, y), bottom = std::max(bottom, y);
    }
  EXPECT_GE(right, left) << "nothing is seen of it";
  return {static_cast<double>(right - left + 1) / film.width, static_cast<double>(bottom - top + 1) / film.height,
          0.5 * (top + bottom) / film.height};
}

// By hand: a can of 100 x 80 mm, aimed at over its top: it stands upright in the lower half, whichever side the
// camera lies on, and fills a tall picture as much more as its long side is longer.
TEST_F(FilmTest, ACameraOnItsSideIsLookedAtUpright) {
  for (const double roll : {0.0, 90.0, -90.0}) {
    Json doc = turning_can();
    doc["shots"][0]["tracks"] = Json::array();
    doc["products"][0].erase("label");
    doc["shots"][0]["camera"]["place"] = {0, 0.12, 0.8}, doc["shots"][0]["camera"]["aim"] = {0, 0.12, 0};
    doc["shots"][0]["camera"]["roll_deg"] = roll;
    const Project project = worlds::read(doc);
    const std::string path = at("roll.mp4");
    ASSERT_TRUE(write_animatic(project, path, {.width = 144, .height = 256, .shot = 0, .passes = 2}));
    const auto film = film_reader::read(path);
    const Reddish can = reddish_of(film);
    EXPECT_NEAR(can.high * 256 / (can.wide * 144), 1.25, 0.25) << roll;
    EXPECT_GT(can.down, 0.5) << roll << ": under the middle";
    // On its side the sensor's 36 mm stand upright, else its 20.25: the can is so much smaller or larger.
    const double upright = roll == 0.0 ? 0.02025 : 0.036, image = 0.05 * 1.0 / (1.0 - 0.05);
    EXPECT_NEAR(can.high, 0.1 * image / 0.76 / upright, 0.15 * can.high) << roll;
  }
}

struct OddFilm {
  const char* name;
  std::function<void(Json&)> change;
  bool dark;
};
class OddFilms : public FilmTest, public testing::WithParamInterface<OddFilm> {};
// Own behaviour: every picture of set-ups that the example does not have, and nothing made up in the dark.
TEST_P(OddFilms, HaveAllTheirPictures) {
  Json doc = turning_can();
  GetParam().change(doc);
  const Project project = worlds::read(doc);
  long pictures = 0;
  for (const auto& [width, height] : {std::pair{96, 54}, std::pair{54, 96}}) {
    const auto made =
        write_animatic(project, at("odd.webm"), {.width = width, .height = height, .shot = 0, .passes = 1});
    ASSERT_TRUE(made) << made.error().text();
    const auto film = film_reader::read(at("odd.webm"));
    pictures = static_cast<long>(film.pictures.size());
    EXPECT_EQ(pictures, made->frames);
    EXPECT_EQ(pictures, std::lround(project.shots[0]->screen_time * 25));
    for (const auto& picture : film.pictures) {
      const int brightest = *std::max_element(picture.begin(), picture.end());
      EXPECT_EQ(brightest < 30, GetParam().dark) << brightest;
    }
  }
}
INSTANTIATE_TEST_SUITE_P(
    Odd, OddFilms,
    testing::Values(OddFilm{"looking_down",
                            [](Json& d) {
                              d["shots"][0]["camera"]["place"] = {0, 0.9, 0.01};
                            },
                            false},
                    OddFilm{"away_from_the_origin",
                            [](Json& d) {
                              d["shots"][0]["products"][0]["place"] = {0.4, 0, -0.3};
                              d["shots"][0]["tracks"] = Json::array();  // a table would carry it out of sight
                              d["shots"][0]["camera"]["place"] = {0.4, 0.1, 0.5},
                              d["shots"][0]["camera"]["aim"] = {0.4, 0.05, -0.3};
                            },
                            false},
                    OddFilm{"twenty_lights",
                            [](Json& d) {
                              for (int k = 0; k < 19; ++k)
                                d["setups"][0]["lights"].push_back(
                                    worlds::rectangle("l" + std::to_string(k), {std::cos(k), 0.7, std::sin(k)},
                                                      {0, 0, 0}, 0.1, 0.1, 200));
                            },
                            false},
                    OddFilm{"lights_off", [](Json& d) { d["setups"][0]["lights"][0]["on"] = false; }, true},
                    OddFilm{"ramped_and_backward",
                            [](Json& d) {
                              d["shots"][0]["play"] = {{0, 1.0}, {0.2, 0.4}}, d["shots"][0]["reversed"] = true;
                              d["shots"][0]["camera"]["mode"] = "m100";
                            },
                            false}),
    [](const auto& odd) { return std::string(odd.param.name); });

// Own behaviour.
TEST_F(FilmTest, WhatCannotBeFilmedSaysWhy) {
  Json doc = worlds::bare();
  doc["shots"] = Json::array();
  EXPECT_NE(write_animatic(worlds::read(doc), at("a.mp4"), {}).error().text().find("no shots"), std::string::npos);
  doc = turning_can();
  doc["shots"][0].erase("camera");
  EXPECT_NE(write_animatic(worlds::read(doc), at("a.mp4"), {}).error().text().find("camera"), std::string::npos);
  EXPECT_FALSE(write_animatic(worlds::read(turning_can()), at("a.mp4"), {.passes = 0}));
  EXPECT_FALSE(write_animatic(worlds::read(turning_can()), at("a.mov"), {}));
  EXPECT_TRUE(fs::is_empty(folder_));
}

}  // namespace
}  // namespace cinnabar
