// The spot as a film before it is shot: every frame as the camera would record it, with the marks of its moments.
#pragma once
#include <atomic>
#include <functional>
#include <optional>
#include <string>

#include "cinnabar/base/result.h"
#include "cinnabar/formats/frame_pictures.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

struct AnimaticOptions {
  int width = 640, height = 360;
  std::optional<double> rate;       ///< pictures a second; left out, the timeline's
  std::optional<std::size_t> shot;  ///< one alone
  int passes = 1;                   ///< of each picture, 1 to 64; where nothing moves they add up to 16
  std::string of;                   ///< the project's JSON: pictures kept of another are not gone on from
  std::function<void(long done, long all)> progress;
  const std::atomic<bool>* cancel = nullptr;
};
struct AnimaticMade {
  long frames = 0, traced = 0;  ///< traced: not kept from a try before
  double seconds = 0;           ///< of the film
};

/// Frame `k` of the film; nothing past its end.
[[nodiscard]] std::optional<FilmFrame> animatic_frame(const Project& project, const AnimaticOptions& options,
                                                      long k);

/// Writes MP4 (H.264, AAC) or WebM (VP9, Opus) by the name's ending. The picture is filled by the largest part of
/// the recording that has its shape, within the crop of the edit. Heard are beats, cuts and what happens in
/// effects. Stopped, it leaves its pictures beside the film (NAME.frames) and goes on from them when it is asked
/// for the same again; done, they are taken away.
[[nodiscard]] Expected<AnimaticMade> write_animatic(const Project& project, const std::string& path,
                                                    const AnimaticOptions& options);

}  // namespace cinnabar
