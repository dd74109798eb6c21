#include "cinnabar/formats/cue_track.h"

#include <sndfile.h>

#include <algorithm>
#include <cmath>
#include <memory>

#include "cinnabar/base/files.h"
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
      return {beat_hertz, 0.020, 0.45};
    case CueKind::start:
      return {cut_hertz, 0.080, 0.60};
    case CueKind::key:
      return {1174.7, 0.015, 0.35};
    case CueKind::event:
      return {event_hertz, 0.030, 0.45};
    case CueKind::end:
      return {440.0, 0.120, 0.60};
  }
  return {};
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
      if (at >= 0.0 && at <= end) moments.push_back({CueKind::key, start + at, track.target});
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

std::vector<float> sound_of(const std::vector<Cue>& cues) {
  double last = 0;
  for (const Cue& cue : cues) last = std::max(last, cue.at);
  std::vector<float> sound(static_cast<std::size_t>(std::llround((last + tail) * cue_rate)));
  for (const Cue& cue : cues) add_mark(sound, cue_rate, cue.at, tone_of(cue.kind));
  return sound;
}

}  // namespace

Expected<void> write_cue_track(const std::string& path, const std::vector<Cue>& cues) {
  // The counts come before, slow ones for up to a minute.
  const auto within = [](const Cue& cue) { return cue.at >= 0.0 && cue.at <= longest + 60.0; };
  if (cues.empty() || !std::all_of(cues.begin(), cues.end(), within))
    return fail("the cue track", "has no cues, or some outside of 20 minutes", "give the cues of a shot",
                Fault::input);
  auto beside = FileBeside::at(path);
  if (!beside) return tl::unexpected(beside.error());
  SF_INFO info{};
  info.samplerate = cue_rate, info.channels = 1, info.format = SF_FORMAT_WAV | SF_FORMAT_PCM_16;
  const auto not_written = [&](const char* why) {
    return fail(path, std::string("could not be written (") + why + ")",
                "check the folder, its permissions and the room on the disk", Fault::output);
  };
  std::unique_ptr<SNDFILE, int (*)(SNDFILE*)> out(sf_open(beside->beside().c_str(), SFM_WRITE, &info), sf_close);
  if (!out) return not_written(sf_strerror(nullptr));
  SF_CUES points{};
  for (const Cue& cue : cues) {
    if (points.cue_count == std::size(points.cue_points)) break;  // as many as the library takes
    SF_CUE_POINT& point = points.cue_points[points.cue_count];
    point.indx = static_cast<std::int32_t>(++points.cue_count);
    point.position = point.sample_offset = static_cast<std::uint32_t>(std::llround(cue.at * cue_rate));
    point.fcc_chunk = 0x61746164;  // "data"
  }
  sf_command(out.get(), SFC_SET_CUE, &points, sizeof points);
  const std::vector<float> sound = sound_of(cues);
  const auto size = static_cast<sf_count_t>(sound.size());
  if (sf_writef_float(out.get(), sound.data(), size) != size) return not_written(sf_strerror(out.get()));
  if (const int code = sf_close(out.release()); code != 0) return not_written(sf_error_number(code));
  return beside->keep();
}

}  // namespace cinnabar
