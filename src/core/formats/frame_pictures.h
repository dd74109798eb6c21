// Frames of the spot as the camera would record them, one after another.
#pragma once
#include <atomic>
#include <cstdint>
#include <memory>
#include <optional>
#include <vector>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// A moment of the film: which shot it shows, at which second of it on screen, and which moment of the set is
/// recorded there, by whole frames of the camera's rate.
struct FilmFrame {
  std::size_t shot;
  double screen, set;
};
/// The frame that a shot shows at a second of its time on screen, before its end.
[[nodiscard]] FilmFrame film_frame(const Project& project, std::size_t shot, double screen);

struct FrameForm {
  int width = 640, height = 360;
  int passes = 1;  ///< of each picture; where nothing moves they add up to 16
  int ways = 4;    ///< that a place looks for what others give it; 1 is quick and noisy
};

/// Traces and filters pictures of frames. The picture is filled by the largest part of the recording that has its
/// shape, within the crop of the edit. A shot that stands still is traced once, and goes on with each of its
/// frames. For one thread; tracing itself takes all cores. The project has to outlive it.
class FramePictures {
 public:
  using Bytes = std::vector<std::uint8_t>;  ///< 8-bit sRGB, three bytes a pixel from the top left
  FramePictures(const Project& project, const FrameForm& form, const std::atomic<bool>* cancel);
  FramePictures(const FramePictures&) = delete;
  FramePictures& operator=(const FramePictures&) = delete;
  ~FramePictures();
  /// Nothing when it was cancelled, or the shot has no camera.
  [[nodiscard]] std::optional<Bytes> of(const FilmFrame& frame);

 private:
  struct Tracing;
  std::unique_ptr<Tracing> tracing_;
};

}  // namespace cinnabar
