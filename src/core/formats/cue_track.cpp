#include "cinnabar/formats/cue_track.h"

#include <sndfile.h>

#include <algorithm>
#include <cmath>
#include <cstring>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/formats/sound_marks.h"
#include "cinnabar/scene/effects_staged.h"

namespace cinnabar {
namespace {

constexpr double together = 0.010, longest = 1200.0, tail = 0.5;  // seconds
constexpr int counts = 4;

/// A start is not mistaken for a key.
Tone tone_of(CueKind kind) {
  switch (kind) {
    case CueKind::count:
      return {880.0, 0.020, 0.45};
    case CueKind::start:
      return {1760.0, 0.080, 0.60};
    case CueKind::key:
      return {1174.7, 0.015, 0.35};
    case CueKind::event:
      return {2637.0, 0.030, 0.45};
    case CueKind::end:
      return {440.0, 0.120, 0.60};
  }
  return {};
}

std::string track_words(const Project& project, const Shot& shot, const std::string& target) {
  if (!target.starts_with("light.")) return target;
  const Setup* setup = by_id(project.setups, shot.setup);
  const std::string id = target.substr(6, target.rfind('.') - 6), what = target.substr(target.rfind('.') + 1);
  for (const Light& light : setup ? setup->lights : std::vector<Light>{})
    if (light.id == id) return name_or(light.name, light.id) + " " + what;
  return target;
}

}  // namespace

Expected<std::vector<Cue>> cue_list(const Project& project, const Shot& shot) {
  const double end = shot.set_time();
  if (!(end <= longest))
    return fail(name_or(shot.name, shot.id), "takes over 20 minutes on the set",
                "give it fewer seconds on screen, or a slower play", Fault::input);
  const auto [slowest, quickest] = shot.clock.speed_span(0.0, end);
  const bool as_recorded = std::abs(slowest - 1.0) < 1e-9 && std::abs(quickest - 1.0) < 1e-9;
  const double count = as_recorded && project.beats_per_minute ? std::min(15.0, 60.0 / *project.beats_per_minute)
                                                               : 1.0,
               start = counts * count;
  std::vector<Cue> moments{{CueKind::start, start, said("start")}, {CueKind::end, start + end, said("end")}};
  for (const KeyedTrack& track : shot.tracks)
    for (const auto& [at, value] : track.keys)
      if (at >= 0.0 && at <= end)
        moments.push_back({CueKind::key, start + at, track_words(project, shot, track.target)});
  for (const ToldEffect& told : told_effects(project, shot)) {
    if (!told.outcome) return tl::unexpected(told.outcome.error());
    for (const EffectEvent& event : told.outcome->events)
      if (event.at >= 0.0 && event.at <= end)
        moments.push_back(
            {CueKind::event, start + event.at, effect_name(*told.effect) + ": " + in_words(event.name.c_str())});
  }
  // At one moment the start and the end are heard first, then events, then keys.
  const auto rank = [](const Cue& cue) {
    return cue.kind == CueKind::start || cue.kind == CueKind::end ? 0 : cue.kind == CueKind::event ? 1 : 2;
  };
  std::stable_sort(moments.begin(), moments.end(), [](const Cue& a, const Cue& b) { return a.at < b.at; });
  std::vector<Cue> cues;
  for (int k = 0; k < counts; ++k) cues.push_back({CueKind::count, k * count, said("count {}", k + 1)});
  for (std::size_t i = 0; i < moments.size();) {
    std::size_t last = i, first = i;
    std::string what;
    for (; last < moments.size() && moments[last].at - moments[i].at <= together; ++last)
      if (rank(moments[last]) < rank(moments[first])) first = last;
    for (std::size_t k = i; k < last; ++k)
      if (what.find(moments[k].what) == std::string::npos) what += (what.empty() ? "" : ", ") + moments[k].what;
    cues.push_back({moments[first].kind, moments[first].at, what});
    i = last;
  }
  return cues;
}

namespace {

/// A file in memory, for the library that writes it.
struct InMemory {
  std::string bytes;
  std::size_t at = 0;

