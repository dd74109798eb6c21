// Cue tracks read back by the library that others read them with: their length, and on which sample each mark
// begins.
#include "cinnabar/formats/cue_track.h"

#include <sndfile.h>
#include <unistd.h>

#include <cmath>
#include <filesystem>

#include "worlds.h"

namespace cinnabar {
namespace {

namespace fs = std::filesystem;

/// At 120 beats a minute, two seconds at real time, with a track whose keys lie at its start and at 0.7 s.
Json shot_with(const Json& play) {
  Json doc = worlds::bare();
  doc["project"]["beats_per_minute"] = 120;
  doc["shots"][0]["screen_time"] = 2.0;
  doc["shots"][0]["play"] = play;
  doc["shots"][0]["tracks"] = Json::array(
      {{{"target", "camera.focus"}, {"profile", "linear"}, {"keys", {{0, 0.9}, {0.7, 0.8}, {90, 0.7}}}}});
  return doc;
}
std::vector<Cue> cues_of(const Json& doc) {
  const Project project = worlds::read(doc);
  const auto cues = cue_list(project, *project.shots[0]);
  EXPECT_TRUE(cues) << cues.error().text();
  return cues ? *cues : std::vector<Cue>{};
}

class CueTrack : public testing::Test {
 protected:
  void SetUp() override {
    std::string name = (fs::temp_directory_path() / "cinnabar-cues-XXXXXX").string();
    folder_ = ::mkdtemp(name.data());
  }
  void TearDown() override { fs::remove_all(folder_); }
  [[nodiscard]] std::string at(const std::string& name) const { return (folder_ / name).string(); }
  fs::path folder_;
};

struct Sound {
  SF_INFO info{};
  std::vector<short> samples;
  std::vector<std::uint32_t> points;
};
Sound read_back(const std::string& path) {
  Sound sound;
  SNDFILE* in = sf_open(path.c_str(), SFM_READ, &sound.info);
  EXPECT_NE(in, nullptr) << sf_strerror(nullptr);
  if (!in) return sound;
  sound.samples.resize(static_cast<std::size_t>(sound.info.frames));
  EXPECT_EQ(sf_readf_short(in, sound.samples.data(), sound.info.frames), sound.info.frames);
  SF_CUES cues{};
  if (sf_command(in, SFC_GET_CUE, &cues, sizeof cues) == SF_TRUE)
    for (std::uint32_t k = 0; k < cues.cue_count; ++k) sound.points.push_back(cues.cue_points[k].sample_offset);
  sf_close(in);
  return sound;
}
/// Samples at which something is heard after 50 ms of near silence.
std::vector<long> onsets(const std::vector<short>& samples) {
  std::vector<long> at;
  long quiet = 1'000'000;
  for (std::size_t i = 0; i < samples.size(); ++i) {
    const bool loud = std::abs(samples[i]) > 3000;
    if (loud && quiet > 2400) at.push_back(static_cast<long>(i));
    quiet = loud ? 0 : quiet + 1;
  }
  return at;
}

// Own behaviour; read with libsndfile. By hand: counts at 0, 0.5, 1, 1.5 s; the start at 2, the key at 2.7, the
// end at 4 s, times 48,000.
TEST_F(CueTrack, MarksLieOnTheirSamples) {
  const auto cues = cues_of(shot_with({{0, 1.0}}));
  ASSERT_EQ(cues.size(), 7u);
  EXPECT_EQ(cues[4].what, "start, camera.focus") << "one mark for what comes together";
  const auto written = write_cue_track(at("cues.wav"), cues);
  ASSERT_TRUE(written) << written.error().text();
  EXPECT_EQ(std::distance(fs::directory_iterator(folder_), {}), 1) << "nothing is left beside it";
  const Sound sound = read_back(at("cues.wav"));
  EXPECT_EQ(sound.info.format & SF_FORMAT_TYPEMASK, SF_FORMAT_WAV);
  EXPECT_EQ(sound.info.samplerate, 48000);
  EXPECT_EQ(sound.info.channels, 1);
  EXPECT_EQ(sound.info.format & SF_FORMAT_SUBMASK, SF_FORMAT_PCM_16);
  EXPECT_EQ(sound.info.frames, static_cast<sf_count_t>(4.5 * 48000));
  const std::vector<long> by_hand{0, 24000, 48000, 72000, 96000, 129600, 192000};
  EXPECT_EQ(onsets(sound.samples), by_hand);
  EXPECT_EQ(std::vector<long>(sound.points.begin(), sound.points.end()), by_hand);
}

// Own behaviour. A shot that plays at half speed for its two seconds takes one second of the set: counts a second
// apart, and a key at 0.7 s of the set.
TEST_F(CueTrack, GoesByTheClockOfTheSet) {
  const auto slow = cues_of(shot_with({{0, 0.5}}));
  ASSERT_EQ(slow.size(), 7u);
  EXPECT_EQ(slow[1].at, 1.0);
  EXPECT_EQ(slow[4].at, 4.0);
  EXPECT_NEAR(slow[5].at, 4.7, 1e-12);
  EXPECT_NEAR(slow[6].at, 5.0, 1e-9);
  // From real time down to half over a second: by the integral of dt / (1 - t / 2) that is 2 ln 2 s on screen; the
  // rest of its two seconds goes by at half the pace.
  const auto ramped = cues_of(shot_with({{0, 1.0}, {1, 0.5}}));
  EXPECT_NEAR(ramped.back().at, 4.0 + 1.0 + 0.5 * (2.0 - 2.0 * std::log(2.0)), 1e-9);
}

// Source: free fall, t = sqrt(2 h / g), from 0.3 m less half a drop of 4 mm on to the ground.
TEST_F(CueTrack, EffectsAreHeardWhenTheyHappen) {
  Json doc = shot_with({{0, 1.0}});
  doc["shots"][0]["effects"] = Json::array({{{"id", "d"},
                                             {"kind", "drop"},
                                             {"name", "Drop"},
                                             {"at", 0.25},
                                             {"place", {0.4, 0.3, 0.2}},
                                             {"diameter", 0.004}}});
  const auto cues = cues_of(doc);
  const auto heard = [&](const std::string& what) {
    for (const Cue& cue : cues)
      if (cue.what.find(what) != std::string::npos) return cue.at;
    return -1.0;
  };
  EXPECT_NEAR(heard("Drop: release"), 2.25, 1e-9);
  EXPECT_NEAR(heard("Drop: contact"), 2.25 + std::sqrt(2.0 * (0.3 - 0.002) / 9.80665), 1e-9);
}

// Own behaviour: what cannot be is said.
TEST_F(CueTrack, WhatIsTooLongOrEmptyIsRefused) {
  Json doc = shot_with({{0, 0.001}});
  EXPECT_EQ(cues_of(doc).size(), 5u) << "two thousandths of a second of the set";
  doc["shots"][0]["play"] = {{0, 1000.0}};
  const Project project = worlds::read(doc);
  const auto long_one = cue_list(project, *project.shots[0]);
  ASSERT_FALSE(long_one);
  EXPECT_NE(long_one.error().text().find("20 minutes"), std::string::npos);
  EXPECT_FALSE(write_cue_track(at("no.wav"), {}));
  EXPECT_FALSE(write_cue_track("/no/such/folder/cues.wav", {{CueKind::end, 1.0, "end"}}));
  EXPECT_FALSE(write_cue_track(at("no.wav"), {{CueKind::end, 1e9, "far"}}));
  EXPECT_FALSE(write_cue_track(at("no.wav"), {{CueKind::end, std::nan(""), "never"}}));
  EXPECT_FALSE(write_cue_track(at("no.wav"), {{CueKind::key, -1.0, "before"}, {CueKind::end, 2.0, "end"}}));
  EXPECT_TRUE(fs::is_empty(folder_));
}

}  // namespace
}  // namespace cinnabar
