// What is heard on the set while a shot is recorded: counted in, then a mark for every moment that hands or motors
// have to meet.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/base/result.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

enum class CueKind { count, start, key, event, end };
struct Cue {
  CueKind kind;
  double at;         ///< seconds from the beginning of the track
  std::string what;  ///< "count 1", "turntable", "Honey: lands"; several at one moment are one cue, commas between
};

/// The moments of a shot by its set clock, after four counts: on the beat where the shot plays as it is recorded
/// and the spot has a tempo, else a second apart. Keys of tracks outside the shot are left out; moments within 10
/// ms are one. Fails where an effect cannot be worked out, and where the shot takes over 20 minutes on the set.
[[nodiscard]] Expected<std::vector<Cue>> cue_list(const Project& project, const Shot& shot);

inline constexpr int cue_rate = 48000;  ///< samples a second

/// Writes the list as sound: RIFF WAVE, 16 bits, one channel, each mark beginning on its very sample; the marks
/// stand in the file as cue points too.
[[nodiscard]] Expected<void> write_cue_track(const std::string& path, const std::vector<Cue>& cues);

}  // namespace cinnabar