  static SF_VIRTUAL_IO calls() {
    return {[](void* user) { return static_cast<sf_count_t>(self(user).bytes.size()); },
            [](sf_count_t offset, int whence, void* user) {
              InMemory& file = self(user);
              const sf_count_t from = whence == SEEK_CUR   ? static_cast<sf_count_t>(file.at)
                                      : whence == SEEK_END ? static_cast<sf_count_t>(file.bytes.size())
                                                           : 0;
              file.at = static_cast<std::size_t>(std::max<sf_count_t>(0, from + offset));
              return static_cast<sf_count_t>(file.at);
            },
            [](void* to, sf_count_t count, void* user) {
              InMemory& file = self(user);
              const std::size_t there = file.at < file.bytes.size() ? file.bytes.size() - file.at : 0,
                                taken = std::min(static_cast<std::size_t>(count), there);
              if (taken > 0) std::memcpy(to, file.bytes.data() + file.at, taken);
              file.at += taken;
              return static_cast<sf_count_t>(taken);
            },
            [](const void* from, sf_count_t count, void* user) {
              InMemory& file = self(user);
              const auto size = static_cast<std::size_t>(count);
              if (file.bytes.size() < file.at + size) file.bytes.resize(file.at + size);
              std::memcpy(file.bytes.data() + file.at, from, size);
              file.at += size;
              return count;
            },
            [](void* user) { return static_cast<sf_count_t>(self(user).at); }};
  }

 private:
  static InMemory& self(void* user) { return *static_cast<InMemory*>(user); }
};

std::vector<float> sound_of(const std::vector<Cue>& cues) {
  double last = 0;
  for (const Cue& cue : cues) last = std::max(last, cue.at);
  std::vector<float> sound(static_cast<std::size_t>(std::llround((last + tail) * cue_rate)));
  for (const Cue& cue : cues) add_mark(sound, cue_rate, cue.at, tone_of(cue.kind));
  return sound;
}

}  // namespace

Expected<std::string> cue_track(const std::vector<Cue>& cues) {
  // The counts come before, slow ones for up to a minute.
  const auto within = [](const Cue& cue) { return cue.at >= 0.0 && cue.at <= longest + 60.0; };
  if (cues.empty() || !std::all_of(cues.begin(), cues.end(), within))
    return fail("the cue track", "has no cues, or some outside of 20 minutes", "give the cues of a shot",
                Fault::input);
  InMemory file;
  SF_VIRTUAL_IO calls = InMemory::calls();
  SF_INFO info{};
  info.samplerate = cue_rate, info.channels = 1, info.format = SF_FORMAT_WAV | SF_FORMAT_PCM_16;
  SNDFILE* out = sf_open_virtual(&calls, SFM_WRITE, &info, &file);
  if (!out)
    return fail("the cue track", std::string("cannot be made (") + sf_strerror(nullptr) + ")", "try again");
  SF_CUES points{};
  for (const Cue& cue : cues) {
    if (points.cue_count == std::size(points.cue_points)) break;  // as many as the library takes
    SF_CUE_POINT& point = points.cue_points[points.cue_count];
    point.indx = static_cast<std::int32_t>(++points.cue_count);
    point.position = point.sample_offset = static_cast<std::uint32_t>(std::llround(cue.at * cue_rate));
    point.fcc_chunk = 0x61746164;  // "data"
  }
  sf_command(out, SFC_SET_CUE, &points, sizeof points);
  const std::vector<float> sound = sound_of(cues);
  const sf_count_t written = sf_writef_float(out, sound.data(), static_cast<sf_count_t>(sound.size()));
  const bool whole = written == static_cast<sf_count_t>(sound.size()) && sf_close(out) == 0;
  if (!whole) return fail("the cue track", "could not be made whole", "try again");
  return std::move(file.bytes);
}

}  // namespace cinnabar
